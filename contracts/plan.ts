import { z } from 'zod'
import { parseIpv4, parseIpv6, parseMac, parsePrefix4, parsePrefix6, readInterface6 } from '#core/address'
import { ok, problem, refuse, type Problem, type Result } from '#core/util'
import {
  isEndpoint,
  isPublicKey,
  LEAST_RSRP,
  LEAST_SINR,
  minuteOf,
  MOST_RSRP,
  MOST_SINR,
  parseApn,
  parseSim,
  PLAN_FORMAT,
  PLAN_VERSION,
  upgradePlan,
  type Plan,
} from '#core/model'

// What a plan looks like when it is stored or handed over.
// Limits keep a hostile file from costing more than a look.

/** Largest plan file read, in bytes: a site of 100,000 fixed addresses takes some 25 MB. */
export const MOST_PLAN_BYTES = 40_000_000

const id = z
  .string()
  .min(1)
  .max(80)
  .regex(/^[A-Za-z0-9][A-Za-z0-9._~-]*$/, 'id')
const name = z.string().min(1).max(80)
const note = z.string().max(200)
const vid = z.number().int().min(1).max(4094)
const ip = z
  .string()
  .max(15)
  .refine((text) => parseIpv4(text).ok, 'ipv4')
const prefix = z
  .string()
  .max(18)
  .refine((text) => parsePrefix4(text).ok, 'prefix')
const metres = z.number().min(0).max(200_000)
const list = <T extends z.ZodType>(item: T, most: number) => z.array(item).max(most)

const mbps = z.number().int().min(1).max(1_000_000)
const watts = z.number().min(0).max(100_000)
const percent = z.number().min(0).max(1000)
const short = z.string().max(80)
const ips = list(ip, 8)
const ip6 = z
  .string()
  .max(39)
  .refine((text) => parseIpv6(text).ok, 'ipv6')
const prefix6 = z
  .string()
  .max(43)
  .refine((text) => parsePrefix6(text).ok, 'prefix6')
const mac = z
  .string()
  .max(17)
  .refine((text) => parseMac(text).ok, 'mac')
/** An address and the length of its subnet, with host bits: what an interface has. */
const faceAddress = z
  .string()
  .max(18)
  .refine((text) => {
    const [address = '', length = ''] = text.split('/')
    return parseIpv4(address).ok && /^\d{1,2}$/.test(length) && Number(length) <= 32
  }, 'prefix')
const faceAddress6 = z
  .string()
  .max(43)
  .refine((text) => readInterface6(text) !== null, 'prefix6')
/** A prefix of either family. */
const anyPrefix = z
  .string()
  .max(43)
  .refine((text) => parsePrefix4(text).ok || parsePrefix6(text).ok, 'prefix')
const range = z.strictObject({ from: ip, to: ip })

const portMode = z.discriminatedUnion('mode', [
  z.strictObject({ mode: z.literal('access'), vlan: vid }),
  z.strictObject({
    mode: z.literal('trunk'),
    native: vid.nullable(),
    tagged: z.union([z.literal('all'), list(vid, 4094)]),
  }),
  z.strictObject({ mode: z.literal('routed'), address: faceAddress, address6: faceAddress6.nullable() }),
  z.strictObject({ mode: z.literal('radio') }),
  z.strictObject({ mode: z.literal('wan') }),
  z.strictObject({ mode: z.literal('plain') }),
  z.strictObject({ mode: z.literal('off') }),
])

const kind = z.enum([
  'gateway',
  'switch',
  'unmanaged',
  'access-point',
  'bridge-radio',
  'extender',
  'modem',
  'controller',
  'injector',
  'hosts',
  'cloud',
])
const optic = z.enum(['1000BASE-SX', '1000BASE-LX10', '10GBASE-SR', '10GBASE-LR'])
const device = z.strictObject({
  id,
  name,
  kind,
  model: short,
  place: short,
  wants: id.nullable(),
  count: z.number().int().min(1).max(100_000),
  mains: z.boolean(),
  stpPriority: z.number().int().min(0).max(61_440).multipleOf(4096).nullable(),
  ports: list(
    z.strictObject({
      id,
      name,
      mode: portMode,
      speedMbps: mbps.nullable(),
      optic: optic.nullable(),
      poe: z.enum(['auto', 'off']),
    }),
    1024,
  ),
})

