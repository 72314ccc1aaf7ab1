import type { Plan } from '#core/schema'
import type { AcceptanceTest } from '#core/prove'
import { namesIn } from './reach'

export interface TestWords {
  readonly title: string
  readonly expect: string
}

/** What to try, and what must be seen. */
export function testWords(test: AcceptanceTest, plan: Plan): TestWords {
  const names = namesIn(plan)
  switch (test.kind) {
    case 'lease':
      return { title: `${names.key(test.from)}: a client takes a lease`, expect: 'an address from the pool' }
    case 'nothing-else':
      return { title: `${names.key(test.from)}: nothing else passes`, expect: 'only what the intents name' }
    case 'failover':
      return {
        title: `${names.uplink(test.under)} is cut: the next line takes over`,
        expect: `traffic on the next line after at most ${test.withinS} s`,
      }
    case 'passes': {
      const intent = plan.intents.find((i) => i.id === test.intentId)
      const services = (intent?.services ?? [])
        .map((id) => plan.services.find((s) => s.id === id)?.name ?? id)
        .join(', ')
      const under = test.under === '' ? '' : `, with ${names.thing(test.under)} down`
      return {
        title: `${names.key(test.from)} to ${names.key(test.to)}${under}`,
        expect: `${services === '' ? test.services : `${services} (${test.services})`}. ${intent?.note ?? ''}`,
      }
    }
  }
}
