import { beforeUnplug } from '#core/brief'
import { testsOf } from '#core/prove'
import type { StepRecord } from '#contracts/api'
import type { Plan } from '#core/schema'
import type { QueuedWrite, RefusedWrite } from '~/stores/outbox'
import { STEP_STATES, titleOfId } from './activities'
import { CHECKS } from './brief'
import { reasonOf } from './problems'
import { testWords } from './proof'

/** What a write says, so that whoever wrote it knows it again. */
function writeWords({ topic, body }: QueuedWrite, plan: Plan): string {
  if (topic === 'roster') return `serial ${body['serial']}`
  if (topic === 'proof') {
    const test = testsOf(plan).find((each) => each.id === body['testId'])
    const result = body['passed'] ? 'passed' : 'failed'
    return `${test ? testWords(test, plan).title : body['testId']}: ${result}, ${body['value'] || 'no reading'}`
  }
  if (topic === 'photos') return `${titleOfId(plan, String(body['activityId']))}: a photograph`
  if (topic === 'steps')
    return `${titleOfId(plan, String(body['activityId']))}: ${STEP_STATES[body['state'] as StepRecord['state']]}`
  const item = beforeUnplug(plan).find((each) => each.id === body['item'])
  const about = item?.about ? `${item.about}: ` : ''
  return `${item ? about + CHECKS[item.code] : body['item']}: ${body['done'] ? 'done' : 'not done'}`
}

/** A write that had waited and was refused: what it said, and why. */
export const refusedWords = ({ write, problems }: RefusedWrite, plan: Plan): string =>
  `Not taken by the server: ${writeWords(write, plan)}. ${problems.map(reasonOf).join('; ')}.`
