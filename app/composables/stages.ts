import { STUCK, type AdoptionState } from '#core/adopt'
import { missingFacts } from '#core/brief'
import { isNothing } from '#core/filter'
import type { Finding } from '#core/findings'
import type { ReachabilityMatrix } from '#core/reachability'
import type { PennantState } from '~/components/PennantMark.vue'
import { useAnalysis } from '~/stores/analysis'
import { usePlan } from '~/stores/plan'
import { useSite } from '~/stores/site'
import { useNow } from './now'
import { count, tally } from '~/wording/findings'

// The seven stages as the mast shows them: what each sheet is called, where it is, and how the stage stands.

export interface Sheet {
  readonly key: string
  readonly name: string
  /** Null for what is not yet part of Able Mast. */
  readonly path: string | null
  /** Key after `g`. */
  readonly letter: string
}

export interface Stage {
  readonly key: string
  readonly name: string
  readonly built: boolean
  readonly sheets: readonly Sheet[]
  readonly pennant: PennantState
  readonly line: string
}

export const NOT_YET = 'not yet part of Able Mast'
const sheet = (key: string, name: string, letter = '', path: string | null = key): Sheet => ({
  key,
  name,
  letter,
  path,
})
const later = (name: string): Sheet => sheet(name, name, '', null)

export const STAGE_SHEETS: readonly {
  readonly key: string
  readonly name: string
  readonly sheets: readonly Sheet[]
}[] = [
  {
    key: 'brief',
    name: 'Brief',
    sheets: [sheet('brief', 'Facts', 'b'), sheet('equipment', 'Equipment', 'e')],
  },
  {
    key: 'plan',
    name: 'Plan',
    sheets: [
      sheet('addresses', 'Addresses', 'a'),
      sheet('loom', 'Loom', 'l'),
      sheet('cables', 'Cables', 'c'),
      sheet('power', 'Power', 'w'),
      sheet('uplinks', 'Uplinks', 'u'),
      later('Air'),
      sheet('tunnels', 'Tunnels', 'n'),
      sheet('rules', 'Rules', 's'),
    ],
  },
  {
    key: 'rehearse',
    name: 'Rehearse',
    sheets: [
      sheet('reach', 'Reach grid', 'r'),
      sheet('weather', 'Weather table', 't'),
      sheet('files', 'Device files', 'f'),
    ],
  },
  { key: 'stage', name: 'Stage', sheets: [] },
  { key: 'adopt', name: 'Adopt', sheets: [sheet('roster', 'Roster', 'o')] },
  {
    key: 'prove',
    name: 'Prove',
    sheets: [sheet('prove', 'Acceptance tests', 'p'), sheet('diagnose', 'Diagnose', 'd')],
  },
  { key: 'hand-over', name: 'Hand over', sheets: [sheet('hand-over', 'As-built papers', 'h')] },
]
/** Sheets outside the order of work. */
export const REVISIONS: Sheet = sheet('revisions', 'Revisions', 'v')
export const BUILT_SHEETS: readonly Sheet[] = [
  ...STAGE_SHEETS.flatMap((s) => s.sheets).filter((s) => s.path !== null),
  REVISIONS,
]

type Standing = Pick<Stage, 'pennant' | 'line'>

/** How the brief stands. */
function briefing(facts: number): Standing {
  return facts === 0
    ? { pennant: 'full', line: 'complete' }
    : { pennant: 'half', line: `${count(facts, 'fact')} missing` }
}
function planning(findings: readonly Finding[] | undefined): Standing {
  if (!findings) return { pennant: 'bare', line: 'computing' }
  const blocked = findings.some((f) => f.severity === 'blocker')
  return { pennant: blocked ? 'half' : 'outline', line: tally(findings) }
}
function rehearsing(matrix: ReachabilityMatrix | undefined): Standing {
  const cells = matrix?.cells.filter((c) => c.judged)
  if (!cells) return { pennant: 'bare', line: 'computing' }
  const right = cells.filter((c) => isNothing(c.missing) && isNothing(c.unexpected)).length
  const line = `${right} of ${cells.length} as intended`
  return { pennant: right === cells.length ? 'outline' : 'cut', line }
}
function adopting(states: readonly AdoptionState[] | undefined): Standing {
  if (!states) return { pennant: 'bare', line: 'reading' }
  const done = states.filter((s) => s === 'in-sync').length
  const line = `${done} of ${states.length} in sync`
  if (states.some((s) => STUCK.includes(s))) return { pennant: 'half', line }
  return { pennant: done === states.length ? 'full' : 'outline', line }
}
/** @param results of each test, the newest; undefined where there is none */
function proving(results: readonly (boolean | undefined)[] | undefined): Standing {
  if (!results) return { pennant: 'bare', line: 'reading' }
  const good = results.filter((passed) => passed === true).length
  const bad = results.filter((passed) => passed === false).length
  const line = `${good} of ${results.length} proven${bad > 0 ? `, ${bad} failed` : ''}`
  if (bad > 0) return { pennant: 'cut', line }
  if (good === results.length) return { pennant: 'full', line }
  return { pennant: good > 0 ? 'outline' : 'bare', line }
}
const handing = (proof: Standing): Standing =>
  proof.pennant === 'full' ? { pennant: 'full', line: 'ready' } : { pennant: 'half', line: 'waits for Prove' }

export function useStages() {
  const analysis = useAnalysis()
  const plan = usePlan()
  const site = useSite()
  const nowMs = useNow()
  const facts = computed(() => (plan.draft ? missingFacts(plan.draft).length : 0))

  const stages = computed((): Stage[] => {
    if (!plan.draft) return []
    const proof = proving(site.proof?.tests.map((t) => site.passed.get(t.id)))
    const standing: Readonly<Record<string, Standing>> = {
      brief: briefing(facts.value),
      plan: planning(analysis.analysis?.findings),
      rehearse: rehearsing(analysis.analysis?.grid),
      adopt: adopting(site.roster?.rows.map((row) => site.stateOf(row, nowMs.value))),
      prove: proof,
      'hand-over': handing(proof),
    }
    return STAGE_SHEETS.map((stage) => ({
      ...stage,
      built: stage.sheets.length > 0,
      ...(standing[stage.key] ?? { pennant: 'bare' as const, line: NOT_YET }),
    }))
  })
  return { stages }
}
