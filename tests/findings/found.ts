import { indexPlan } from '#core/queries'
import { analyse, withRepairs, type Finding } from '#core/findings'
import type { Plan } from '#core/schema'
import { site } from '../plans'
import type { Change } from './changes'

/** The findings of a plan, each with its mend where there is one. */
export function repaired(plan: Plan): readonly Finding[] {
  const index = indexPlan(plan)
  return withRepairs(index, analyse(index, []).findings)
}

const known = new Map<Change, readonly Finding[]>()
/** The findings of the small site after a change; each change is analysed once, whoever asks. */
export function findingsOf(change: Change): readonly Finding[] {
  const findings = known.get(change) ?? repaired(site(change))
  known.set(change, findings)
  return findings
}
