// Namespaces, bridges, cables and switches of a twin.
import {
  isHost,
  isVlanAware,
  modelOf,
  portKey,
  tags,
  vidsOf,
  indexPlan,
  type PlanIndex,
  type FailureScenario,
  downIn,
  upstreamDownIn,
} from '#core/queries'
import { hasIpv6, hasRing } from './mechanisms'
import type { Device, Link, Network, Plan, PortMode, PortRef, Uplink } from '#core/schema'
import { lanName, routedName, wanName } from '#core/export'
import { newTunnelKeys, type TunnelKeys } from '#server/platform/x25519'

/**
 * Mode of a port for a cable, as the device's own configuration states it: over Wi-Fi, access to the SSID's
 * VLAN.
 */
function modeOf(index: PlanIndex, device: Device, ref: PortRef, link: Link): PortMode {
  const { plan } = index
  const mode = device.ports.find((p) => p.id === ref.portId)?.mode ?? { mode: 'off' }
  if (link.medium.kind !== 'wifi' || device.kind !== 'access-point') return mode
  const ssid = index.ssids.get(link.medium.ssidId)
  const vlan = ssid && index.networks.get(ssid.networkId)?.vlan
  // Of two access points the second one has joined the first.
  const hasJoined =
    link.b.deviceId === device.id &&
    plan.devices.some(({ id, kind }) => id === link.a.deviceId && kind === 'access-point')
  if (vlan === undefined || !(ssid?.apIds.includes(device.id) || hasJoined)) return { mode: 'off' }
  return link.medium.fourAddress ? { mode: 'trunk', native: vlan, tagged: 'all' } : { mode: 'access', vlan }
}

/** The VID whose frames leave a port with a tag and that a frame with that tag gets; null for none. */
export function vidAt(mode: PortMode, tag: number): number | null {
  if (mode.mode === 'access') return tag === 0 ? mode.vlan : null
  if (mode.mode !== 'trunk') return null
  if (tag === 0) return mode.native
  if (tags(mode, tag)) return tag
  return null
}

/** Address of the n-th peer's own line to the internet, and of the internet's end of it. */
export const peerLine = (n: number) => ({ own: `198.19.${n}.2`, far: `198.19.${n}.1` })

/** The plan's tunnels with keys of their own and with peers that can be dialled where the twin has them. */
function withEnds(plan: Plan, keys: Map<string, TunnelKeys>): Plan {
  const keyOf = (id: string) => {
    const made = keys.get(id) ?? newTunnelKeys()
    keys.set(id, made)
    return made.publicKey
  }
  let nth = 0
  return {
    ...plan,
    tunnels: plan.tunnels.map((tunnel) => ({
      ...tunnel,
      publicKey: keyOf(tunnel.id),
      peers: tunnel.peers.map((peer) => ({
        ...peer,
        publicKey: keyOf(peer.id),
        endpoint:
          (nth++, peer.endpoint === null ? null : `${peerLine(nth).own}:${peer.endpoint.split(':').at(-1)}`),
      })),
    })),
  }
}

/** Makes itself addresses of what a router says, at once. */
const HEARS =
  'echo 1 > autoconf; echo 2 > accept_ra; echo 1 > accept_ra_defrtr; echo 0 > use_tempaddr; ' +
  'echo 0 > router_solicitation_delay; echo 1 > router_solicitation_interval; ' +
  'echo 1 > router_solicitation_max_interval; '

/**
 * Lets one interface speak IPv6; all others stay silent.
 * `hears`: it makes itself an address of what is advertised.
 */
function wake(ns: string, dev: string, hears = false): string {
  const conf = `/proc/sys/net/ipv6/conf/${dev}`
  return (
    `ip netns exec ${ns} sh -c 'cd ${conf} 2>/dev/null || exit 0; echo 0 > accept_dad; ` +
    `${hears ? HEARS : 'echo 0 > accept_ra; '}echo 0 > disable_ipv6'`
  )
}

const macOf = (n: number): string => `00:00:5e:00:53:${((n % 250) + 1).toString(16).padStart(2, '0')}`

/** Open vSwitch reads frames as they are: what sends them must have finished their checksums. */
const plainSums = (ns: string, dev: string): string =>
  `ip netns exec ${ns} ethtool -K ${dev} tx off >/dev/null 2>&1 || true`

