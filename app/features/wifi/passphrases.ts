import type { KeptPassphrase, ShownPassphrase } from '#contracts/api'
import { isPassphrase } from '#core/format'
import { judgedPassphrase, type PassphraseVerdict } from '#core/wifi'
import { problem, type Problem } from '#core/util'
import { api, type Answer } from '~/stores/api'
import { usePassphraseList } from '~/stores/passphrases'
import { usePlan } from '~/stores/plan'
import { codeOf } from '~/ui/qr-code'

export interface Shown extends ShownPassphrase {
  readonly ssidId: string
  /** The code by which a telephone joins, as SVG. */
  readonly code: string
}

/** Passphrases that the server keeps for a site's SSIDs: told only when somebody asks, which is noted. */
export function usePassphrases() {
  const plan = usePlan()
  const store = usePassphraseList()
  const { read } = store
  const kept = computed(() => store.kept)
  const shown = shallowRef<Shown | null>(null)
  const problems = shallowRef<readonly Problem[]>([])
  const sameAs = ref<readonly string[]>([])
  const path = () => `sites/${plan.slug}/passphrases`
  function taken<T>(answer: Answer<T>): T | null {
    problems.value = answer.ok ? [] : answer.refusal.problems
    return answer.ok ? answer.value : null
  }
  /** True where it is kept; null: one is generated. */
  async function set(ssid: string, passphrase: string | null): Promise<boolean> {
    if (passphrase !== null && !isPassphrase(passphrase)) {
      problems.value = [problem('not-a-passphrase', '')]
      return false
    }
    await plan.flush()
    shown.value = null
    const answer = taken(await api<KeptPassphrase>('POST', path(), { ssid, passphrase }))
    sameAs.value = answer?.sameAs ?? []
    await read()
    return answer !== null
  }
  async function show(ssid: string): Promise<void> {
    await plan.flush()
    const answer = taken(await api<ShownPassphrase>('POST', `${path()}/show`, { ssid }))
    shown.value = answer && { ...answer, ssidId: ssid, code: await codeOf(answer.joinText) }
    await read()
  }
  onMounted(read)
  return { kept, shown, problems, sameAs, set, show }
}

/** How hard a typed passphrase is to guess; null while nothing that could be one is typed, or the estimator comes. */
export function usePassphraseVerdict(text: () => string, known: () => readonly string[]) {
  const verdict = shallowRef<PassphraseVerdict | null>(null)
  watch(text, async (typed) => {
    if (!isPassphrase(typed)) {
      verdict.value = null
      return
    }
    const { guessesOf } = await import('#contracts/guesses')
    if (typed === text()) verdict.value = judgedPassphrase(typed, guessesOf(typed, known()))
  })
  return verdict
}
