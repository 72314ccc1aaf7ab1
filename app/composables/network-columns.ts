import {
  contains,
  formatIpv4,
  parseIpv4,
  parseIpv6,
  parseMac,
  parsePrefix4,
  parseRange4,
  type Prefix4,
} from '#core/address'
import { orNull, problem, type Problem } from '#core/util'
import { renumberVlan, type StaticAssignment, type Network } from '#core/model'
import { checkChoice, checkName, checkNumber, reasons, type Column } from './columns'
import { usePlan, type PlanDraft } from '~/stores/plan'

const homeOf = (network: Network): Prefix4 | undefined => orNull(parsePrefix4(network.subnet)) ?? undefined

/**
 * An address as short as it can be said inside its subnet:
 * `.219`, or `.7.209` where the third octet varies.
 */
export function shortAddress(ip: string, network: Network): string {
  const home = homeOf(network)
  if (home && home.length >= 24) return `.${ip.split('.').slice(3).join('.')}`
  if (home && home.length >= 16) return `.${ip.split('.').slice(2).join('.')}`
  return ip
}

const POOL_NONE = ['', '-', '—', 'none']

/** The columns of the table of networks, and what typing into them does. */
export function useNetworkColumns(): readonly Column<Network>[] {
  const plan = usePlan()
  const change = (
    row: Network,
    session: string,
    words: string,
    recipe: (network: PlanDraft['networks'][number]) => void,
  ) =>
    plan.edit(words, session, (draft) => {
      const network = draft.networks.find((n) => n.id === row.id)
      if (network) recipe(network)
    })
  const vlanTaken = (row: Network, text: string): readonly Problem[] => {
    const other = plan.draft?.networks.find((n) => n.id !== row.id && n.vlan === Number(text))
    return other ? [problem('vlan-taken', '', { text, other: other.name })] : []
  }
  return [
    { key: 'thread', head: '', get: () => '', width: '42px' },
    {
      key: 'vlan',
      head: 'VLAN',
      num: true,
      mono: true,
      width: '56px',
      get: (n) => String(n.vlan),
      check: (row, text) => [...checkNumber(text, 1, 4094), ...vlanTaken(row, text)],
      commit: (row, text, session) =>
        plan.change(`${row.name}: VLAN ${text}`, session, (now) => renumberVlan(now, row.id, Number(text))),
    },
    {
      key: 'name',
      head: 'Network',
      strong: true,
      get: (n) => n.name,
      check: (_, text) => checkName(text),
      commit: (row, text, session) =>
        change(row, session, `${row.name} renamed ${text}`, (n) => void (n.name = text)),
    },
    {
      key: 'subnet',
      head: 'Subnet',
      mono: true,
      get: (n) => n.subnet,
      check: (_, text) => reasons(parsePrefix4(text)),
      commit: (row, text, session) =>
        change(row, session, `${row.name}: subnet ${text}`, (n) => void (n.subnet = text)),
    },
    {
      key: 'gateway',
      head: 'Gateway',
      mono: true,
      get: (n) => n.gateway,
      check: (_, text) => reasons(parseIpv4(text)),
      commit: (row, text, session) =>
        change(row, session, `${row.name}: gateway ${text}`, (n) => void (n.gateway = text)),
    },
    {
      key: 'dhcp',
      head: 'DHCP',
      get: (n) => n.dhcp,
      choices: () => DHCP,
      check: (_, text) => checkChoice(text, DHCP),
      commit: (row, text, session) =>
        change(row, session, `${row.name}: DHCP ${text}`, (n) => void (n.dhcp = text as Network['dhcp'])),
    },
    {
      key: 'pool',
      head: 'Pool',
      mono: true,
      get: (n) => (n.pool ? `${shortAddress(n.pool.from, n)}–${shortAddress(n.pool.to, n)}` : '—'),
      edit: (n) => (n.pool ? `${n.pool.from}-${n.pool.to}` : ''),
      check: (row, text) => (POOL_NONE.includes(text) ? [] : reasons(parseRange4(text, '', homeOf(row)))),
      commit: (row, text, session) => {
        const range = POOL_NONE.includes(text) ? null : parseRange4(text, '', homeOf(row))
        const pool = range?.ok ? { from: formatIpv4(range.value.from), to: formatIpv4(range.value.to) } : null
        change(
          row,
          session,
          `${row.name}: pool ${pool ? `${pool.from} to ${pool.to}` : 'none'}`,
          (n) => void (n.pool = pool),
        )
      },
    },
    {
      key: 'expected',
      head: 'Expected',
      num: true,
      mono: true,
      width: '76px',
      get: (n) => String(n.expected),
      check: (_, text) => checkNumber(text, 0, 1_000_000),
      commit: (row, text, session) =>
        change(row, session, `${row.name}: ${text} expected`, (n) => void (n.expected = Number(text))),
    },
    { key: 'fixed', head: 'Fixed', num: true, mono: true, width: '56px', get: (n) => String(n.fixed.length) },
  ]
}