const portRef = z.strictObject({ deviceId: id, portId: id })
const run = z.enum(['indoor', 'outdoor', 'between'])
const medium = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('copper'),
    category: z.enum(['Cat5e', 'Cat6', 'Cat6A']),
    lengthM: metres,
    run,
  }),
  z.strictObject({ kind: z.literal('fibre'), grade: z.enum(['OM3', 'OM4', 'OS2']), lengthM: metres, run }),
  z.strictObject({ kind: z.literal('radio'), lengthM: metres }),
  z.strictObject({ kind: z.literal('wifi'), ssidId: id }),
  z.strictObject({ kind: z.literal('line') }),
])

const network = z.strictObject({
  id,
  name,
  vlan: vid,
  subnet: prefix,
  gateway: ip,
  routerId: id,
  dhcp: z.enum(['serve', 'relay', 'none']),
  relayTo: ip.nullable(),
  pool: range.nullable(),
  exclusions: list(range, 64),
  leaseS: z.number().int().min(60).max(31_536_000),
  options: z.strictObject({
    dns: ips,
    ntp: ips,
    domain: z.string().max(253),
    controller: z
      .strictObject({ option: z.union([z.literal(43), z.literal(138), z.literal(143)]), address: ip })
      .nullable(),
  }),
  expected: z.number().int().min(0).max(1_000_000),
  growthPct: percent,
  arrivalsPerH: z.number().min(0).max(1_000_000).nullable(),
  stayH: z.number().min(0).max(8784).nullable(),
  pinned: z.boolean(),
  prefix6: prefix6.nullable(),
  mode6: z.enum(['off', 'slaac', 'stateless', 'stateful']),
  fixed: list(
    z.strictObject({
      id,
      ip,
      name,
      deviceId: id.nullable(),
      how: z.enum(['static', 'reserved']),
      mask: z.number().int().min(0).max(32).nullable(),
      gateway: ip.nullable(),
      mac: mac.nullable(),
      ip6: ip6.nullable(),
    }),
    5000,
  ),
})

const price = z.number().min(0).max(1_000_000)
const cellular = z.strictObject({
  sim: z
    .string()
    .max(20)
    .refine((text) => parseSim(text).ok, 'sim')
    .nullable(),
  apn: z
    .string()
    .max(100)
    .refine((text) => parseApn(text).ok, 'apn')
    .nullable(),
  antennas: z.number().int().min(0).max(16).nullable(),
  antennasAt: z.string().max(200).nullable(),
  rsrpDbm: z.number().min(LEAST_RSRP).max(MOST_RSRP).nullable(),
  sinrDb: z.number().min(LEAST_SINR).max(MOST_SINR).nullable(),
  pricePerMonth: price.nullable(),
  pricePerGb: price.nullable(),
})
const facts = z.strictObject({
  credentialsAt: short.nullable(),
  tagKnown: z.boolean(),
  pcp: z.number().int().min(0).max(7).nullable(),
  macLock: z.enum(['yes', 'no']).nullable(),
  lockedMac: mac.nullable(),
  linkSpeed: z.enum(['auto', '100', '1000', '2500', '10000']).nullable(),
  capGb: z.number().min(0).max(1_000_000).nullable(),
  outsideKnown: z.boolean(),
  address: faceAddress.nullable(),
  gateway: ip.nullable(),
  dns: ips,
  modem: z.enum(['bridge', 'routing', 'none']).nullable(),
  cellular: cellular.nullable(),
  portEnabled: z.boolean(),
  modemForwards: z.boolean(),
  delegated6: prefix6.nullable(),
})

