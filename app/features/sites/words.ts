import type { Standing } from '#contracts/answers'
import { count } from '~/wording/count'

// How a site stands, in few words: the first stage at which something is left.

const UNKNOWN = '…'

interface Left {
  readonly stage: string
  readonly left: string
}

/** Stages in their order, each with what is left of it; empty where nothing is. */
function leftOf(standing: Standing): readonly Left[] {
  const { hasUplink, facts, blockers, isEmpty, wrong, isScheduled, devices, adopted, tests, proven } =
    standing
  const planned = blockers > 0 ? count(blockers, 'blocker') : isEmpty && 'not complete yet'
  const missing = facts > 0 ? `${count(facts, 'fact')} missing` : ''
  return [
    { stage: 'Brief', left: hasUplink ? missing : 'no uplink yet' },
    { stage: 'Plan', left: planned || '' },
    { stage: 'Rehearse', left: wrong > 0 ? `${count(wrong, 'pair')} not as intended` : '' },
    { stage: 'Stage', left: isScheduled ? '' : 'nobody named, or no first day' },
    { stage: 'Adopt', left: adopted < devices ? `${devices - adopted} of ${count(devices, 'device')}` : '' },
    {
      stage: 'Prove',
      left: tests === 0 || proven < tests ? `${tests - proven} of ${count(tests, 'test')}` : '',
    },
  ]
}

const first = (standing: Standing): Left =>
  leftOf(standing).find(({ left }) => left !== '') ?? { stage: 'Hand over', left: 'the papers' }

export const stageWords = (standing: Standing | null | undefined): string =>
  standing ? first(standing).stage : UNKNOWN

export const leftWords = (standing: Standing | null | undefined): string =>
  standing ? first(standing).left : UNKNOWN

export function findingWords(standing: Standing | null | undefined): string {
  if (!standing) return UNKNOWN
  const { blockers, warnings, isEmpty } = standing
  const told = [
    ...(blockers > 0 ? [count(blockers, 'blocker')] : []),
    ...(warnings > 0 ? [count(warnings, 'warning')] : []),
  ]
  // Of a plan in which little stands nothing can be said yet.
  return told.join(', ') || (isEmpty ? 'none yet' : 'none')
}

export function provenWords(standing: Standing | null | undefined): string {
  if (!standing) return UNKNOWN
  return standing.tests === 0 ? 'no tests yet' : `${standing.proven} of ${standing.tests}`
}
