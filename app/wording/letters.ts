import { beforeUnplug } from '#core/brief'
import { testsOf } from '#core/prove'
import type { Plan } from '#core/schema'
import type { Letter } from '~/stores/outbox'
import { CHECKS } from './brief'
import { testWords } from './proof'

/** What a letter says, so that whoever wrote it knows it again. */
export function letterWords({ topic, body }: Letter, plan: Plan): string {
  if (topic === 'roster') return `serial ${body['serial']}`
  if (topic === 'proof') {
    const test = testsOf(plan).find((each) => each.id === body['testId'])
    const result = body['passed'] ? 'passed' : 'failed'
    return `${test ? testWords(test, plan).title : body['testId']}: ${result}, ${body['value'] || 'no reading'}`
  }
  const item = beforeUnplug(plan).find((each) => each.id === body['item'])
  const about = item?.about ? `${item.about}: ` : ''
  return `${item ? about + CHECKS[item.code] : body['item']}: ${body['done'] ? 'done' : 'not done'}`
}