const names = list(z.string().min(1).max(40), 20)
const suite = z.strictObject({
  encryption: names,
  integrity: names,
  prf: names,
  groups: list(z.number().int().min(1).max(65_535), 20),
})
const life = z.number().int().min(60).max(31_536_000)
const ipsecEnd = z.strictObject({
  identity: short,
  address: z.string().max(253),
  subnets: list(prefix, 100),
  ike: suite,
  esp: suite,
  ikeLifeS: life,
  espLifeS: life,
  dpdS: z.number().int().min(1).max(86_400).nullable(),
  auth: z.enum(['psk', 'certificate']),
  starts: z.boolean(),
})

const brief = z.strictObject({
  buildings: list(z.strictObject({ id, name }), 200),
  spans: list(
    z.strictObject({
      id,
      a: id,
      b: id,
      distanceM: metres,
      crosses: z.enum(['nothing', 'ground', 'road', 'water']),
    }),
    2000,
  ),
  rooms: list(
    z.strictObject({ id, name, buildingId: id, people: z.number().int().min(0).max(100_000).nullable() }),
    2000,
  ),
  needs: list(
    z.strictObject({
      id,
      name,
      count: z.number().int().min(0).max(1_000_000),
      growthPct: percent,
      vlan: vid.nullable(),
      networkId: id.nullable(),
    }),
    500,
  ),
  far: list(z.strictObject({ id, name, subnets: list(prefix, 100), tunnel: prefix.nullable() }), 500),
  existing: list(z.strictObject({ id, what: name, fate: z.enum(['keep', 'replace', 'unknown']) }), 1000),
  equipment: list(
    z.strictObject({ id, model: short, serial: short, mac: mac.nullable(), deviceId: id.nullable() }),
    5000,
  ),
  otherWay: z.string().max(200),
})

const poeClass = z.number().int().min(0).max(8)
const model = z.strictObject({
  name,
  label: short,
  kind,
  minFirmware: z.string().max(30),
  plannedFirmware: z.string().max(30),
  bootS: z.number().min(0).max(86_400),
  adoptS: z.number().min(0).max(86_400),
  ports: list(
    z.strictObject({
      names: z.string().min(1).max(80),
      kind: z.enum(['copper', 'sfp', 'radio']),
      speedsMbps: list(mbps, 10),
      role: z.enum(['lan', 'wan', 'any', 'network', 'powered']),
      locked: z.boolean(),
      source: z
        .discriminatedUnion('standard', [
          z.strictObject({ standard: z.literal('ieee'), class: poeClass }),
          z.strictObject({ standard: z.literal('passive'), volts: z.number().min(1).max(60), mostW: watts }),
        ])
        .nullable(),
      load: z
        .discriminatedUnion('standard', [
          z.strictObject({ standard: z.literal('ieee'), class: poeClass, typicalW: watts }),
          z.strictObject({
            standard: z.literal('passive'),
            leastV: z.number().min(1).max(60),
            mostV: z.number().min(1).max(60),
            typicalW: watts,
          }),
        ])
        .nullable(),
    }),
    64,
  ),
  poeBudgetW: watts.nullable(),
  idleW: watts,
  factory: z.discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('dhcp-server'), address: faceAddress }),
    z.strictObject({ kind: z.literal('fixed'), address: faceAddress }),
    z.strictObject({
      kind: z.literal('channel'),
      address: faceAddress,
      channel: z.number().int().min(0).max(64),
    }),
    z.strictObject({ kind: z.literal('dhcp-client') }),
  ]),
  credentials: z.enum(['label', 'common', 'none']),
  lights: list(z.strictObject({ shows: short, means: short }), 20),
  stp: z.boolean(),
  capacity: z
    .strictObject({
      accessPoints: z.number().int().min(0).max(100_000),
      switches: z.number().int().min(0).max(100_000),
    })
    .nullable(),
  inspectionMbps: mbps.nullable(),
})

