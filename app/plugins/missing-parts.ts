import { serverAnswers } from '~/stores/api'
import { useMissingPart } from '~/stores/missing-part'

// A part of the application that cannot be fetched: after an upgrade the page is loaded anew; without a network
// one stays where one is, or comes to the field cards, and is told.

export default defineNuxtPlugin((nuxtApp) => {
  const router = useRouter()
  const missing = useMissingPart()
  /** Whether somebody answers, by the error after which that was asked. */
  const asked = new Map<unknown, Promise<boolean>>()
  nuxtApp.hook('app:chunkError', async ({ error }) => {
    const answers = serverAnswers()
    asked.set(error, answers)
    missing.isMissing = !(await answers)
  })
  router.onError(async (error, to, from) => {
    const answers = asked.get(error)
    asked.clear()
    if (!answers) return
    if (await answers) return reloadNuxtApp({ path: to.fullPath })
    const [, site] = /^\/sites\/([^/]+)\//.exec(to.path) ?? []
    if (from.matched.length > 0) return
    await router.replace(site ? `/sites/${site}/field-cards` : '/field')
    // Where the first page is not there, an error of the server's is shown until the application has come to itself.
    await nuxtApp.runWithContext(() => clearError())
  })
})
