// Question: what do we know of a model before it is unpacked?
// Method: an invented catalogue as data, and models of the planner's own in the plan.
// Times, draws and factory habits are common practice, without a published source;
// PoE classes as in IEEE 802.3-2022 clauses 33 and 145.
import type {
  AccessRadio,
  DeviceKind,
  LinkGeneration,
  LinkWidth,
  Model,
  PoeLoad,
  PoeSource,
  PortGroup,
} from '#core/schema'

const GIGABIT = [10, 100, 1000] as const
const FAST = [10, 100] as const
const ports = (names: string, rest: Partial<PortGroup> = {}): PortGroup => ({
  names,
  kind: 'copper',
  speedsMbps: GIGABIT,
  role: 'any',
  locked: false,
  source: null,
  load: null,
  ...rest,
})
const gives = (number: number): PoeSource => ({ standard: 'ieee', class: number })
const takes = (number: number, typicalW: number): PoeLoad => ({ standard: 'ieee', class: number, typicalW })
const SFP = { kind: 'sfp', speedsMbps: [1000, 10_000] } as const
const START: Model['lights'] = [
  { shows: 'slow blinking', means: 'starting' },
  { shows: 'steady', means: 'ready' },
  { shows: 'fast blinking', means: 'writing firmware: do not cut the power' },
]

interface Rest extends Partial<Omit<Model, 'name' | 'label' | 'kind' | 'ports'>> {
  readonly firmware?: readonly [least: string, planned: string]
}
function model(
  name: string,
  label: string,
  kind: DeviceKind,
  list: readonly PortGroup[],
  { firmware = ['', ''], ...rest }: Rest = {},
): Model {
  return {
    name,
    label,
    kind,
    minFirmware: firmware[0],
    plannedFirmware: firmware[1],
    bootS: 60,
    adoptS: 0,
    ports: list,
    poeBudgetW: null,
    idleW: 0,
    factory: { kind: 'dhcp-client' },
    credentials: 'none',
    lights: [],
    stp: false,
    capacity: null,
    inspectionMbps: null,
    isolation: null,
    sensitivityDbm: [],
    factorySsid: '',
    ...rest,
  }
}
const managed: Rest = { lights: START, credentials: 'label' }

const extender = (name: string, label: string, idleW: number): Model =>
  model(
    name,
    label,
    'extender',
    [ports('up', { kind: 'radio', speedsMbps: [] }), ports('down', { kind: 'radio', speedsMbps: [] })],
    {
      ...managed,
      firmware: ['1.2.0', '1.3.0'],
      bootS: 120,
      adoptS: 120,
      idleW,
      factory: { kind: 'dhcp-server', address: '192.168.88.1/24' },
      factorySsid: `${name}-setup`,
    },
  )