const ends = [
  z.strictObject({ kind: z.literal('any') }),
  z.strictObject({ kind: z.literal('inside') }),
  z.strictObject({ kind: z.literal('network'), id }),
  z.strictObject({ kind: z.literal('device'), id }),
  z.strictObject({
    kind: z.literal('prefix'),
    prefix: z
      .string()
      .max(43)
      .refine((text) => parsePrefix4(text).ok || parsePrefix6(text).ok, 'prefix'),
  }),
  z.strictObject({ kind: z.literal('internet') }),
  z.strictObject({ kind: z.literal('gateway') }),
  z.strictObject({ kind: z.literal('tunnel'), id }),
  z.strictObject({ kind: z.literal('peer'), id }),
] as const
const member = z.discriminatedUnion('kind', ends)
const selector = z.discriminatedUnion('kind', [...ends, z.strictObject({ kind: z.literal('group'), id })])
const seconds = z.number().min(0).max(86_400)
const probe = z.strictObject({
  kind: z.enum(['icmp', 'dns', 'http']),
  targets: list(z.string().min(1).max(253), 8),
  quorum: z.number().int().min(1).max(8),
  everyS: z.number().min(0.1).max(3600),
  timeoutS: z.number().min(0.05).max(3600),
  misses: z.number().int().min(1).max(1000),
  returns: z.number().int().min(1).max(1000),
})
const port = z.number().int().min(0).max(65535)
const wgKey = z.string().max(44).refine(isPublicKey, 'key')
const endpoint = z.string().max(260).refine(isEndpoint, 'endpoint')
const timeOfDay = z
  .string()
  .max(5)
  .refine((text) => minuteOf(text) !== null, 'time')
const serviceIds = list(id, 100)

