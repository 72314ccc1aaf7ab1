import type { Passphrase } from '#contracts/api'
import { api } from './api'
import { usePlan } from './plan'

/** What the server says of the passphrases that it keeps for the open site; none of them is told with it. */
export const useKeptPassphrases = defineStore('passphrases', () => {
  const plan = usePlan()
  const kept = shallowRef<readonly Passphrase[]>([])
  async function read(): Promise<void> {
    const { slug } = plan
    if (slug === '') return
    const answer = await api<Passphrase[]>('GET', `sites/${slug}/passphrases`)
    if (answer.ok && plan.slug === slug) kept.value = answer.value
  }
  watch(
    () => plan.slug,
    () => (kept.value = []),
  )
  return { kept, read }
})
