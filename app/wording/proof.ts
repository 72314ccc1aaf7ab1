import type { Plan } from '#core/schema'
import type { AcceptanceTest, LevelWanted, ReadingKind } from '#core/prove'
import { namesIn } from './names'

const dbm = (value: number): string => `${value.toFixed(1).replace('-', '−')} dBm`

export interface TestWords {
  readonly title: string
  readonly expect: string
}

/** What a result says, that it failed, and that it does so although it was recorded as passed. */
export function resultWords({ passed, contradicted, value }: ResultSeen): string {
  if (passed) return value || 'as it must be'
  const recorded = contradicted ? ', recorded as passed' : ''
  return `failed${recorded}: ${value || 'not as it must be'}`
}
type ResultSeen = Readonly<{ passed: boolean; contradicted: boolean; value: string }>

/** How what is measured is asked for: that it came, that it never did, and the figure. */
const READING: Readonly<
  Record<ReadingKind, Readonly<Record<'came' | 'never' | 'field' | 'example', string>>>
> = {
  seconds: {
    came: 'traffic came back',
    never: 'it never did',
    field: 'Seconds without traffic',
    example: '12',
  },
  level: {
    came: 'it was aimed to its highest level',
    never: 'nothing was heard',
    field: 'Level read',
    example: '-61 dBm',
  },
  address: {
    came: 'an address was taken',
    never: 'none was',
    field: 'Address taken',
    example: '10.61.2.83',
  },
}
export const readingWords = (kind: ReadingKind) => READING[kind]

/** Where an antenna is aimed, and what its radio is to show then. */
function levelTestWords(level: LevelWanted | null, plan: Plan): TestWords {
  const link = plan.links.find(({ id }) => id === level?.linkId)
  const nameOf = (id: string | undefined) =>
    plan.devices.find((device) => device.id === id)?.name ?? 'a radio'
  if (!level || link?.medium.kind !== 'radio') return { title: 'A radio link is aimed', expect: 'its level' }
  const [here, far] = level.end === 'a' ? [link.a, link.b] : [link.b, link.a]
  const { seen } = link.medium.radio.ends[level.end]
  const direction = seen === '' ? '' : `; seen in that direction: ${seen}`
  return {
    title: `${nameOf(here.deviceId)}: aimed at ${nameOf(far.deviceId)}`,
    expect: `${dbm(level.leastDbm)} or more at its peak${direction}`,
  }
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
        title: `${names.uplink(test.under)} is cut: the next uplink takes over`,
        expect: `traffic on the next uplink after at most ${test.withinS} s`,
      }
    case 'level':
      return levelTestWords(test.level, plan)
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
