import {
  BLANK_SSID_SETTINGS,
  BLANK_FACTS,
  BLANK_FIXED,
  BLANK_IPSEC,
  BLANK_LINK,
  BLANK_NETWORK,
  BLANK_PORT,
  USUAL_SERVICES,
} from '#core/edit'
import type {
  CableRun,
  Device,
  Draft,
  DeviceKind,
  StaticAssignment,
  Intent,
  IpsecEnd,
  UplinkFacts,
  Link,
  Medium,
  Network,
  Port,
  PortMode,
  Rule,
  Selector,
  Service,
  DeviceId,
  Ssid,
  SsidSettings,
  SsidId,
} from '#core/schema'

// Short ways to write a demonstration plan; nothing here computes.
// What they make may still be changed.

/** A copy that may be changed. */
export const draft = <T>(value: T): Draft<T> => structuredClone(value) as Draft<T>

export const access = (vlan: number): Draft<PortMode> => ({ mode: 'access', vlan })
export const trunk = (native: number | null, ...tagged: number[]): Draft<PortMode> => ({
  mode: 'trunk',
  native,
  tagged,
})
export const plain: Draft<PortMode> = { mode: 'plain' }
export const off: Draft<PortMode> = { mode: 'off' }
export const wan: Draft<PortMode> = { mode: 'wan' }
export const radio: Draft<PortMode> = { mode: 'radio' }

const port = (name: string, mode: PortMode): Draft<Port> =>
  draft({ id: `p${name}`, name, mode, ...BLANK_PORT })
export const ports = (modes: Readonly<Record<string, PortMode>>): Draft<Port>[] =>
  Object.entries(modes).map(([name, mode]) => port(name, mode))

/** Ports 1 to n, off unless said otherwise. */
export const row = (count: number, modes: Readonly<Record<number, PortMode>>): Draft<Port>[] =>
  Array.from({ length: count }, (_, i) => port(String(i + 1), modes[i + 1] ?? off))

export const device = (
  id: string,
  name: string,
  kind: DeviceKind,
  model: string,
  place: string,
  homeNetworkId: string | null,
  list: readonly Port[],
  count = 1,
): Draft<Device> =>
  draft({
    id,
    name,
    kind,
    model,
    place,
    homeNetworkId,
    count,
    mains: false,
    stpPriority: null,
    ports: list,
  })

export const hosts = (
  id: string,
  name: string,
  place: string,
  homeNetworkId: string,
  count: number,
  portCount = count,
  model = '',
): Draft<Device> =>
  device(
    id,
    name,
    'hosts',
    model,
    place,
    homeNetworkId,
    row(portCount, Object.fromEntries(Array.from({ length: portCount }, (_, i) => [i + 1, plain]))),
    count,
  )

const end = (text: string) => {
  const [deviceId = '', portId = ''] = text.split(':')
  return { deviceId, portId: `p${portId}` }
}
export const link = (from: string, to: string, medium: Medium): Draft<Link> =>
  draft({
    id: `${from}-${to}`.replaceAll(':', '.'),
    a: end(from),
    b: end(to),
    medium,
    ...BLANK_LINK,
  })
export const cat6 = (lengthM: number, run: CableRun = 'indoor'): Draft<Medium> => ({
  kind: 'copper',
  category: 'Cat6',
  lengthM,
  run,
})
export const fibre = (
  grade: 'OM3' | 'OM4' | 'OS2',
  lengthM: number,
  run: CableRun = 'between',
): Draft<Medium> => ({
  kind: 'fibre',
  grade,
  lengthM,
  run,
})
/** What is known of a line; the rest nobody has found out. */
export const facts = (known: Partial<UplinkFacts> = {}): Draft<UplinkFacts> =>
  draft({ ...BLANK_FACTS, ...known })
export const wifi = (ssidId: SsidId, fourAddress = false): Draft<Medium> => ({
  kind: 'wifi',
  ssidId,
  fourAddress,
  suffix: '',
})
export const line: Draft<Medium> = { kind: 'line' }
/** An SSID by its Wi-Fi's usual settings, or those given. */
export const ssid = (
  fields: Omit<Draft<Ssid>, 'settings'>,
  settings: Partial<Draft<SsidSettings>> = {},
): Draft<Ssid> => ({
  ...fields,
  settings: { ...structuredClone(BLANK_SSID_SETTINGS as Draft<SsidSettings>), ...settings },
})

export const network = (
  id: string,
  vlan: number,
  name: string,
  subnet: string,
  gateway: string,
  pool: readonly [string, string] | null,
  expected: number,
  fixed: readonly StaticAssignment[] = [],
  routerId = 'gateway',
): Draft<Network> =>
  draft({
    id,
    vlan,
    name,
    subnet,
    gateway,
    routerId,
    dhcp: pool ? 'serve' : 'none',
    pool: pool && { from: pool[0], to: pool[1] },
    expected,
    fixed,
    ...BLANK_NETWORK,
  })
export const fixed = (
  ip: string,
  name: string,
  deviceId: DeviceId | null,
  how: StaticAssignment['how'] = 'static',
): Draft<StaticAssignment> =>
  draft({
    id: `at-${ip.replaceAll('.', '-')}`,
    ip,
    name,
    deviceId,
    how,
    ...BLANK_FIXED,
  })

type SelectorOf<Kind extends Selector['kind']> = Draft<Extract<Selector, { kind: Kind }>>
export const inNetwork = (id: string): SelectorOf<'network'> => ({ kind: 'network', id })
export const theDevice = (id: string): SelectorOf<'device'> => ({ kind: 'device', id })
export const inTunnel = (id: string): SelectorOf<'peer'> => ({ kind: 'peer', id })
export const internet: SelectorOf<'internet'> = { kind: 'internet' }
export const toGateway: SelectorOf<'gateway'> = { kind: 'gateway' }
export const inside: SelectorOf<'inside'> = { kind: 'inside' }

export const rule = (
  id: string,
  from: Selector,
  to: Selector,
  services: readonly string[],
  note: string,
  chain: Rule['chain'] = 'forward',
): Draft<Rule> =>
  draft({
    id,
    chain,
    action: 'accept',
    from,
    to,
    services,
    note,
    log: false,
    when: null,
  })
export const intent = (
  id: string,
  from: Selector,
  to: Selector,
  services: readonly string[],
  note: string,
  survives: readonly string[] = [],
): Draft<Intent> =>
  draft({
    id,
    from,
    to,
    services,
    survives,
    log: false,
    when: null,
    note,
  })

/** One end of an IPsec connection with what is advised today. */
export const ipsecEnd = (
  identity: string,
  address: string,
  subnets: readonly string[],
  starts: boolean,
): Draft<IpsecEnd> => draft({ ...BLANK_IPSEC, identity, address, subnets, starts })

export const SERVICES: readonly Service[] = [
  ...USUAL_SERVICES,
  { id: 'tide', name: 'Tide data', entries: [{ proto: 'tcp', from: 5020, to: 5020 }] },
  { id: 'video', name: 'Video', entries: [{ proto: 'tcp', from: 554, to: 554 }] },
  {
    id: 'calls',
    name: 'Calls',
    entries: [
      { proto: 'udp', from: 5060, to: 5060 },
      { proto: 'udp', from: 16384, to: 16482 },
    ],
  },
]
