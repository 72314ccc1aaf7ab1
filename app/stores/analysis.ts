import type { WorkerAnswer, WorkerRequest } from '#contracts/worker'
import {
  checkPassphrases,
  findingKey,
  sortFindings,
  WIRED_CODES,
  type Analysis,
  type Finding,
} from '#core/findings'
import type { AlarmRun } from '#core/failover'
import type { Plan, Probe, DeviceId } from '#core/schema'
import type { FailureScenario } from '#core/queries'
import type { RuleUsage } from '#core/filter'
import type {
  FlowChange,
  FlowRef,
  FlowText,
  ReachabilityMatrix,
  InsideCalls,
  IntentLoss,
  Walk,
} from '#core/reachability'
import { keepAsking } from './analysis-worker'
import { usePassphraseList } from './passphrases'
import { usePlan } from './plan'

// Answers come from two workers at once: one for what the plan says by itself, which is quick, and one for
// the reach grid.
// The Lookout takes from each what it knows newest.

/** Nothing typed for so long: then what takes longer is asked. */
const REPAIR_AFTER_MS = 400

export const useAnalysis = defineStore('analysis', () => {
  const plan = usePlan()
  const passphrases = usePassphraseList()
  const scenario = shallowRef<FailureScenario>([])
  const whole = shallowRef<Analysis | null>(null)
  const wired = shallowRef<readonly Finding[] | null>(null)
  const defect = ref('')
  /** What judges the plan is not kept in this browser, and nobody answers who has it. */
  const isUnloaded = ref(false)
  const tookMs = ref(0)
  /** Questions beside the queue, by number: who waits for the answer; null where it failed. */
  const asked = new Map<number, (answer: WorkerAnswer | null) => void>()

  let quiet: ReturnType<typeof setTimeout> | undefined

  const analysis = computed((): Analysis | null => {
    if (!whole.value) return null
    const { findings } = whole.value
    const ofPlan = wired.value
      ? [...wired.value, ...findings.filter((f) => !WIRED_CODES.test(f.code))]
      : findings
    const ofKept = plan.draft ? checkPassphrases(plan.draft, passphrases.kept) : []
    return { ...whole.value, findings: sortFindings([...ofPlan, ...ofKept]) }
  })

  function hear(answer: WorkerAnswer): void {
    switch (answer.kind) {
      case 'found':
        wired.value = answer.findings
        defect.value = ''
        return
      case 'analysis':
        whole.value = answer.analysis
        tookMs.value = answer.tookMs
        clearTimeout(quiet)
        quiet = setTimeout(() => void seekRepairs(answer.analysis), REPAIR_AFTER_MS)
        return
      case 'defect':
        defect.value = answer.message
        settle(answer.number, null)
        return
      default:
        settle(answer.number, answer)
    }
  }
  function settle(number: number, answer: WorkerAnswer | null): void {
    asked.get(number)?.(answer)
    asked.delete(number)
  }
  function tell(isLoaded: boolean): void {
    isUnloaded.value = !isLoaded
    // Nobody is left waiting for an answer that does not come.
    if (!isLoaded) for (const number of [...asked.keys()]) settle(number, null)
  }
  const quick = keepAsking(hear, tell)
  const thorough = keepAsking(hear, tell)

  /** Asks the grid's worker one thing; what it answers of that kind, or null. */
  function askOne<K extends WorkerAnswer['kind']>(
    kind: K,
    make: (number: number) => WorkerRequest,
  ): Promise<Extract<WorkerAnswer, { kind: K }> | null> {
    return new Promise((resolve) => {
      asked.set(thorough.send(make), (answer) =>
        resolve(answer?.kind === kind ? (answer as Extract<WorkerAnswer, { kind: K }>) : null),
      )
    })
  }

  /** Mends that take a trial are sought when nothing has been typed for a moment. */
  async function seekRepairs(of: Analysis): Promise<void> {
    const open = of.findings.filter((f) => f.mend === null && ['P01', 'P08'].includes(f.code))
    if (open.length === 0 || whole.value !== of) return
    const found =
      (await askOne('repaired', (number) => ({ kind: 'repair', number, findings: toRaw(open) })))?.findings ??
      []
    if (whole.value !== of || found.length === 0) return
    const mended = new Map(found.map((f) => [findingKey(f), f]))
    whole.value = { ...of, findings: of.findings.map((f) => mended.get(findingKey(f)) ?? f) }
  }

  async function walk(
    flow: FlowRef,
    ipv6 = false,
    under: FailureScenario = scenario.value,
    typed: FlowText | null = null,
  ): Promise<Walk | null> {
    return plan.draft
      ? ((
          await askOne('walked', (number) => ({
            kind: 'walk',
            number,
            scenario: [...under],
            flow: toRaw(flow),
            ipv6,
            typed,
          }))
        )?.walk ?? null)
      : null
  }

  /**
   * What the intents lose under a scenario, of the plan as the grid's worker knows it;
   * `blind`: before any probe has noticed.
   */
  async function impact(failed: FailureScenario, blind = false): Promise<readonly IntentLoss[] | null> {
    return (
      (await askOne('impact', (number) => ({ kind: 'impact', number, scenario: [...failed], blind })))
        ?.lost ?? null
    )
  }

  /** The grid under another scenario, of the plan as the grid's worker knows it. */
  async function gridUnder(failed: FailureScenario, ipv6 = false): Promise<ReachabilityMatrix | null> {
    return (
      (await askOne('gridded', (number) => ({ kind: 'grid', number, scenario: [...failed], ipv6 })))?.grid ??
      null
    )
  }

  /** Who inside reaches what is handed inside, by its outside address, under the scenario that is set. */
  async function calls(): Promise<readonly InsideCalls[]> {
    return (
      (await askOne('called', (number) => ({ kind: 'calls', number, scenario: [...scenario.value] })))
        ?.calls ?? []
    )
  }

  /** What the rules of a gateway are there for, of the plan as the grid's worker knows it. */
  async function hits(deviceId: DeviceId): Promise<readonly RuleUsage[]> {
    return (await askOne('hit', (number) => ({ kind: 'hits', number, deviceId })))?.hits ?? []
  }

  /** Which flows opened and closed from one plan to another. */
  async function difference(before: Plan, after: Plan): Promise<readonly FlowChange[] | null> {
    return (
      (
        await askOne('different', (number) => ({
          kind: 'difference',
          number,
          before: toRaw(before),
          after: toRaw(after),
        }))
      )?.flows ?? null
    )
  }

  /** A line that is well, played until it was taken for dead many times. */
  async function alarms(probe: Probe, lossPct: number, seed: number): Promise<AlarmRun | null> {
    return (
      (await askOne('alarmed', (number) => ({ kind: 'alarms', number, probe: toRaw(probe), lossPct, seed })))
        ?.run ?? null
    )
  }

  watch(
    () => plan.draft,
    (draft) => {
      if (draft) quick.ask(draft, (number, news) => ({ kind: 'find', number, news }))
      else whole.value = wired.value = null
    },
    { immediate: true },
  )
  watch(
    [() => plan.draft, scenario],
    ([draft, under]) => {
      if (draft)
        thorough.ask(draft, (number, news) => ({ kind: 'analyse', number, news, scenario: [...under] }))
    },
    { immediate: true },
  )
  watch(
    () => plan.slug,
    () => (scenario.value = []),
  )

  return {
    scenario,
    analysis,
    defect,
    isUnloaded,
    tookMs,
    walk,
    impact,
    gridUnder,
    calls,
    hits,
    difference,
    alarms,
  }
})
