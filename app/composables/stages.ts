import { STUCK } from '#core/adopt'
import { missingFacts } from '#core/brief'
import { isNothing } from '#core/filter'
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

export function useStages() {
  const analysis = useAnalysis()
  const plan = usePlan()
  const site = useSite()
  const nowMs = useNow()

  const facts = computed(() => (plan.draft ? missingFacts(plan.draft).length : 0))
  function briefing(): Standing {
    return facts.value === 0
      ? { pennant: 'full', line: 'complete' }
      : { pennant: 'half', line: `${count(facts.value, 'fact')} missing` }
  }
  function planning(): Standing {
    const findings = analysis.analysis?.findings
    if (!findings) return { pennant: 'bare', line: 'computing' }
    return {
      pennant: findings.some((f) => f.severity === 'blocker') ? 'half' : 'outline',
      line: tally(findings),
    }
  }
  function rehearsing(): Standing {
    const cells = analysis.analysis?.grid.cells.filter((c) => c.judged)
    if (!cells) return { pennant: 'bare', line: 'computing' }
    const right = cells.filter((c) => isNothing(c.missing) && isNothing(c.unexpected)).length
    return {
      pennant: right === cells.length ? 'outline' : 'cut',
      line: `${right} of ${cells.length} as intended`,
    }
  }
  function adopting(): Standing {
    const roster = site.roster
    if (!roster) return { pennant: 'bare', line: 'reading' }
    const states = roster.rows.map((r) => site.stateOf(r, nowMs.value))
    const done = states.filter((s) => s === 'in-sync').length
    const stuck = states.some((s) => STUCK.includes(s))
    const line = `${done} of ${states.length} in sync`
    if (stuck) return { pennant: 'half', line }
    return { pennant: done === states.length ? 'full' : 'outline', line }
  }
  function proving(): Standing {
    const tests = site.proof?.tests
    if (!tests) return { pennant: 'bare', line: 'reading' }
    const good = tests.filter((t) => site.passed.get(t.id) === true).length
    const bad = tests.filter((t) => site.passed.get(t.id) === false).length
    const line = `${good} of ${tests.length} proven${bad > 0 ? `, ${bad} failed` : ''}`
    if (bad > 0) return { pennant: 'cut', line }
    if (good === tests.length) return { pennant: 'full', line }
    return { pennant: good > 0 ? 'outline' : 'bare', line }
  }
  function handing(proof: Standing): Standing {
    return proof.pennant === 'full'
      ? { pennant: 'full', line: 'ready' }
      : { pennant: 'half', line: 'waits for Prove' }
  }

  const stages = computed((): Stage[] => {
    if (!plan.draft) return []
    const proof = proving()
    const standing: Readonly<Record<string, Standing>> = {
      brief: briefing(),
      plan: planning(),
      rehearse: rehearsing(),
      adopt: adopting(),
      prove: proof,
      'hand-over': handing(proof),
    }
    return STAGE_SHEETS.map((sheet) => ({
      ...sheet,
      built: sheet.sheets.length > 0,
      ...(standing[sheet.key] ?? { pennant: 'bare' as const, line: NOT_YET }),
    }))
  })
  return { stages }
}