export const planSchema = z.strictObject({
  format: z.literal(PLAN_FORMAT),
  version: z.literal(PLAN_VERSION),
  site: z.strictObject({
    name,
    supernet: prefix,
    prefix6: prefix6.nullable(),
    subnetPolicy: z.enum(['octet', 'best-fit']),
    country: z.string().regex(/^([A-Z]{2})?$/, 'country'),
    labelRule: z.string().min(1).max(120),
    upsWh: z.number().min(0).max(10_000_000).nullable(),
    upsEfficiency: z.number().min(0.1).max(1),
    pricePerKwh: z.number().min(0).max(1000),
    currency: z.string().max(8),
    poeHeadroomPct: z.number().min(0).max(90),
    toldTo: short,
    mostOutageS: z.number().min(0).max(86_400).nullable(),
    mostFalseAlarms: z.number().min(0).max(1_000_000).nullable(),
  }),
  brief,
  models: list(model, 500),
  templates: list(
    z.strictObject({
      id,
      name,
      model: short,
      ports: list(z.strictObject({ names: z.string().min(1).max(200), mode: portMode }), 1024),
    }),
    500,
  ),
  networks: list(network, 4094),
  devices: list(device, 5000),
  links: list(z.strictObject({ id, a: portRef, b: portRef, medium, lag: id.nullable() }), 20_000),
  ssids: list(
    z.strictObject({
      id,
      name: z.string().min(1).max(32),
      networkId: id,
      isolation: z.boolean(),
      apIds: list(id, 5000),
    }),
    200,
  ),
  uplinks: list(
    z.strictObject({
      id,
      name,
      deviceId: id,
      portId: id,
      kind: z.enum(['pppoe', 'dhcp', 'static']),
      tag: vid.nullable(),
      priority: z.number().int().min(1).max(100),
      weight: z.number().int().min(1).max(1000),
      outside: z.enum(['own', 'shared']),
      downMbps: z.number().min(0).max(1_000_000),
      upMbps: z.number().min(0).max(1_000_000),
      probe: probe.nullable(),
      standby: z.enum(['hot', 'cold']),
      bringUpS: seconds,
      holdDownS: seconds,
      fates: list(short, 10),
      lossPct: z.number().min(0).max(100),
      availablePct: z.number().min(0).max(100).nullable(),
      usualGbPerDay: z.number().min(0).max(1_000_000).nullable(),
      facts,
    }),
    50,
  ),
  groups: list(z.strictObject({ id, name, members: list(member, 200) }), 200),
  schedules: list(
    z.strictObject({
      id,
      name,
      days: list(z.number().int().min(1).max(7), 7),
      from: timeOfDay,
      to: timeOfDay,
    }),
    50,
  ),
  services: list(
    z.strictObject({
      id,
      name,
      entries: list(
        z.strictObject({
          proto: z.enum(['tcp', 'udp', 'icmp']),
          from: z.number().int().min(0).max(65535),
          to: z.number().int().min(0).max(65535),
        }),
        100,
      ),
    }),
    1000,
  ),
  policies: list(
    z.strictObject({
      deviceId: id,
      forward: z.enum(['accept', 'drop']),
      input: z.enum(['accept', 'drop']),
      rules: list(
        z.strictObject({
          id,
          chain: z.enum(['forward', 'input']),
          action: z.enum(['accept', 'drop', 'reject']),
          from: selector,
          to: selector,
          services: serviceIds,
          note,
          log: z.boolean(),
          when: id.nullable(),
        }),
        10_000,
      ),
      pairs: list(
        z.strictObject({ id, from: selector, to: selector, action: z.enum(['accept', 'drop']) }),
        1000,
      ),
    }),
    100,
  ),
  routes: list(
    z.strictObject({ id, deviceId: id, prefix, via: ip, metric: z.number().int().min(0).max(4_294_967_295) }),
    10_000,
  ),
  policyRoutes: list(
    z.strictObject({
      id,
      deviceId: id,
      from: selector,
      services: serviceIds,
      out: z.strictObject({ kind: z.enum(['uplink', 'tunnel']), id }),
      orElse: z.enum(['next', 'refuse']),
      note,
    }),
    1000,
  ),
  forwards: list(
    z.strictObject({
      id,
      deviceId: id,
      uplinkId: id,
      proto: z.enum(['tcp', 'udp']),
      from: port,
      to: port,
      toAddress: ip,
      toPort: port,
      hairpin: z.boolean(),
      note,
    }),
    1000,
  ),
  ipsec: list(z.strictObject({ id, name, deviceId: id, ours: ipsecEnd, theirs: ipsecEnd }), 200),
  tunnels: list(
    z.strictObject({
      id,
      name,
      deviceId: id,
      publicName: z
        .string()
        .min(1)
        .max(253)
        .regex(/^[A-Za-z0-9.-]+$/, 'name')
        .nullable(),
      nameEveryS: z.number().int().min(0).max(604_800),
      nameTtlS: z.number().int().min(0).max(604_800),
      address: faceAddress,
      address6: faceAddress6.nullable(),
      listenPort: port,
      mtu: z.number().int().min(576).max(9000),
      publicKey: wgKey.nullable(),
      mapped: list(z.strictObject({ id, inside: prefix, outside: prefix }), 100),
      peers: list(
        z.strictObject({
          id,
          name,
          kind: z.enum(['site', 'person', 'provider']),
          publicKey: wgKey.nullable(),
          next: z.strictObject({ publicKey: wgKey, until: z.iso.date() }).nullable(),
          allowed: list(anyPrefix, 100),
          theirAllowed: list(anyPrefix, 100),
          endpoint: endpoint.nullable(),
          downMbps: mbps.nullable(),
          upMbps: mbps.nullable(),
          keepaliveS: z.number().int().min(0).max(65535).nullable(),
        }),
        1000,
      ),
    }),
    100,
  ),
  intents: list(
    z.strictObject({
      id,
      from: selector,
      to: selector,
      services: serviceIds,
      survives: list(id, 100),
      log: z.boolean(),
      when: id.nullable(),
      note,
    }),
    10_000,
  ),
})

/** Words of an issue's path, as a person finds them in the file: `networks[2].gateway`. */
export function placeOf(path: readonly PropertyKey[]): string {
  return path.reduce<string>((text, key) => {
    if (typeof key === 'number') return `${text}[${key}]`
    if (text === '') return String(key)
    return `${text}.${String(key)}`
  }, '')
}

/** Most problems told of one file. */
const MOST_TOLD = 20

const REFINED: Readonly<Record<string, string>> = {
  ipv4: 'not-ipv4',
  ipv6: 'not-ipv6',
  sim: 'not-a-sim',
  apn: 'not-an-apn',
  prefix: 'not-prefix',
  prefix6: 'not-prefix6',
  mac: 'not-eui48',
  key: 'not-a-key',
  endpoint: 'not-an-endpoint',
  time: 'not-a-time',
}

