import { api } from '~/stores/api'
import { useMissingPart } from '~/stores/missing-part'
import { isUnanswered } from '~/stores/retry'

// A part of the application that cannot be fetched: after an upgrade the page is loaded anew; without a network
// one stays where one is, or comes to the field cards, and is told.

export default defineNuxtPlugin((nuxtApp) => {
  const router = useRouter()
  const missing = useMissingPart()
  const errors = new Set<unknown>()
  const isServerThere = async (): Promise<boolean> => {
    const answer = await api('GET', 'health')
    return answer.ok || !isUnanswered(answer.status)
  }
  nuxtApp.hook('app:chunkError', async ({ error }) => {
    errors.add(error)
    missing.isMissing = !(await isServerThere())
  })
  router.onError(async (error, to, from) => {
    if (!errors.has(error)) return
    errors.clear()
    if (await isServerThere()) return reloadNuxtApp({ path: to.fullPath })
    missing.isMissing = true
    const [, site] = /^\/sites\/([^/]+)\//.exec(to.path) ?? []
    if (from.matched.length === 0) await router.replace(site ? `/sites/${site}/field-cards` : '/field')
  })
})