/** A port of Open vSwitch; null where it carries no VLAN. */
const portWords = (mode: PortMode): string | null => {
  if (mode.mode === 'access') return `tag=${mode.vlan}`
  if (mode.mode !== 'trunk') return null
  const trunks =
    mode.tagged === 'all'
      ? ''
      : ` trunks=${[...(mode.native === null ? [] : [mode.native]), ...mode.tagged].join(',')}`
  return mode.native === null
    ? `vlan_mode=trunk${trunks === ' trunks=' ? ' trunks=4095' : trunks}`
    : `vlan_mode=native-untagged tag=${mode.native}${trunks}`
}

/** Tags that some port or uplink of a plan carries; 0 for none. */
const tagsOf = (plan: Plan): number[] => [
  0,
  ...new Set([
    ...plan.networks.map((n) => n.vlan),
    ...plan.devices.flatMap((d) => d.ports.flatMap((p) => vidsOf(p.mode))),
    ...plan.uplinks.flatMap((u) => (u.tag === null ? [] : [u.tag])),
  ]),
]

interface End {
  readonly device: Device
  readonly ref: PortRef
}

/** What a twin is made of, and what is known of it so far: a script, file by file and line by line. */
/** One interface of a host: the place of its socket, the tag that it sends, its namespace and its network. */
interface TwinInterface {
  readonly i: number
  readonly tag: number
  readonly ns: string
  readonly network: Network | undefined
}

export class TwinGround {
  readonly plan: Plan
  readonly index: PlanIndex
  readonly keys = new Map<string, TunnelKeys>()
  /** Ids of what is down, and of uplinks beyond which nothing answers. */
  readonly failed: ReadonlySet<string>
  readonly upstreamDown: ReadonlySet<string>
  readonly name: ReadonlyMap<string, string>
  readonly live: readonly Device[]
  readonly gatewayDevice: Device | undefined
  readonly cloudDevice: Device | undefined
  readonly lines: string[] = []
  readonly files: Record<string, string> = {}
  readonly ipv6: boolean
  readonly namespaces: readonly { readonly ns: string; readonly device: Device }[]
  /** Sockets that have a cable. */
  readonly plugged = new Set<string>()
  /** Interfaces of the internet, by port and tag. */
  readonly cloudPorts = new Map<string, string>()
  readonly cables = new Map<string, { ns: string; dev: string }[]>()
  readonly uplinks: readonly Uplink[]
  readonly uplinkAt: ReadonlyMap<string, { readonly uplink: Uplink; readonly place: number }>
  readonly switches: string[] = []
  readonly switchNs: string
  private readonly everyTag: readonly number[]
  private readonly redundant: boolean
  private readonly bridges = new Map<string, Set<string>>()
  private counter = 1000

  constructor(
    given: Plan,
    scenario: FailureScenario,
    readonly stem: string,
    readonly realTags: boolean,
  ) {
    this.plan = withEnds(given, this.keys)
    const { plan } = this
    this.index = indexPlan(plan)
    this.failed = downIn(scenario)
    this.upstreamDown = upstreamDownIn(scenario)
    this.name = new Map(plan.devices.map((d, i) => [d.id, `${stem}${i}`]))
    this.live = plan.devices.filter((d) => !this.failed.has(d.id))
    this.gatewayDevice = plan.devices.find((d) => d.kind === 'gateway')
    this.cloudDevice = plan.devices.find((d) => d.kind === 'cloud')
    this.ipv6 = hasIpv6(plan)
    this.redundant = hasRing(plan)
    this.everyTag = tagsOf(plan)
    this.switchNs = `${stem}ovs`
    this.uplinks = [...plan.uplinks]
      .filter((u) => u.deviceId === this.gatewayDevice?.id)
      .sort((a, b) => a.priority - b.priority)
    this.uplinkAt = new Map(
      this.uplinks.map((u, i) => [`${u.deviceId}/${u.portId}`, { uplink: u, place: i + 1 }]),
    )
    this.namespaces = this.namespacesOf()
  }

  /** True of what is there: neither failed nor beyond something that did. */
  isUp(...ids: readonly string[]): boolean {
    return ids.every((id) => !this.failed.has(id))
  }

  nameOf(device: Device): string {
    return this.name.get(device.id) as string
  }

  private namespacesOf() {
    const own = this.live.flatMap((device) =>
      isHost(device)
        ? this.interfaces(device).map(({ ns }) => ({ ns, device }))
        : [{ ns: this.nameOf(device), device }],
    )
    const [first] = this.plan.devices
    return this.realTags && first
      ? [...own, { ns: this.switchNs, device: { ...first, kind: 'switch' as const } }]
      : own
  }

