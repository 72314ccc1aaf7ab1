import type { FindingValues } from '#core/findings'
import { instantName } from '../instants'
import { stopWords } from '../stops'
import type { FindingWords, MendWords } from './words'

// What the findings of rules and intents say, and the buttons of their mends.

type Missing = Extract<FindingValues['P01'], { kind: 'missing' }>
function unmetTitle(values: Missing): string {
  const { under } = values
  if (!under) return 'An intent is not met'
  if (under.kind === 'rain') return 'An intent fails in heavy rain'
  return under.kind === 'down'
    ? `An intent fails with ${under.name} down`
    : `An intent fails on ${instantName(under.minute, under.schedules)}`
}

const when = (under: FindingValues['P01']['under']) =>
  under?.kind === 'instant' ? ` on ${instantName(under.minute, under.schedules)}` : ''

function danglingName(values: FindingValues['P07']): string {
  switch (values.thing) {
    case 'rule':
      return `Rule ${values.number}`
    case 'pair':
      return `Default ${values.number}`
    case 'intent':
      return `Intent “${values.name}”`
    case 'group':
      return `Group “${values.name}”`
  }
}

export const POLICY_WORDS = {
  P11: (values) =>
    values.kind === 'names'
      ? {
          title: `${values.network}: the name server does not answer`,
          what: `DHCP hands out ${values.server}. A question to UDP 53 there: ${stopWords(values.stop)}.`,
          why: 'Without names hardly anything that people type works.',
        }
      : {
          title: `${values.network}: the relay hears no server`,
          what: `What it asks of ${values.server} at UDP 67, or the answer, does not arrive.`,
          why: 'Nobody in that network gets a lease.',
        },
  F04: (values) =>
    values.kind === 'air'
      ? {
          title: `${values.ssid}: stations hear each other`,
          what: 'By the intents its people have the internet and nothing else, as guests have.',
          why:
            'One guest’s infected laptop then reaches the next one’s. Rules between networks do ' +
            'not meet what stays in the air.',
        }
      : {
          title: `${values.ssid}: kept apart in the air, let into ${values.to}`,
          what: `${values.services} passes, and no intent asks for it.`,
          why: 'Isolation at the radio keeps guests from each other, not from the site’s networks.',
        },
  P01: (values) =>
    values.kind === 'excess'
      ? {
          title: `${values.from} reach ${values.to} unasked`,
          what: `${values.services} passes${when(values.under)}.`,
          why: `No intent wants this${values.under ? ' then' : ''}.`,
        }
      : {
          title: unmetTitle(values),
          what: `${values.intent}.`,
          why: `Does not pass: ${values.services}.`,
        },
  P02: (values) => ({
    title: `Rule ${values.number} can never match`,
    what: `${values.note}.`,
    why: `Rule ${values.by} already decides all of it.`,
  }),
  P03: (values) => ({
    title: `Rule ${values.number}: ${values.service} never gets to it`,
    what: `Rule ${values.by} decides it first, and otherwise.`,
    why: 'One of the two is not what was meant.',
  }),
  P04: (values) => ({
    title: `Rule ${values.number} refuses one way only`,
    what: `${values.to} may still call ${values.from}: ${values.services}.`,
    why: 'No intent wants that either. Refuse both ways.',
  }),
  P05: (values) => ({
    title: `${values.from} reach what manages the site`,
    what: `${values.to}: ${values.services} passes.`,
    why: 'A guest needs one weak password to own the network.',
  }),
  P06: (values) => ({
    title: 'An intent that nothing can decide',
    what: `${values.intent}: nobody is in ${values.who}.`,
    why: 'It neither holds nor fails until somebody is.',
  }),
  P07: (values) => ({
    title: 'Names something that is not there',
    what: `${danglingName(values)}: ${values.what}.`,
    why: 'It does nothing as it stands.',
  }),
  P08: (values) => ({
    title: `${values.from} reach ${values.to} by IPv6`,
    what: `${values.services} passes that way and no intent wants it.`,
    why: 'Rules for IPv4 addresses meet no IPv6 packet, and nothing hides behind a translation.',
  }),
  P09: (values) => ({
    title: `Rule ${values.number} changes nothing`,
    what: `${values.note}.`,
    why: `Without it, ${[values.by === '' ? '' : `rule ${values.by}`, values.byDefault ? 'the default' : '']
      .filter((name) => name !== '')
      .join(' and ')} would decide the same.`,
  }),
  P10: (values) => ({
    title: `Rule ${values.number} speaks of nobody`,
    what: `${values.note}: no packet of this plan ${values.end === 'from' ? 'comes from' : 'goes to'} ${values.who}.`,
    why: 'An address that is leased, or outside every network, route and tunnel, is in no rule’s reach.',
  }),
} satisfies Partial<FindingWords>

export const POLICY_MENDS = {
  refuse: (values) =>
    `Refuse ${values.from} to ` +
    `${values.to}${values.services ? `, ${values.services}` : ''}${values.ipv6 ? ' by IPv6' : ''}, first ` +
    'of all',
  permit: (values) =>
    values.rules === 1
      ? `Add a rule for “${values.intent}” as number ${values.number}`
      : `Add ${values.rules} rules for “${values.intent}”`,
  'drop-service': (values) => `Take ${values.service} out of rule ${values.number}`,
  'drop-member': (values) => `Take ${values.what} out of ${values.group}`,
  'remove-rule': (values) => `Remove rule ${values.number}`,
  'remove-pair': (values) => `Remove default ${values.number}`,
  'remove-intent': (values) => `Remove “${values.intent}”`,
  'keep-apart': (values) => `Keep stations of ${values.ssid} apart`,
} satisfies Partial<MendWords>