const DHCP = ['serve', 'relay', 'none']

/** What is shown where no IPv6 address is typed. */
const OWN_SIX = ['', '—', 'its own']

/** The columns of one network's fixed addresses. */
export function useFixedColumns(networkId: () => string): readonly Column<StaticAssignment>[] {
  const plan = usePlan()
  const home = () => plan.draft?.networks.find((n) => n.id === networkId())
  const change = (
    row: StaticAssignment,
    session: string,
    words: string,
    recipe: (fixed: PlanDraft['networks'][number]['fixed'][number]) => void,
  ) =>
    plan.edit(words, session, (draft) => {
      const fixed = draft.networks.find((n) => n.id === networkId())?.fixed.find((f) => f.id === row.id)
      if (fixed) recipe(fixed)
    })
  const boxMac = (assignment: StaticAssignment) =>
    plan.draft?.brief.equipment.find(
      (b) => assignment.deviceId !== null && b.deviceId === assignment.deviceId,
    )?.mac
  const outside = (text: string): readonly Problem[] => {
    const ip = parseIpv4(text)
    const network = home()
    const subnet = network && homeOf(network)
    return ip.ok && network && subnet && !contains(subnet, ip.value)
      ? [problem('address-outside', '', { text, subnet: network.subnet })]
      : []
  }
  return [
    {
      key: 'ip',
      head: 'Address',
      mono: true,
      width: '150px',
      get: (f) => f.ip,
      check: (_, text) => [...reasons(parseIpv4(text)), ...outside(text)],
      commit: (row, text, session) => change(row, session, `${row.name}: ${text}`, (f) => void (f.ip = text)),
    },
    {
      key: 'name',
      head: 'For',
      strong: true,
      get: (f) => f.name,
      check: (_, text) => checkName(text),
      commit: (row, text, session) =>
        change(row, session, `${row.ip}: for ${text}`, (f) => void (f.name = text)),
    },
    {
      key: 'how',
      head: 'How',
      width: '110px',
      get: (f) => f.how,
      choices: () => ['static', 'reserved'],
      check: (_, text) => checkChoice(text, ['static', 'reserved']),
      commit: (row, text, session) =>
        change(
          row,
          session,
          `${row.name}: ${text}`,
          (f) => void (f.how = text === 'static' ? 'static' : 'reserved'),
        ),
    },
    {
      key: 'ip6',
      head: 'IPv6',
      mono: true,
      get: (f) => f.ip6 ?? (home()?.mode6 === 'off' ? '—' : 'its own'),
      edit: (f) => f.ip6 ?? '',
      check: (assignment, text) => {
        if (OWN_SIX.includes(text)) return []
        if (assignment.how === 'static') return reasons(parseIpv6(text))
        return [problem('not-typed', '')]
      },
      commit: (row, text, session) =>
        change(
          row,
          session,
          `${row.name}: IPv6 ${text}`,
          (f) => void (f.ip6 = OWN_SIX.includes(text) ? null : text),
        ),
    },
    {
      key: 'mac',
      head: 'MAC',
      mono: true,
      get: (f) => f.mac ?? boxMac(f) ?? '—',
      edit: (f) => f.mac ?? '',
      check: (_, text) => (POOL_NONE.includes(text) ? [] : reasons(parseMac(text))),
      commit: (row, text, session) =>
        change(
          row,
          session,
          `${row.name}: MAC ${text}`,
          (f) => void (f.mac = POOL_NONE.includes(text) ? null : orNull(parseMac(text))),
        ),
    },
  ]
}