export const MODELS: readonly Model[] = [
  model(
    'G4',
    'gateway, 4 ports',
    'gateway',
    [
      ports('1', { role: 'wan' }),
      ports('2', { role: 'wan', locked: true }),
      ports('3-4', { role: 'lan', speedsMbps: [...GIGABIT, 2500] }),
    ],
    {
      ...managed,
      firmware: ['3.1.0', '3.4.2'],
      bootS: 120,
      adoptS: 300,
      idleW: 11,
      factory: { kind: 'dhcp-server', address: '192.168.77.1/24' },
      inspectionMbps: 900,
    },
  ),
  model(
    'S24P',
    'switch, 24 ports with PoE',
    'switch',
    [
      ports('1-24', { source: gives(4) }),
      ports('25-26', { speedsMbps: [...GIGABIT, 2500] }),
      ports('27-28', SFP),
    ],
    {
      ...managed,
      firmware: ['2.6.0', '2.8.1'],
      bootS: 90,
      adoptS: 180,
      poeBudgetW: 190,
      idleW: 18,
      stp: true,
    },
  ),
  model(
    'S8P',
    'switch, 8 ports with PoE',
    'switch',
    [ports('1-8', { source: gives(4) }), ports('9-10', SFP)],
    {
      ...managed,
      firmware: ['2.6.0', '2.8.1'],
      bootS: 90,
      adoptS: 180,
      poeBudgetW: 65,
      idleW: 7,
      stp: true,
    },
  ),
  model('U5', 'switch, 5 ports, unmanaged', 'unmanaged', [ports('1-5')], { bootS: 3, idleW: 2 }),
  model('U10', 'switch, 10 ports, unmanaged', 'unmanaged', [ports('1-10')], { bootS: 3, idleW: 4 }),
  model(
    'A2',
    'access point, indoors',
    'access-point',
    [ports('1', { load: takes(4, 11) }), ports('radio', { kind: 'radio', speedsMbps: [] })],
    {
      ...managed,
      firmware: ['5.0.3', '5.2.0'],
      bootS: 75,
      adoptS: 180,
      idleW: 11,
      isolation: 'network',
    },
  ),
  model(
    'A2X',
    'access point, outdoors',
    'access-point',
    [ports('1', { load: takes(4, 13.4) }), ports('radio', { kind: 'radio', speedsMbps: [] })],
    {
      ...managed,
      firmware: ['5.0.3', '5.2.0'],
      bootS: 75,
      adoptS: 180,
      idleW: 13.4,
      isolation: 'access-point',
    },
  ),
  model(
    'B5',
    'bridge radio, 5 GHz',
    'bridge-radio',
    [ports('lan', { load: takes(3, 9.5) }), ports('radio', { kind: 'radio', speedsMbps: [450] })],
    {
      ...managed,
      firmware: ['1.9.0', '1.9.4'],
      bootS: 30,
      adoptS: 120,
      idleW: 9.5,
      factory: {
        kind: 'channel',
        address: '192.168.88.100/24',
        stationAddress: null,
        channel: 0,
      },
      credentials: 'common',
    },
  ),
  model(
    'B5P',
    'bridge radio, 5 GHz, 24 V passive',
    'bridge-radio',
    [
      ports('lan', { load: { standard: 'passive', leastV: 18, mostV: 26, typicalW: 8 } }),
      ports('radio', { kind: 'radio', speedsMbps: [450] }),
    ],
    {
      ...managed,
      firmware: ['1.9.0', '1.9.4'],
      bootS: 30,
      adoptS: 120,
      idleW: 8,
      factory: {
        kind: 'channel',
        address: '192.168.88.20/24',
        stationAddress: '192.168.88.120/24',
        channel: 0,
      },
      sensitivityDbm: [-93, -90, -87, -84, -81, -77, -75, -73],
      credentials: 'common',
    },
  ),
  model(
    'B60',
    'bridge radio, 60 GHz',
    'bridge-radio',
    [ports('lan', { load: takes(4, 14) }), ports('radio', { kind: 'radio', speedsMbps: [4620] })],
    {
      ...managed,
      firmware: ['1.9.0', '1.9.4'],
      bootS: 45,
      adoptS: 120,
      idleW: 14,
      factory: {
        kind: 'channel',
        address: '192.168.88.60/24',
        stationAddress: '192.168.88.160/24',
        channel: 0,
      },
      credentials: 'common',
    },
  ),
  model(
    'J30',
    'injector, class 4',
    'injector',
    [ports('lan', { role: 'network' }), ports('poe', { role: 'powered', source: gives(4) })],
    { bootS: 2, idleW: 1 },
  ),
  model(
    'J24',
    'injector, 24 V passive',
    'injector',
    [
      ports('lan', { role: 'network' }),
      ports('poe', { role: 'powered', source: { standard: 'passive', volts: 24, mostW: 24 } }),
    ],
    { bootS: 2, idleW: 1 },
  ),
  model('C1', 'controller appliance', 'controller', [ports('1')], {
    ...managed,
    firmware: ['4.0.0', '4.1.0'],
    bootS: 150,
    idleW: 6,
    capacity: { accessPoints: 30, switches: 20 },
  }),
  extender('E1', 'extender', 5),
  extender('E2', 'extender, one radio', 3),
  model('K3', 'camera', 'hosts', [ports('*', { speedsMbps: FAST, load: takes(3, 6.5) })], {
    bootS: 60,
    idleW: 6.5,
  }),
  model('T1', 'desk telephone', 'hosts', [ports('*', { load: takes(2, 3.5) })], { bootS: 45, idleW: 3.5 }),
  model(
    'T2',
    'desk telephone with a socket for a computer',
    'telephone',
    [ports('1', { load: takes(2, 4.5) }), ports('2')],
    { bootS: 60, idleW: 4.5 },
  ),
  model('L1', 'data logger', 'hosts', [ports('*', { speedsMbps: FAST })], { bootS: 20, idleW: 3 }),
]

