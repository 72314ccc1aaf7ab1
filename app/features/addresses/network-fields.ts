import { formatIpv4, parseIpv4, parsePrefix4, parsePrefix6, parseRange4 } from '#core/address'
import { isDomain } from '#core/format'
import type { Network } from '#core/schema'
import { orNull, problem } from '#core/util'
import type { PlanDraft } from '~/stores/plan'
import { reasons, wordsIn } from '~/ui/columns'
import { numberBetween, type TypedField } from '~/ui/typed-fields'

export type NetworkPart = 'dhcp' | 'clients' | 'ipv6'
export type NetworkDraft = PlanDraft['networks'][number]
/** Writes into the network, as one step to undo for each field; `words` name it. */
export type PutNetwork = (words: string, recipe: (network: NetworkDraft) => void) => void

const ranges = (text: string): string[] =>
  text
    .split(/[,;\n]+/)
    .map((range) => range.trim())
    .filter((range) => range !== '')
const homeOf = (network: Network) => orNull(parsePrefix4(network.subnet)) ?? undefined

interface FieldOf {
  readonly key: string
  readonly name: string
  readonly hint?: string
  readonly read: (network: Network) => string
  readonly check: (text: string, network: Network) => ReturnType<TypedField['check']>
  readonly write: (draft: NetworkDraft, text: string) => void
}

const addresses = (key: 'dns' | 'ntp', name: string, hint?: string): FieldOf => ({
  key,
  name,
  ...(hint !== undefined && { hint }),
  read: (network) => network.options[key].join(' '),
  check: (text) => wordsIn(text).flatMap((word) => reasons(parseIpv4(word))),
  write: (draft, text) => void (draft.options[key] = wordsIn(text)),
})

const LEASE: readonly FieldOf[] = [
  {
    key: 'relayTo',
    name: 'Relay to',
    hint: 'only for relay: a fixed address of this plan',
    read: (network) => network.relayTo ?? '',
    check: (text) => (text === '' ? [] : reasons(parseIpv4(text))),
    write: (draft, text) => void (draft.relayTo = text === '' ? null : text),
  },
  {
    key: 'lease',
    name: 'Lease, h',
    read: (network) => String(network.leaseS / 3600),
    check: numberBetween(0.1, 8760),
    write: (draft, text) => void (draft.leaseS = Math.round(Number(text) * 3600)),
  },
  {
    key: 'exclusions',
    name: 'Not handed out',
    hint: 'ranges inside the pool, as .120-.129',
    read: (network) => network.exclusions.map(({ from, to }) => `${from}-${to}`).join(', '),
    check: (text, network) =>
      ranges(text).flatMap((range) => reasons(parseRange4(range, '', homeOf(network)))),
    write: (draft, text) =>
      void (draft.exclusions = ranges(text).flatMap((range) => {
        const read = orNull(parseRange4(range, '', homeOf(draft)))
        return read ? [{ from: formatIpv4(read.from), to: formatIpv4(read.to) }] : []
      })),
  },
]
const OPTIONS: readonly FieldOf[] = [
  addresses('dns', 'Name servers', 'empty: the gateway itself'),
  addresses('ntp', 'Time servers'),
  {
    key: 'domain',
    name: 'Domain',
    read: (network) => network.options.domain,
    check: (text) => (text === '' || isDomain(text) ? [] : [problem('not-a-domain', '', { text })]),
    write: (draft, text) => void (draft.options.domain = text),
  },
  {
    key: 'controller',
    name: 'Controller',
    hint: 'told to devices that look for one',
    read: (network) => network.options.controller?.address ?? '',
    check: (text) => (text === '' ? [] : reasons(parseIpv4(text))),
    write: (draft, text) =>
      void (draft.options.controller =
        text === '' ? null : { option: draft.options.controller?.option ?? 143, address: text }),
  },
]
const CLIENTS: readonly FieldOf[] = [
  {
    key: 'growth',
    name: 'Growth, %',
    read: (network) => String(network.growthPct),
    check: numberBetween(0, 1000, true),
    write: (draft, text) => void (draft.growthPct = Number(text)),
  },
  {
    key: 'arrivals',
    name: 'Arrive in a busy hour',
    read: (network) => String(network.arrivalsPerH ?? ''),
    check: numberBetween(0, 1_000_000, true),
    write: (draft, text) => void (draft.arrivalsPerH = text === '' ? null : Number(text)),
  },
  {
    key: 'stay',
    name: 'Stay, h',
    read: (network) => String(network.stayH ?? ''),
    check: numberBetween(0, 8784, true),
    write: (draft, text) => void (draft.stayH = text === '' ? null : Number(text)),
  },
]
const IPV6: readonly FieldOf[] = [
  {
    key: 'prefix6',
    name: 'IPv6 prefix',
    hint: 'usually a /64',
    read: (network) => network.prefix6 ?? '',
    check: (text) => (text === '' ? [] : reasons(parsePrefix6(text))),
    write: (draft, text) => void (draft.prefix6 = text === '' ? null : text),
  },
]
const FIELDS: Readonly<Record<NetworkPart, readonly FieldOf[]>> = {
  dhcp: [...LEASE, ...OPTIONS],
  clients: CLIENTS,
  ipv6: IPV6,
}

/** The fields of one part of a network's detail. */
export const networkFields = (part: NetworkPart, network: Network, put: PutNetwork): TypedField[] =>
  FIELDS[part].map((field) => ({
    key: field.key,
    name: field.name,
    mono: true,
    ...(field.hint !== undefined && { hint: field.hint }),
    read: () => field.read(network),
    check: (text) => field.check(text, network),
    write: (text) => put(`${field.key} ${text}`, (draft) => field.write(draft, text)),
  }))
