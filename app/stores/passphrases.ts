import type { Passphrase } from '#contracts/api'
import { api } from './api'
import { usePlan } from './plan'

/** What the server says of the passphrases that it keeps for the open site; none of them is told with it. */
export const usePassphraseList = defineStore('passphrases', () => {
  const plan = usePlan()
  const kept = shallowRef<readonly Passphrase[]>([])
  /** Somebody has asked: of another site it is read as well. */
  let isWanted = false
  async function read(): Promise<void> {
    isWanted = true
    const { slug } = plan
    if (slug === '') return
    const answer = await api<Passphrase[]>('GET', `sites/${slug}/passphrases`)
    if (answer.ok && plan.slug === slug) kept.value = answer.value
  }
  watch(
    () => plan.slug,
    () => {
      kept.value = []
      if (isWanted) void read()
    },
  )
  return { kept, read }
})
