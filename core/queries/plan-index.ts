// Question: how are a plan's things found by id, and how does a computation ask for what others have computed
// of the same plan?
// Method: everything that is derived from a plan is a stage: a named pure function of a plan index.
// The index answers for stages; an engine (engine.ts) owns what is remembered of them.
// Source: no published figures used.
import { byId } from '#core/util'
import type { Device, Link, Network, Plan, Port, PortRef, Ssid, Model, Group, Service } from '#core/schema'

/** A named pure function of a plan and a key. Its answers are owned by an engine, never by the stage. */
export interface Stage<Value, Key = undefined> {
  readonly name: string
  readonly compute: (index: PlanIndex, key: Key) => Value
  /** Equal keys have equal texts. */
  readonly keyText: (key: Key) => string
  /**
   * True where an answer made anew says what an earlier one said: then the earlier object is kept, and so is
   * what hangs on it.
   */
  readonly equal: (earlier: Value, later: Value) => boolean
  /** Keys of which answers are kept at a time; the one asked for longest ago goes first. */
  readonly keys: number
}

type StageOptions<Value, Key> = Partial<Pick<Stage<Value, Key>, 'keyText' | 'equal' | 'keys'>>

/**
 * Scenarios that are looked at at a time: all well, the one on screen, and those that intents are to survive.
 */
const USUAL_KEYS = 12

export function defineStage<Value, Key = undefined>(
  name: string,
  compute: (index: PlanIndex, key: Key) => Value,
  { keyText = String, equal = Object.is, keys = USUAL_KEYS }: StageOptions<Value, Key> = {},
): Stage<Value, Key> {
  return { name, compute, keyText, equal, keys }
}

/**
 * A plan as it is indexed.
 * `projection` is there where it stands for the IPv6 side of another plan; who makes it knows its type.
 */
export interface IndexedPlan extends Plan {
  readonly projection?: unknown
}

/** The plan's things by id. Dangling references come out as undefined, never as a throw. */
export interface PlanIndex {
  readonly plan: IndexedPlan
  readonly devices: ReadonlyMap<string, Device>
  readonly networks: ReadonlyMap<string, Network>
  /** The same, without addresses: equal for plans whose networks differ in those alone. */
  readonly networkHeads: ReadonlyMap<string, NetworkHead>
  readonly networkByVlan: ReadonlyMap<number, NetworkHead>
  readonly ssids: ReadonlyMap<string, Ssid>
  readonly services: ReadonlyMap<string, Service>
  readonly groups: ReadonlyMap<string, Group>
  /** Links at a port, by `portKey`. */
  readonly linksAt: ReadonlyMap<string, readonly Link[]>
  /** Models of the planner's own, by name; they come before the catalogue's. */
  readonly models: ReadonlyMap<string, Model>
  /** The answer of a stage about this plan. */
  get<Value>(stage: Stage<Value>): Value
  get<Value, Key>(stage: Stage<Value, Key>, key: Key): Value
  /** The index of another plan by the same engine: what both plans share is not computed again. */
  of(plan: IndexedPlan): PlanIndex
}

export function portKey(ref: PortRef): string {
  return `${ref.deviceId}/${ref.portId}`
}

const devicesById = defineStage('devices by id', ({ plan }) => byId(plan.devices))
const networksById = defineStage('networks by id', ({ plan }) => byId(plan.networks))
const ssidsById = defineStage('SSIDs by id', ({ plan }) => byId(plan.ssids))
const servicesById = defineStage('services by id', ({ plan }) => byId(plan.services))
const groupsById = defineStage('groups by id', ({ plan }) => byId(plan.groups))
const modelsByName = defineStage(
  'own models by name',
  ({ plan }) => new Map(plan.models.map((model) => [model.name, model])),
)
const linksByPort = defineStage('links by port', ({ plan }) => {
  const found = new Map<string, Link[]>()
  for (const link of plan.links)
    for (const key of [portKey(link.a), portKey(link.b)]) {
      const known = found.get(key)
      if (known) known.push(link)
      else found.set(key, [link])
    }
  return found
})
/** Ports by device and id. */
const portsByDevice = defineStage(
  'ports by id',
  ({ plan }) => new Map(plan.devices.map((device) => [device.id, byId(device.ports)])),
)

/** What layer 2 and names need of a network. */
export type NetworkHead = Pick<Network, 'id' | 'name' | 'vlan' | 'routerId'>
const sameHeads = (
  first: ReadonlyMap<string, NetworkHead>,
  second: ReadonlyMap<string, NetworkHead>,
): boolean => JSON.stringify([...first.values()]) === JSON.stringify([...second.values()])
const headsById = defineStage(
  'heads of networks',
  ({ plan }): ReadonlyMap<string, NetworkHead> =>
    byId(plan.networks.map(({ id, name, vlan, routerId }) => ({ id, name, vlan, routerId }))),
  { equal: sameHeads },
)
const networksByVlan = defineStage('networks by VLAN', (index) => {
  const found = new Map<number, NetworkHead>()
  for (const network of index.networkHeads.values())
    if (!found.has(network.vlan)) found.set(network.vlan, network)
  return found
})

export function findPort(index: PlanIndex, ref: PortRef): Port | undefined {
  return index.get(portsByDevice).get(ref.deviceId)?.get(ref.portId)
}

/** What an index asks its engine. */
export type Asker = Pick<PlanIndex, 'get' | 'of'>

export function makePlanIndex(plan: IndexedPlan, { get, of }: Asker): PlanIndex {
  return new IndexView(plan, get, of)
}

class IndexView implements PlanIndex {
  constructor(
    readonly plan: IndexedPlan,
    readonly get: PlanIndex['get'],
    readonly of: PlanIndex['of'],
  ) {}
  get devices() {
    return this.get(devicesById)
  }
  get networks() {
    return this.get(networksById)
  }
  get networkHeads() {
    return this.get(headsById)
  }
  get networkByVlan() {
    return this.get(networksByVlan)
  }
  get ssids() {
    return this.get(ssidsById)
  }
  get services() {
    return this.get(servicesById)
  }
  get groups() {
    return this.get(groupsById)
  }
  get linksAt() {
    return this.get(linksByPort)
  }
  get models() {
    return this.get(modelsByName)
  }
}
