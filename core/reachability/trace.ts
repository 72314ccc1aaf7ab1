// Question: what is a path of a packet in one direction, and what may it carry?
// Method: steps that a person can follow, the filter that all rules on the path make, and what ends it.
// Source: terms as in RFC 1812 (forwarding) and RFC 3022 (address translation).
import type { Layer2Node } from '#core/layer2'
import type { DeviceId, PeerId, TunnelId } from '#core/schema'
import type { Ipv4 } from '#core/address'
import {
  allOf,
  ALLOW_ALL,
  allowOnly,
  anyOf,
  DENY_ALL,
  type FilterRef,
  type PathFilter,
  type ServiceSet,
  type PacketEnd,
} from '#core/filter'
import type { Endpoint } from './endpoints'
import type { Exit, RouteEntry } from './routing'

/** One end of a flow. */
export type Party =
  | { readonly kind: 'endpoint'; readonly endpoint: Endpoint }
  | { readonly kind: 'gateway'; readonly deviceId: DeviceId }
  | { readonly kind: 'peer'; readonly tunnelId: TunnelId; readonly peerId: PeerId }
  | { readonly kind: 'internet' }

export type StopCode =
  | 'no-address'
  | 'no-gateway'
  | 'gateway-off-link'
  | 'gateway-unanswered'
  | 'neighbour-unanswered'
  | 'isolated'
  | 'no-route'
  | 'not-global'
  | 'no-uplink'
  | 'upstream-down'
  | 'route-refused'
  | 'not-addressable'
  | 'handed-inside'
  | 'shared-address'
  | 'too-many-hops'
  | 'asymmetric'
  | 'device-off'
  | 'tunnel-down'
  | 'no-peer'
  | 'peer-refuses'
  | 'peer-sends-not'

export type Step = StepKind & {
  /** The services for which the step is taken, where services take different paths. */
  readonly only?: ServiceSet
}
type StepKind =
  | {
      readonly kind: 'host'
      readonly endpoint: Endpoint
      readonly address: Ipv4
      readonly towards: 'on-link' | 'gateway'
      readonly next: Ipv4
    }
  | {
      readonly kind: 'wire'
      readonly from: Layer2Node
      readonly to: Layer2Node
      readonly delivered: boolean
    }
  | {
      readonly kind: 'route'
      readonly deviceId: DeviceId
      readonly entry: RouteEntry
    }
  | {
      readonly kind: 'chosen'
      readonly deviceId: DeviceId
      readonly policyRouteId: string
      readonly exit: Exit | null
    }
  | {
      readonly kind: 'rules'
      readonly deviceId: DeviceId
      readonly chain: 'forward' | 'input'
      readonly from: PacketEnd
      readonly to: PacketEnd
    }
  | {
      readonly kind: 'translate'
      readonly deviceId: DeviceId
      readonly exit: Exit
    }
  | {
      readonly kind: 'tunnel'
      readonly tunnelId: TunnelId
      readonly peerId: PeerId
      readonly inward: boolean
      /** The address by which the peer knows ours; null where it is our own. */
      readonly known: Ipv4 | null
    }
  | { readonly kind: 'forwarded'; readonly deviceId: DeviceId; readonly uplinkIds: readonly string[] }

/** The path of a packet in one direction. */
export interface PathTrace {
  readonly steps: readonly Step[]
  /**
   * What the rules on the path let pass in this direction, for any addresses that share the path; nothing
   * where it ends.
   */
  readonly filter: PathFilter
  readonly routers: readonly string[]
  readonly stop: StopCode | null
}

/** Who sends a packet, or whom it is for, by one address. */
export interface FlowEnd {
  readonly party: Party
  readonly address: Ipv4
}

/** How a path is traced. */
export interface TraceOptions {
  /**
   * True for a connection that begins (`ct state new`), which rules judge; false for a reply that follows its
   * flow.
   */
  readonly isNewFlow: boolean
  /** True where the steps of the path are asked for; for a matrix its filter is enough. */
  readonly recordSteps: boolean
  /** Of a reply, the last router of its flow: by that it comes in where it comes from the internet. */
  readonly lastRouter?: string | undefined
}

