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
import { isSameName, ok, orNull, problem, refuse, type Problem, type Result } from '#core/util'
import { renumberVlan } from '#core/edit'
import type { Device, Network, Plan, StaticAssignment } from '#core/schema'
import { usePlan, type PlanDraft } from '~/stores/plan'
import {
  among,
  asTyped,
  checkName,
  checkNumber,
  columnsOver,
  judged,
  name,
  orNothing,
  reasons,
  useColumns,
  whole,
  type Column,
  type Put,
} from '~/ui/columns'

// The tables of the Addresses sheet.

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

const NOTHING = ['', '-', '—', 'none']
const DHCP: readonly Network['dhcp'][] = ['serve', 'relay', 'none']

type NetworkDraft = PlanDraft['networks'][number]
const ofNetwork = columnsOver<Network, NetworkDraft>()
const saying = (what: string) => (text: string, row: Network) => `${row.name}: ${what}${text}`

function poolOf(text: string, network: Network): Result<Network['pool']> {
  if (NOTHING.includes(text)) return ok(null)
  const range = parseRange4(text, '', homeOf(network))
  return range.ok ? ok({ from: formatIpv4(range.value.from), to: formatIpv4(range.value.to) }) : range
}
function poolWords(text: string, network: Network): string {
  const pool = orNull(poolOf(text, network))
  return `${network.name}: pool ${pool ? `${pool.from} to ${pool.to}` : 'none'}`
}

const NETWORK_COLUMNS = [
  ofNetwork({
    key: 'name',
    head: 'Network',
    strong: true,
    read: (n) => n.name,
    parse: name,
    write: (n, text) => void (n.name = text),
    words: (text, row) => `${row.name} renamed ${text}`,
  }),
  ofNetwork({
    key: 'subnet',
    head: 'Subnet',
    mono: true,
    read: (n) => n.subnet,
    parse: asTyped(parsePrefix4),
    write: (n, text) => void (n.subnet = text),
    words: saying('subnet '),
  }),
  ofNetwork({
    key: 'gateway',
    head: 'Gateway',
    mono: true,
    read: (n) => n.gateway,
    parse: asTyped(parseIpv4),
    write: (n, text) => void (n.gateway = text),
    words: saying('gateway '),
  }),
  ofNetwork<Network['dhcp']>({
    key: 'dhcp',
    head: 'DHCP',
    read: (n) => n.dhcp,
    ...among(DHCP),
    write: (n, dhcp) => void (n.dhcp = dhcp),
    words: saying('DHCP '),
  }),
  ofNetwork({
    key: 'pool',
    head: 'Pool',
    mono: true,
    read: (n) => (n.pool ? `${shortAddress(n.pool.from, n)}–${shortAddress(n.pool.to, n)}` : '—'),
    edit: (n) => (n.pool ? `${n.pool.from}-${n.pool.to}` : ''),
    parse: poolOf,
    write: (n, pool) => void (n.pool = pool && { ...pool }),
    words: poolWords,
  }),
  ofNetwork({
    key: 'expected',
    head: 'Expected',
    num: true,
    mono: true,
    width: '76px',
    read: (n) => String(n.expected),
    parse: whole(0, 1_000_000),
    write: (n, value) => void (n.expected = value),
    words: (text, row) => `${row.name}: ${text} expected`,
  }),
]

function vlanTaken(plan: Plan | null, row: Network, text: string): readonly Problem[] {
  const other = plan?.networks.find((n) => n.id !== row.id && n.vlan === Number(text))
  return other ? [problem('vlan-taken', '', { text, other: other.name })] : []
}

/** The columns of the table of networks, and what typing into them does. */
export function useNetworkColumns(): readonly Column<Network>[] {
  const plan = usePlan()
  const put: Put<Network, NetworkDraft> = (row, session, words, recipe) =>
    plan.edit(words, session, (draft) => {
      const network = draft.networks.find((n) => n.id === row.id)
      if (network) recipe(network, draft)
    })
  // Another number goes with everything that names it.
  const vlan: Column<Network> = {
    key: 'vlan',
    head: 'VLAN',
    num: true,
    mono: true,
    width: '56px',
    get: (n) => String(n.vlan),
    check: (row, text) => [...checkNumber(text, 1, 4094), ...vlanTaken(plan.draft, row, text)],
    commit: (row, text, session) =>
      plan.change(`${row.name}: VLAN ${text}`, session, (now) => renumberVlan(now, row.id, Number(text))),
  }
  const thread: Column<Network> = { key: 'thread', head: '', get: () => '', width: '42px' }
  const fixed: Column<Network> = {
    key: 'fixed',
    head: 'Fixed',
    num: true,
    mono: true,
    width: '56px',
    get: (n) => String(n.fixed.length),
  }
  return useColumns([thread, vlan, ...NETWORK_COLUMNS, fixed], put)
}

