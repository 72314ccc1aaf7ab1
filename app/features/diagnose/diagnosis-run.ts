import type { DiagnoseAnswer, DiagnoseRequest } from '#contracts/worker'
import type { Observed } from '#core/diagnose'
import type { AcceptanceTest } from '#core/prove'
import { useDiagnosis, type SeenTest } from '~/stores/diagnosis'
import { usePlan } from '~/stores/plan'
import { useSite } from '~/stores/site'

/** What each acceptance test shows: as it was said here, or else as it was recorded last. */
export function useSeenTests() {
  const plan = usePlan()
  const site = useSite()
  const told = useDiagnosis()
  watch(
    () => plan.slug,
    (slug) => told.open(slug),
    { immediate: true },
  )
  const tests = computed(() => site.proof?.tests ?? [])
  function recorded(id: string): SeenTest {
    const passed = site.passed.get(id)
    if (passed === undefined) return 'unknown'
    return passed ? 'passed' : 'failed'
  }
  const seenOf = (id: string): SeenTest => told.changed.get(id) ?? recorded(id)
  const say = (id: string, seen: SeenTest) => (told.changed = new Map(told.changed).set(id, seen))
  const observed = computed((): Observed[] =>
    tests.value
      .filter((test) => seenOf(test.id) !== 'unknown')
      .map((test) => ({ testId: test.id, passed: seenOf(test.id) === 'passed' })),
  )
  return { tests, seenOf, say, observed }
}

/** From the reach grid: what that cell's tests should show is taken as failed, to begin with. */
export function useTestsOfCell(tests: () => readonly AcceptanceTest[]): void {
  const told = useDiagnosis()
  const route = useRoute()
  const [from, to] = String(route.query['cell'] ?? '').split('>')
  watch(
    tests,
    (list) => {
      if (list.length === 0 || !from || !to || told.changed.size > 0) return
      told.changed = new Map(
        list
          .filter((t) => t.kind === 'passes' && t.from === from && t.to === to && t.under === '')
          .map((t) => [t.id, 'failed']),
      )
    },
    { immediate: true },
  )
}

/** Seeks explanations of what was seen, in a worker of its own that can be stopped. */
export function useDiagnosisRun(observed: () => readonly Observed[]) {
  const plan = usePlan()
  const told = useDiagnosis()
  const progress = ref<{ tried: number; of: number } | null>(null)
  const defect = ref('')
  let worker: Worker | undefined
  function stop(): void {
    worker?.terminate()
    worker = undefined
    progress.value = null
  }
  function take(answer: DiagnoseAnswer): void {
    if (answer.kind === 'progress') {
      progress.value = { tried: answer.tried, of: answer.of }
      return
    }
    if (answer.kind === 'diagnosed') told.found = answer.diagnosis
    if (answer.kind === 'defect') defect.value = answer.message
    stop()
  }
  function find(): void {
    if (!plan.draft) return
    stop()
    told.found = null
    defect.value = ''
    progress.value = { tried: 0, of: 1 }
    worker = new Worker(new URL('../../workers/diagnose.worker.ts', import.meta.url), { type: 'module' })
    worker.onmessage = (event: MessageEvent<DiagnoseAnswer>) => take(event.data)
    worker.postMessage({
      kind: 'diagnose',
      plan: plan.draft,
      observed: [...observed()],
      facts: [...told.facts],
      ignore: told.ignore,
    } satisfies DiagnoseRequest)
  }
  onBeforeUnmount(stop)
  watch([observed, () => told.facts], () => (told.found = null))
  return { progress, defect, stop, find }
}
