import type { ProofResult } from '#contracts/api'
import type { AcceptanceTest } from '#core/prove'
import type { FlagState } from '~/ui/StatusFlag.vue'
import { usePlan } from '~/stores/plan'
import { useSite } from '~/stores/site'
import { testWords, type TestWords } from '~/wording/proof'

export interface ProofLine {
  readonly test: AcceptanceTest
  readonly words: TestWords
  readonly result: ProofResult | null
  /** Recorded, and the server has not heard of it yet. */
  readonly isWaiting: boolean
  readonly flag: FlagState
  readonly says: string
}

/** How far a test is, as a flag and in a word. */
const TRIED = {
  not: { flag: 'bare', says: 'not tried' },
  passed: { flag: 'full', says: 'proven' },
  failed: { flag: 'cut', says: 'failed' },
} as const

/** Every acceptance test with its newest result, in the order they are best tried. */
export function useProofLines() {
  const plan = usePlan()
  const site = useSite()
  const lines = computed((): ProofLine[] => {
    const proof = site.proof
    const document = plan.saved?.plan
    if (!proof || !document) return []
    const results = new Map(proof.results.map((r) => [r.testId, r]))
    return proof.tests.map((test) => {
      const result = results.get(test.id) ?? null
      const tried = result?.passed ? TRIED.passed : TRIED.failed
      return {
        test,
        words: testWords(test, document),
        result,
        isWaiting: site.waitingResults.has(test.id),
        ...(result === null ? TRIED.not : tried),
      }
    })
  })
  const counts = computed(() => ({
    all: lines.value.length,
    proven: lines.value.filter((l) => l.result?.passed).length,
    failed: lines.value.filter((l) => l.result && !l.result.passed).length,
  }))
  return { lines, counts }
}