const named: ReadonlyMap<string, Model> = new Map(MODELS.map((m) => [m.name, m]))
/**
 * A model of the catalogue; undefined where it has none of that name.
 * Models of the planner's own are found by `modelOf`.
 */
export function modelNamed(name: string): Model | undefined {
  return named.get(name)
}

/**
 * Single names of a span text.
 * Worked:
 * `1-3, lan` -> 1, 2, 3, lan.
 * @param names spans of at most 4,096 ports
 */
export function namesIn(names: string): string[] {
  return names
    .split(',')
    .map((part) => part.trim())
    .filter((part) => part !== '')
    .flatMap((part) => {
      const span = /^(\d{1,4})\s*[-–]\s*(\d{1,4})$/.exec(part)
      if (!span) return [part]
      const from = Number(span[1])
      const to = Number(span[2])
      return from <= to ? Array.from({ length: to - from + 1 }, (_, i) => String(from + i)) : [part]
    })
}

/** What a model says of its ports, by name; `*` stands for every other name. */
export const portGroupsByName = (of: Model): ReadonlyMap<string, PortGroup> =>
  new Map(of.ports.flatMap((group) => namesIn(group.names).map((name) => [name, group])))

/** Compares dotted versions number by number; a missing part counts as 0. Negative where a is older. */
export function compareVersions(first: string, second: string): number {
  const x = first.split('.').map(Number)
  const y = second.split('.').map(Number)
  for (let i = 0; i < Math.max(x.length, y.length); i++) {
    const order = (x[i] ?? 0) - (y[i] ?? 0)
    if (order !== 0) return order
  }
  return 0
}

/** A radio as a model is shipped with it. */
export type FactoryRadio = Pick<
  AccessRadio,
  'band' | 'generation' | 'streams' | 'widthMhz' | 'powerDbm' | 'gainDbi'
>
const wifi6 = (
  band: AccessRadio['band'],
  streams: number,
  widthMhz: AccessRadio['widthMhz'],
  powerDbm: number,
  gainDbi: number,
): FactoryRadio => ({ band, generation: 'ax', streams, widthMhz, powerDbm, gainDbi })
const RADIOS: Readonly<Record<string, readonly FactoryRadio[]>> = {
  A2: [wifi6('2.4', 2, 20, 14, 3), wifi6('5', 2, 40, 17, 4)],
  A2X: [wifi6('2.4', 2, 20, 16, 4), wifi6('5', 2, 40, 20, 6)],
  E1: [wifi6('2.4', 2, 20, 14, 2), wifi6('5', 2, 40, 17, 3)],
  E2: [wifi6('5', 2, 40, 17, 3)],
}

/** Wi-Fi radios of a model of the catalogue; none where nothing is known of it. */
export const factoryRadios = (model: string): readonly FactoryRadio[] =>
  Object.hasOwn(RADIOS, model) ? (RADIOS[model] ?? []) : []

/** A bridge's radio and antenna as a model is shipped with them. */
export interface FactoryBridge {
  readonly generation: LinkGeneration
  readonly streams: number
  readonly widthMhz: LinkWidth
  readonly powerDbm: number
  readonly gainDbi: number
}
const BRIDGES: Readonly<Record<string, FactoryBridge>> = {
  B5: { generation: 'ac', streams: 2, widthMhz: 40, powerDbm: 13, gainDbi: 23 },
  B5P: { generation: 'ac', streams: 2, widthMhz: 40, powerDbm: 16, gainDbi: 16 },
  B60: { generation: 'ad', streams: 1, widthMhz: 2160, powerDbm: 10, gainDbi: 38 },
}

/** Null where nothing is known of a model. */
export const factoryBridge = (model: string): FactoryBridge | null =>
  Object.hasOwn(BRIDGES, model) ? (BRIDGES[model] ?? null) : null