export function problemsOf(error: z.ZodError, input: unknown): Problem[] {
  return error.issues.slice(0, MOST_TOLD).map((issue) => {
    const met = issue.path.reduce<unknown>(
      (node, key) =>
        typeof node === 'object' && node !== null ? (node as Record<PropertyKey, unknown>)[key] : undefined,
      input,
    )
    const text = typeof met === 'string' || typeof met === 'number' ? String(met).slice(0, 80) : ''
    const code = issue.code === 'custom' ? (REFINED[issue.message] ?? 'not-allowed') : 'not-allowed'
    return problem(code, placeOf(issue.path), { text, reason: issue.message })
  })
}

const idOf = (item: unknown): unknown =>
  typeof item === 'object' && item !== null && 'id' in item ? item.id : undefined

/** Items of any list in a document whose id was used before in that list: lookups by id would miss them. */
function repeatedIds(node: unknown, path: readonly PropertyKey[] = []): Problem[] {
  if (typeof node !== 'object' || node === null) return []
  const inner = Object.entries(node).flatMap(([key, child]) =>
    repeatedIds(child, [...path, Array.isArray(node) ? Number(key) : key]),
  )
  if (!Array.isArray(node)) return inner
  const seen = new Set<unknown>()
  const own = node.flatMap((item, i) => {
    const id = idOf(item)
    if (typeof id !== 'string' || seen.size < seen.add(id).size) return []
    return [problem('id-twice', placeOf([...path, i, 'id']), { text: id })]
  })
  return [...own, ...inner]
}

/** Ids of what can fail that something of another kind has as well: a failure scenario could not tell them apart. */
function sharedIds(plan: Plan): Problem[] {
  const owners = new Map<string, string>()
  const lists: readonly (readonly [string, string, readonly { readonly id: string }[]])[] = [
    ['device', 'devices', plan.devices],
    ['uplink', 'uplinks', plan.uplinks],
    ['tunnel', 'tunnels', plan.tunnels],
    ...plan.tunnels.map((tunnel, i) => ['peer', `tunnels[${i}].peers`, tunnel.peers] as const),
    ['link', 'links', plan.links],
  ]
  return lists.flatMap(([kind, place, items]) =>
    items.flatMap(({ id }, i) => {
      const owner = owners.get(id) ?? kind
      owners.set(id, owner)
      return owner === kind ? [] : [problem('id-twice', `${place}[${i}].id`, { text: id })]
    }),
  )
}

/**
 * Reads a plan from data, of this version or an older one.
 * Problems: not-a-plan, newer-version, id-twice, and one for each field that is not allowed.
 */
export function parsePlan(input: unknown): Result<Plan> {
  const head = z.object({ format: z.literal(PLAN_FORMAT), version: z.number().int() }).safeParse(input)
  if (!head.success) return refuse(problem('not-a-plan', placeOf(head.error.issues[0]?.path ?? [])))
  if (head.data.version > PLAN_VERSION)
    return refuse(problem('newer-version', 'version', { version: head.data.version, known: PLAN_VERSION }))
  const document = upgradePlan(input as Record<string, unknown>)
  const parsed = planSchema.safeParse(document)
  if (!parsed.success) return refuse(...problemsOf(parsed.error, document))
  const repeated = [...repeatedIds(parsed.data), ...sharedIds(parsed.data)]
  return repeated.length > 0 ? refuse(...repeated) : ok(parsed.data)
}

/** Reads a plan file. Size is checked before anything else, so that garbage costs nothing. */
export function parsePlanText(text: string): Result<Plan> {
  if (text.length > MOST_PLAN_BYTES)
    return refuse(problem('too-large', '', { bytes: text.length, most: MOST_PLAN_BYTES }))
  try {
    return parsePlan(JSON.parse(text))
  } catch {
    return refuse(problem('not-json', ''))
  }
}

/**
 * The plan as a file: keys in the schema's order, two spaces, a final newline.
 * The same plan gives the same bytes.
 */
export function planToText(plan: Plan): string {
  return `${JSON.stringify(planSchema.parse(plan), null, 2)}\n`
}