/** A packet as it comes to a router. */
export interface RouterIngress {
  readonly deviceId: DeviceId
  /** Interface it comes in by; `self` for what the router itself sends. */
  readonly via: string
  readonly source: Ipv4
  readonly target: Ipv4
}

const NONE: readonly never[] = []

/** A path that ends before it is delivered. */
export const stopped = (
  stop: StopCode,
  steps: readonly Step[] | null = null,
  routers: readonly string[] = NONE,
): PathTrace => ({
  steps: steps ?? NONE,
  routers,
  stop,
  filter: DENY_ALL,
})

/** A path as it is found, from router to router. */
export class TraceState {
  readonly isNewFlow: boolean
  /** Null where nobody asks for them. */
  readonly steps: Step[] | null
  private readonly routers: string[] = []
  /** What all rules met so far let pass; null for everything. */
  private filter: PathFilter | null = null
  /** What has left for the internet on the way, where a static default route takes only the rest. */
  private left: PathFilter | null = null
  /** Services that go on where others have left, and the first step that is theirs alone. */
  private narrowed: { readonly only: ServiceSet; readonly from: number } | null = null

  constructor(
    readonly target: FlowEnd,
    { isNewFlow, recordSteps }: TraceOptions,
  ) {
    this.isNewFlow = isNewFlow
    this.steps = recordSteps ? [] : null
  }

  enter(deviceId: DeviceId): void {
    this.routers.push(deviceId)
  }

  /** Adds a filter that everything must pass from here on. */
  and(filter: PathFilter): void {
    if (this.filter === null) this.filter = filter
    else this.filter = allOf(this.filter.kind === 'all' ? [...this.filter.of, filter] : [this.filter, filter])
  }

  /** The rules of a router judge a new connection; what the router itself sends is not judged. */
  applyFilter(ingress: RouterIngress, chain: FilterRef['chain'], out: string): void {
    if (!this.isNewFlow || ingress.via === 'self') return
    this.steps?.push({
      kind: 'rules',
      deviceId: ingress.deviceId,
      chain,
      from: { via: ingress.via, address: ingress.source },
      to: { via: out, address: ingress.target },
    })
    this.and({ kind: 'rules', deviceId: ingress.deviceId, chain, from: ingress.via, to: out })
  }

  /** From here on the path is that of some services alone. */
  narrow(only: ServiceSet): void {
    this.narrowed = { only, from: this.steps?.length ?? 0 }
    this.and(allowOnly(only))
  }

  /** Part of the services leaves for the internet here, through a filter of its own. */
  leave(filter: PathFilter): void {
    const gone = this.filter === null ? filter : allOf([this.filter, filter])
    this.left = this.left === null ? gone : anyOf([this.left, gone])
  }

  delivered(): PathTrace {
    const filter = this.filter ?? ALLOW_ALL
    return this.trace(this.left === null ? filter : anyOf([filter, this.left]))
  }

  /** The path ends here; what has left for the internet before is delivered all the same. */
  ended(stop: StopCode): PathTrace {
    return this.left === null ? stopped(stop, this.told(), this.routers) : this.trace(this.left)
  }

  /** Delivered, or ended where there is a reason. */
  closed(stop: StopCode | null): PathTrace {
    return stop === null ? this.delivered() : this.ended(stop)
  }

  /** The steps so far, each with the services that take it. */
  private told(): readonly Step[] {
    const { steps, narrowed } = this
    if (!steps || !narrowed) return steps ?? NONE
    return steps.map((step, n) => (n < narrowed.from ? step : { only: narrowed.only, ...step }))
  }

  private trace(filter: PathFilter): PathTrace {
    return { steps: this.told(), routers: this.routers, filter, stop: null }
  }
}
