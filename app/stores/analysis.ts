import type { WorkerAnswer } from '#contracts/worker'
import { sortFindings, WIRED_CODES, type Analysis, type Finding } from '#core/findings'
import type { AlarmRun } from '#core/failover'
import type { Plan, Probe, Weather } from '#core/model'
import type { FlowChange, FlowRef, Lost, Walk } from '#core/reach'
import { keepAsking } from './analysis-worker'
import { usePlan } from './plan'

// Answers come from two workers at once: one for what the plan says by itself, which is quick, and one for the reach grid.
// The Lookout takes from each what it knows newest.

export const useAnalysis = defineStore('analysis', () => {
  const plan = usePlan()
  const weather = shallowRef<Weather>([])
  const whole = shallowRef<Analysis | null>(null)
  const wired = shallowRef<readonly Finding[] | null>(null)
  const defect = ref('')
  const tookMs = ref(0)
  const walks = new Map<number, (walk: Walk | null) => void>()
  const storms = new Map<number, (lost: readonly Lost[] | null) => void>()
  const differences = new Map<number, (flows: readonly FlowChange[] | null) => void>()
  const runs = new Map<number, (run: AlarmRun | null) => void>()

  const analysis = computed((): Analysis | null => {
    if (!whole.value || !wired.value) return whole.value
    return { ...whole.value, findings: sortFindings([...wired.value, ...whole.value.findings.filter((f) => !WIRED_CODES.test(f.code))]) }
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
        return
      case 'walked':
        walks.get(answer.number)?.(answer.walk)
        walks.delete(answer.number)
        return
      case 'stormed':
        storms.get(answer.number)?.(answer.lost)
        storms.delete(answer.number)
        return
      case 'different':
        differences.get(answer.number)?.(answer.flows)
        differences.delete(answer.number)
        return
      case 'alarmed':
        runs.get(answer.number)?.(answer.run)
        runs.delete(answer.number)
        return
      case 'defect':
        defect.value = answer.message
        runs.get(answer.number)?.(null)
        runs.delete(answer.number)
        differences.get(answer.number)?.(null)
        differences.delete(answer.number)
        walks.get(answer.number)?.(null)
        walks.delete(answer.number)
        storms.get(answer.number)?.(null)
        storms.delete(answer.number)
    }
  }
  const quick = keepAsking(hear)
  const thorough = keepAsking(hear)

  function walk(flow: FlowRef): Promise<Walk | null> {
    if (!plan.draft) return Promise.resolve(null)
    return new Promise((resolve) => {
      walks.set(thorough.send((number) => ({ kind: 'walk', number, weather: [...weather.value], flow })), resolve)
    })
  }

  /** What the intents lose in a weather, of the plan as the grid's worker knows it; `blind`: before any probe has noticed. */
  function storm(failed: Weather, blind = false): Promise<readonly Lost[] | null> {
    return new Promise((resolve) => {
      storms.set(thorough.send((number) => ({ kind: 'storm', number, weather: [...failed], blind })), resolve)
    })
  }

  /** Which flows opened and closed from one plan to another. */
  function difference(before: Plan, after: Plan): Promise<readonly FlowChange[] | null> {
    return new Promise((resolve) => {
      differences.set(thorough.send((number) => ({ kind: 'difference', number, before: JSON.parse(JSON.stringify(before)), after: JSON.parse(JSON.stringify(after)) })), resolve)
    })
  }

  /** A line that is well, played until it was taken for dead many times. */
  function alarms(probe: Probe, lossPct: number, seed: number): Promise<AlarmRun | null> {
    return new Promise((resolve) => {
      runs.set(thorough.send((number) => ({ kind: 'alarms', number, probe: structuredClone(toRaw(probe)), lossPct, seed })), resolve)
    })
  }

  watch(() => plan.draft, (draft) => {
    if (draft) quick.ask(draft, (number, news) => ({ kind: 'find', number, news }))
    else whole.value = wired.value = null
  }, { immediate: true })
  watch([() => plan.draft, weather], ([draft, sky]) => {
    if (draft) thorough.ask(draft, (number, news) => ({ kind: 'analyse', number, news, weather: [...sky] }))
  }, { immediate: true })
  watch(() => plan.slug, () => (weather.value = []))

  return { weather, analysis, defect, tookMs, walk, storm, difference, alarms }
})