  /**
   * Each socket of a group of hosts is a host of its own; of many alike, the first and the last stand for
   * all.
   */
  sockets(device: Device): number[] {
    const home = this.index.networks.get(device.homeNetworkId ?? '')
    const fixed = home?.fixed.filter((f) => f.deviceId === device.id).length ?? 0
    return device.ports.map((_, i) => i).filter((i) => i === 0 || i === device.ports.length - 1 || i < fixed)
  }

  /** Each interface of those sockets is a host of its own: the tag that it sends, and its network. */
  interfaces(device: Device): TwinInterface[] {
    return this.sockets(device).flatMap((i) => {
      const port = device.ports[i]
      const ns = `${this.name.get(device.id)}s${i}`
      if (port?.mode.mode !== 'trunk')
        return [{ i, tag: 0, ns, network: this.plan.networks.find((n) => n.id === device.homeNetworkId) }]
      const { native, tagged } = port.mode
      return this.plan.networks
        .filter(({ vlan }) => vlan === native || tagged === 'all' || tagged.includes(vlan))
        .map((network) => {
          const tag = network.vlan === native ? 0 : network.vlan
          return { i, tag, ns: tag === 0 ? ns : `${ns}t${tag}`, network }
        })
    })
  }

  private interfaceAt({ device, ref }: End, tag: number): TwinInterface | undefined {
    const i = device.ports.findIndex((p) => p.id === ref.portId)
    return this.interfaces(device).find((iface) => iface.i === i && iface.tag === tag)
  }

  /** A pair of interfaces that are the ends of one cable: `x` and the number, and the number after it. */
  nextPair(): number {
    const nth = this.counter
    this.counter += 3
    return nth
  }

  /** Settings that each namespace begins with. */
  addNamespaces(): void {
    for (const { ns } of this.namespaces) this.lines.push(`ip netns add ${ns}`)
    // Settings that each namespace begins with.
    for (const { ns, device } of this.namespaces) {
      const forwards = device.kind === 'gateway' || device.kind === 'cloud' ? 1 : 0
      this.lines.push(
        `ip netns exec ${ns} sysctl -qw net.ipv6.conf.all.disable_ipv6=${this.ipv6 ? 0 : 1} ` +
          'net.ipv6.conf.default.disable_ipv6=1 net.ipv6.icmp.ratelimit=0 ' +
          `net.ipv6.conf.all.forwarding=${this.ipv6 ? forwards : 0} net.ipv4.ip_forward=${forwards} ` +
          'net.ipv4.conf.all.arp_ignore=1 net.ipv4.conf.all.arp_announce=2 ' +
          'net.ipv4.conf.all.send_redirects=0 net.ipv4.conf.default.send_redirects=0 ' +
          'net.ipv4.conf.all.rp_filter=0 net.ipv4.conf.default.rp_filter=0 ' +
          'net.ipv4.icmp_ratelimit=0 net.ipv4.icmp_msgs_per_sec=100000 2>/dev/null; ip netns ' +
          `exec ${ns} sysctl -qw net.bridge.bridge-nf-call-iptables=0 ` +
          `net.bridge.bridge-nf-call-ip6tables=0 2>/dev/null || true; ip -n ${ns} link set lo up`,
      )
    }
  }

  private tree(device: Device): string {
    const stp = modelOf(this.index, device.model)?.stp ?? device.kind === 'switch'
    return this.redundant && stp
      ? ` stp_state 1 forward_delay 200 hello_time 100 priority ${device.stpPriority ?? 32768}`
      : ' stp_state 0'
  }

  /** True the first time that a device is asked for a bridge of this name. */
  private isNew(device: Device, id: string): boolean {
    const known = this.bridges.get(device.id) ?? new Set()
    this.bridges.set(device.id, known)
    return known.size < known.add(id).size
  }

  bridge(device: Device, id: string): string {
    const ns = this.nameOf(device)
    if (this.isNew(device, id))
      this.lines.push(
        `ip -n ${ns} link add name ${id} type bridge${this.tree(device)}` +
          (this.ipv6 ? ' mcast_snooping 0' : ''),
        `ip -n ${ns} link set ${id} up`,
      )
    return id
  }

  private switchOf(device: Device): string {
    const id = `b${this.plan.devices.indexOf(device)}`
    const begun = `add-br ${id} -- set bridge ${id} datapath_type=netdev`
    if (!this.switches.includes(begun)) this.switches.push(begun)
    return id
  }