/** What is shown where no IPv6 address is typed. */
const OWN_SIX = ['', '—', 'its own']
const HOW: readonly StaticAssignment['how'][] = ['static', 'reserved']

type AssignmentDraft = NetworkDraft['fixed'][number]
const ofAssignment = columnsOver<StaticAssignment, AssignmentDraft>()

/** An address of the network that it is fixed in. */
function addressIn(network: Network | undefined, text: string): Result<string> {
  const ip = parseIpv4(text)
  if (!ip.ok) return ip
  const subnet = network && homeOf(network)
  return subnet && !contains(subnet, ip.value)
    ? refuse(problem('address-outside', '', { text, subnet: network.subnet }))
    : ok(text)
}

const boxMac = ({ deviceId }: StaticAssignment, plan: Plan) =>
  deviceId === null ? null : plan.brief.equipment.find((box) => box.deviceId === deviceId)?.mac

/** Devices of a network that have no address there yet, and the one that a row is for. */
const unaddressed = (plan: Plan, home: Network | undefined, row: StaticAssignment): readonly Device[] =>
  plan.devices.filter(
    ({ id, homeNetworkId }) =>
      home !== undefined &&
      homeNetworkId === home.id &&
      (id === row.deviceId || !home.fixed.some(({ deviceId }) => deviceId === id)),
  )

/** @param homeOf the network whose addresses they are */
const assignmentColumns = (homeOf: (plan: Plan) => Network | undefined) => [
  ofAssignment({
    key: 'ip',
    head: 'Address',
    mono: true,
    width: '150px',
    read: (f) => f.ip,
    parse: (text, _, plan) => addressIn(homeOf(plan), text),
    write: (f, text) => void (f.ip = text),
    words: (text, row) => `${row.name}: ${text}`,
  }),
  ofAssignment({
    key: 'name',
    head: 'For',
    strong: true,
    offersOne: true,
    read: (f) => f.name,
    offers: (row, plan) => unaddressed(plan, homeOf(plan), row).map((device) => device.name),
    parse: (text, row, plan) => {
      const named = judged(text, checkName(text))
      const device = unaddressed(plan, homeOf(plan), row).find((other) => isSameName(other.name, text))
      return named.ok ? ok({ text: device?.name ?? text, deviceId: device?.id ?? null }) : named
    },
    write: (f, { text, deviceId }) => void Object.assign(f, { name: text, deviceId }),
    words: (text, row) => `${row.ip}: for ${text}`,
  }),
  ofAssignment<StaticAssignment['how']>({
    key: 'how',
    head: 'How',
    width: '110px',
    read: (f) => f.how,
    ...among(HOW),
    write: (f, how) => void (f.how = how),
    words: (text, row) => `${row.name}: ${text}`,
  }),
  ofAssignment({
    key: 'ip6',
    head: 'IPv6',
    mono: true,
    read: (f, plan) => f.ip6 ?? (homeOf(plan)?.mode6 === 'off' ? '—' : 'its own'),
    edit: (f) => f.ip6 ?? '',
    parse: (text, { how }) => {
      if (OWN_SIX.includes(text)) return ok(null)
      return how === 'static' ? judged(text, reasons(parseIpv6(text))) : refuse(problem('not-typed', ''))
    },
    write: (f, text) => void (f.ip6 = text),
    words: (text, row) => `${row.name}: IPv6 ${text}`,
  }),
  ofAssignment<string | null>({
    key: 'mac',
    head: 'MAC',
    mono: true,
    read: (f, plan) => f.mac ?? boxMac(f, plan) ?? '—',
    edit: (f) => f.mac ?? '',
    parse: orNothing(NOTHING, parseMac),
    write: (f, mac) => void (f.mac = mac),
    words: (text, row) => `${row.name}: MAC ${text}`,
  }),
]

/** The columns of one network's fixed addresses. */
export function useFixedColumns(networkId: () => string): readonly Column<StaticAssignment>[] {
  const plan = usePlan()
  const put: Put<StaticAssignment, AssignmentDraft> = (row, session, words, recipe) =>
    plan.edit(words, session, (draft) => {
      const fixed = draft.networks.find((n) => n.id === networkId())?.fixed.find((f) => f.id === row.id)
      if (fixed) recipe(fixed, draft)
    })
  return useColumns(
    assignmentColumns(({ networks }) => networks.find((n) => n.id === networkId())),
    put,
  )
}
