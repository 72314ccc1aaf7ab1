import { STUCK, type AdoptionState } from '#core/adopt'
import { lacksOf, missingFacts } from '#core/brief'
import type { Finding } from '#core/findings'
import { isAgainstIntent, type ReachabilityMatrix } from '#core/reachability'
import type { Plan } from '#core/schema'
import type { FlagState } from '~/ui/StatusFlag.vue'
import { useAnalysis } from '~/stores/analysis'
import { usePlan } from '~/stores/plan'
import { useSite } from '~/stores/site'
import { STAGES } from './sheet'
import { sheetsOf } from './sheets'
import { useTimestamp } from '@vueuse/core'
import { count, tally } from '~/wording/findings'
import { lackWords } from '~/wording/lacks'

// The seven stages as the mast shows them: what each is called, which sheets it has, and how it stands.

/** A sheet within a stage. */
export interface Sheet {
  readonly key: string
  readonly name: string
}

export interface Stage {
  readonly key: string
  readonly name: string
  readonly sheets: readonly Sheet[]
  readonly flag: FlagState
  readonly line: string
}

type Standing = Pick<Stage, 'flag' | 'line'>

/** How the brief stands. */
function briefing(plan: Plan, facts: number): Standing {
  if (plan.uplinks.length === 0) return { flag: 'bare', line: 'no uplink yet' }
  return facts === 0
    ? { flag: 'full', line: 'complete' }
    : { flag: 'half', line: `${count(facts, 'fact')} missing` }
}
function planning(plan: Plan, findings: readonly Finding[] | undefined): Standing {
  if (!findings) return { flag: 'bare', line: 'computing' }
  const [lack] = lacksOf(plan)
  if (lack && findings.length === 0) return { flag: 'bare', line: `${lackWords([lack])} yet` }
  const blocked = findings.some((f) => f.severity === 'blocker')
  return { flag: blocked ? 'half' : 'outline', line: tally(findings) }
}
function rehearsing(matrix: ReachabilityMatrix | undefined): Standing {
  const cells = matrix?.cells.filter((cell) => cell.judged && !cell.isEmpty)
  if (!cells) return { flag: 'bare', line: 'computing' }
  if (cells.length === 0) return { flag: 'bare', line: 'nobody there yet' }
  const right = cells.filter((cell) => !isAgainstIntent(cell)).length
  const line = `${right} of ${cells.length} as intended`
  return { flag: right === cells.length ? 'outline' : 'cut', line }
}
/** How the work stands: whether anybody is named, and a first day agreed. */
function staging({ devices, work }: Plan): Standing {
  if (devices.length <= 1) return { flag: 'bare', line: 'nothing to do yet' }
  if (work.people.length === 0) return { flag: 'bare', line: 'nobody named yet' }
  return work.startDate === null
    ? { flag: 'half', line: 'no first day yet' }
    : { flag: 'outline', line: `from ${work.startDate}` }
}
function adopting(states: readonly AdoptionState[] | undefined): Standing {
  if (!states) return { flag: 'bare', line: 'reading' }
  if (states.length === 0) return { flag: 'bare', line: 'no devices yet' }
  const done = states.filter((s) => s === 'in-sync').length
  const line = `${done} of ${states.length} in sync`
  if (states.some((s) => STUCK.includes(s))) return { flag: 'half', line }
  return { flag: done === states.length ? 'full' : 'outline', line }
}
/** @param results of each test, the newest; undefined where there is none */
function proving(results: readonly (boolean | undefined)[] | undefined): Standing {
  if (!results) return { flag: 'bare', line: 'reading' }
  if (results.length === 0) return { flag: 'bare', line: 'no tests yet' }
  const good = results.filter((passed) => passed === true).length
  const bad = results.filter((passed) => passed === false).length
  const line = `${good} of ${results.length} proven${bad > 0 ? `, ${bad} failed` : ''}`
  if (bad > 0) return { flag: 'cut', line }
  if (good === results.length) return { flag: 'full', line }
  return { flag: good > 0 ? 'outline' : 'bare', line }
}
const handing = (proof: Standing): Standing =>
  proof.flag === 'full' ? { flag: 'full', line: 'ready' } : { flag: 'half', line: 'waits for Prove' }

export function useStages() {
  const analysis = useAnalysis()
  const plan = usePlan()
  const site = useSite()
  const nowMs = useTimestamp({ interval: 1000 })
  const facts = computed(() => (plan.draft ? missingFacts(plan.draft).length : 0))

  const stages = computed((): Stage[] => {
    if (!plan.draft) return []
    const proof = proving(site.proof?.tests.map((t) => site.passed.get(t.id)))
    const standing: Readonly<Record<string, Standing>> = {
      brief: briefing(plan.draft, facts.value),
      plan: planning(plan.draft, analysis.analysis?.findings),
      rehearse: rehearsing(analysis.analysis?.grid),
      stage: staging(plan.draft),
      adopt: adopting(site.roster?.rows.map((row) => site.stateOf(row, nowMs.value))),
      prove: proof,
      'hand-over': handing(proof),
    }
    return STAGES.map((stage) => {
      const sheets = [...sheetsOf(stage.key)]
      return { ...stage, sheets, ...(standing[stage.key] ?? { flag: 'bare', line: '' }) }
    })
  })
  return { stages }
}