  /**
   * A device's own interface in a VLAN: its bridge for that VID, or a veth to an untagged port of its Open
   * vSwitch.
   */
  vidBridge(device: Device, vid: number): string {
    const id = device.kind === 'gateway' ? lanName(vid) : `v${vid}`
    if (!this.realTags) return this.bridge(device, id)
    if (!this.isNew(device, id)) return id
    const [ns, nth] = [this.nameOf(device), this.nextPair()]
    this.lines.push(
      `ip link add name x${nth} netns ${ns} index ${nth} ` +
        `type veth peer name x${nth + 1} netns ${this.switchNs} index ${nth + 1}`,
      `ip -n ${ns} link set x${nth} name ${id}`,
      `ip -n ${ns} link set ${id} up`,
      `ip -n ${this.switchNs} link set x${nth + 1} up`,
      plainSums(ns, id),
    )
    this.switches.push(`add-port ${this.switchOf(device)} x${nth + 1} tag=${vid}`)
    return id
  }

  /** True for a port that Open vSwitch switches. */
  private isSwitched({ device, ref }: End, link: Link): boolean {
    return (
      this.realTags &&
      isVlanAware(device) &&
      !this.uplinkAt.has(portKey(ref)) &&
      modeOf(this.index, device, ref, link).mode !== 'routed'
    )
  }

  /** Namespace of a cable's end; null where nobody stands at it. */
  private nsOf(end: End, link: Link, tag: number): string | null {
    if (this.isSwitched(end, link)) return this.switchNs
    if (!isHost(end.device)) return this.nameOf(end.device)
    return this.interfaceAt(end, tag)?.ns ?? null
  }

  /** The end of a cable at a device, for frames with one tag; `dev`: the interface that is laid there. */
  private attach(end: End, link: Link, tag: number, dev: string): void {
    const { device, ref } = end
    const ns = this.nsOf(end, link, tag) as string
    const line = this.uplinkAt.get(portKey(ref))
    const mode = modeOf(this.index, device, ref, link)
    if (line && device.id === this.gatewayDevice?.id) {
      if (tag === (line.uplink.tag ?? 0)) this.lines.push(...renamed(ns, dev, wanName(line.place)))
    } else if (device.kind === 'cloud') {
      this.cloudPorts.set(`${ref.portId} ${tag}`, dev)
      this.lines.push(`ip -n ${ns} link set ${dev} up`)
    } else if (isHost(device)) {
      if (mode.mode !== 'off') this.attachHost(ns, dev)
    } else if (mode.mode === 'routed' && device.kind === 'gateway') {
      if (tag === 0) this.attachRouted(end, ns, dev)
    } else if (this.isSwitched(end, link)) {
      const words = portWords(mode)
      this.lines.push(`ip -n ${this.switchNs} link set ${dev} up`)
      if (words !== null) this.switches.push(`add-port ${this.switchOf(device)} ${dev} ${words}`)
    } else this.attachBridge(device, mode, tag, dev)
  }

  private attachHost(ns: string, dev: string): void {
    this.lines.push(...renamed(ns, dev, 'e0'), ...(this.realTags ? [plainSums(ns, 'e0')] : []))
    this.plugged.add(ns)
  }

  private attachRouted({ device, ref }: End, ns: string, dev: string): void {
    const routed = device.ports.filter((x) => x.mode.mode === 'routed')
    const id = routedName(routed.findIndex((x) => x.id === ref.portId) + 1)
    this.lines.push(...renamed(ns, dev, id), ...(this.ipv6 ? [wake(ns, id)] : []))
  }

  private attachBridge(device: Device, mode: PortMode, tag: number, dev: string): void {
    const vid = isVlanAware(device) ? vidAt(mode, tag) : null
    if (isVlanAware(device) ? vid === null : mode.mode === 'off') return
    const to = vid === null ? this.bridge(device, `t${tag}`) : this.vidBridge(device, vid)
    const ns = this.nameOf(device)
    this.lines.push(`ip -n ${ns} link set ${dev} master ${to}`, `ip -n ${ns} link set ${dev} up`)
  }

  /** Tags that a port sorts by itself; null where it passes all. */
  private ownTags({ device, ref }: End, link: Link): readonly number[] | null {
    if (!isVlanAware(device) || this.uplinkAt.has(portKey(ref))) return null
    const mode = modeOf(this.index, device, ref, link)
    return mode.mode === 'routed' ? [0] : this.everyTag.filter((tag) => vidAt(mode, tag) !== null)
  }

  /** Tags that a cable has a wire of its own for; with real tags one cable carries them all. */
  private wiresOf(ends: readonly [End, End], link: Link): readonly number[] {
    if (this.realTags) return [0]
    const [first, second] = [this.ownTags(ends[0], link), this.ownTags(ends[1], link)]
    const all = first && second ? [...new Set([...first, ...second])] : (first ?? second ?? this.everyTag)
    const stands = (end: End, tag: number) => !isHost(end.device) || this.interfaceAt(end, tag) !== undefined
    return all.filter((tag) => ends.every((end) => stands(end, tag)))
  }

  /** What is on a line or a routed port goes with its cable; of cables that work as one another takes over. */
  private isKept(ends: readonly End[], link: Link): boolean {
    if (link.lag !== null) return false
    return !ends.some(
      ({ device, ref }) =>
        device.kind === 'cloud' ||
        this.uplinkAt.has(portKey(ref)) ||
        modeOf(this.index, device, ref, link).mode === 'routed',
    )
  }

  /** True of a cable that works as one with another that is laid already: this kernel has no bonds. */
  private isSpare(link: Link): boolean {
    const laid = this.plan.links.filter(({ id, lag }) => lag !== null && lag === link.lag && this.isUp(id))
    return laid.length > 0 && laid[0]?.id !== link.id
  }

  layCable(link: Link): void {
    const [first, second] = [this.index.devices.get(link.a.deviceId), this.index.devices.get(link.b.deviceId)]
    if (!first || !second || !this.isUp(link.id, first.id, second.id) || this.isSpare(link)) return
    const ends = [
      { device: first, ref: link.a },
      { device: second, ref: link.b },
    ] as const
    const laid: { ns: string; dev: string }[] = []
    if (this.isKept(ends, link) && !this.realTags) this.cables.set(link.id, laid)
    for (const tag of this.wiresOf(ends, link)) {
      const [near, far] = [this.nsOf(ends[0], link, tag), this.nsOf(ends[1], link, tag)]
      if (near === null || far === null) continue
      const nth = this.nextPair()
      this.lines.push(
        `ip link add name x${nth} netns ${near} index ${nth} ` +
          `type veth peer name x${nth + 1} netns ${far} index ${nth + 1}`,
      )
      this.attach(ends[0], link, tag, `x${nth}`)
      this.attach(ends[1], link, tag, `x${nth + 1}`)
      laid.push(
        { ns: near, dev: isHost(first) ? 'e0' : `x${nth}` },
        { ns: far, dev: isHost(second) ? 'e0' : `x${nth + 1}` },
      )
    }
  }

  /** Starts Open vSwitch with all its ports, where any is wanted. */
  startSwitches(): void {
    if (this.switches.length === 0) return
    const db = 'unix:"$DIR/ovs/db.sock"'
    this.lines.push(
      'mkdir -p "$DIR/ovs"',
      'export OVS_RUNDIR="$DIR/ovs"',
      'SCHEMA=/usr/share/openvswitch/vswitch.ovsschema',
      '[ -e "$SCHEMA" ] || SCHEMA="${MAST_UNPACKED:-}$SCHEMA"',
      'ovsdb-tool create "$DIR/ovs/conf.db" "$SCHEMA"',
      `ip netns exec ${this.switchNs} ovsdb-server "$DIR/ovs/conf.db" ` +
        '--remote=punix:"$DIR/ovs/db.sock" --pidfile="$DIR/ovs/db.pid" ' +
        '--unixctl="$DIR/ovs/db.ctl" --log-file="$DIR/ovs/db.log" --detach --no-chdir ' +
        '2>/dev/null',
      `ovs-vsctl --db=${db} --no-wait init`,
      `ip netns exec ${this.switchNs} ovs-vswitchd ${db} --pidfile="$DIR/ovs/vs.pid" ` +
        '--unixctl="$DIR/ovs/vs.ctl" --log-file="$DIR/ovs/vs.log" --detach --no-chdir ' +
        '2>/dev/null',
      `ovs-vsctl --db=${db} --timeout=20 ${[...this.switches]
        .sort()
        .map((words) => `-- ${words}`)
        .join(' ')}`,
    )
  }
}

/** Gives an interface its name, and sets it up. */
const renamed = (ns: string, dev: string, name: string): string[] => [
  `ip -n ${ns} link set ${dev} name ${name}`,
  `ip -n ${ns} link set ${name} up`,
]

export { macOf, wake }
