import {
  formatIpv4,
  formatIpv6,
  ipv4,
  parseIpv4,
  parsePrefix4,
  parsePrefix6,
  routerSix,
  type Prefix6,
} from '#core/address'
import { orNull } from '#core/util'
import { newTunnelKeys, type TunnelKeys } from '#server/platform/x25519'
import { speaksSix } from '#core/reachability'
import {
  choiceMark,
  dnsmasqConf,
  ipBatch,
  lanName,
  lineMark,
  nftRuleset,
  peerConf,
  routedName,
  wanName,
  wgName,
  wireguardConf,
} from '#core/export'
import {
  DARK,
  farEnd,
  indexPlan,
  isHost,
  isVlanAware,
  modelOf,
  portKey,
  tags,
  typedSix,
  vidsOf,
  type Device,
  type Link,
  type Plan,
  type PlanIndex,
  type PortMode,
  type PortRef,
} from '#core/model'

// From a plan to a shell script of network namespaces.
// What stands in for what:
// - 802.1Q: one bridge for each VID and one veth for each tag on each cable, each end attached by its own
// port alone;
// - PPPoE and the lines' own addresses: plain addresses of 198.18.0.0/15 (RFC 2544);
// or, for a few sites, one bridge of Open vSwitch for each device, in its userspace datapath, with real tags
// on one veth for each
// cable: other code, so that the bundles themselves are checked (no spanning tree, isolation or tagged lines
// there);
// - client isolation: frames between isolated stations are dropped by address at each access point;
// - devices answer for an address only on the interface that has it (arp_ignore 1), as the engine has it and
// most devices do;
// - WireGuard in the kernel: wireguard-go over /dev/net/tun, one process for each interface;
// - a far site: its gateway and one host in one namespace, which has the site's first address; a provider:
// the same, with masquerade;
// - a line that is dark: its far end has no address;
// Bridges pass IPv6 like anything else: no firewall looks at what crosses them (bridge-nf-call-ip6tables),
// and none keeps neighbours' questions to itself (mcast_snooping).
// - a provider's IPv6: plain addresses of 2001:db8:ffff::/48 (RFC 3849) on the line, and a way to what it
// delegates; hosts make
// their own of what dnsmasq advertises (RFC 4862), without looking for duplicates first;
// - the internet: one host, 198.51.100.1 (RFC 5737), that knows no way to private addresses.
// Rules, routes, addresses and pools are the files that Able Mast writes for a gateway, loaded by nft, ip and
// dnsmasq.

export const OUTSIDE = '198.51.100.1'
export const OUTSIDE6 = '2001:db8:ffff:ffff::7'

export interface Host {
  readonly ns: string
  readonly deviceId: string
  /** Its socket; null for a device's own address. */
  readonly portId: string | null
  readonly dev: string
}
export interface Built {
  readonly script: string
  /** IPv6 on each host's interface, when somebody advertises it; empty where the plan has none. */
  readonly wake6: readonly string[]
  /** Run when the lines are known to be well or not. */
  readonly tunnels: string
  readonly files: Readonly<Record<string, string>>
  readonly hosts: readonly Host[]
  readonly clients: readonly Host[]
  readonly gateway: string
  /** Namespaces that serve DHCP, each by a file of its own. */
  readonly servers: readonly { readonly ns: string; readonly file: string }[]
  readonly gatewayId: string
  readonly cloud: string
  readonly namespaces: readonly string[]
  /** Address of the gateway on each line, by uplink id, in the order of priority. */
  readonly wans: readonly {
    readonly id: string
    readonly own: string
    readonly far: string
    readonly dev: string
    readonly shared: boolean
    readonly probed: boolean
    readonly tables: readonly number[]
  }[]
  /**
   * By cable, the ends at which nothing is heard when it breaks; absent where a broken cable takes addresses
   * or routes along.
   */
  readonly cables: ReadonlyMap<string, readonly { readonly ns: string; readonly dev: string }[]>
  readonly peers: readonly {
    readonly tunnelId: string
    readonly peerId: string
    readonly ns: string
    readonly address: string
    readonly home: string
    readonly address6: string | null
    readonly home6: string | null
  }[]
}

const OWN: readonly Device['kind'][] = ['switch', 'access-point', 'bridge-radio', 'extender', 'controller']

/**
 * Mode of a port for a cable, as the device's own configuration states it: over Wi-Fi, access to the SSID's
 * VLAN.
 */
function modeOf(index: PlanIndex, device: Device, ref: PortRef, link: Link): PortMode {
  const mode = device.ports.find((p) => p.id === ref.portId)?.mode ?? { mode: 'off' }
  if (link.medium.kind !== 'wifi' || device.kind !== 'access-point') return mode
  const ssid = index.ssids.get(link.medium.ssidId)
  const vlan = ssid && index.networks.get(ssid.networkId)?.vlan
  return ssid?.apIds.includes(device.id) && vlan !== undefined ? { mode: 'access', vlan } : { mode: 'off' }
}

/** The VID whose frames leave a port with a tag and that a frame with that tag gets; null for none. */
function vidAt(mode: PortMode, tag: number): number | null {
  if (mode.mode === 'access') return tag === 0 ? mode.vlan : null
  if (mode.mode !== 'trunk') return null
  if (tag === 0) return mode.native
  if (tags(mode, tag)) return tag
  return null
}

/**
 * The plan with a hardware address for each reservation that nobody has read one for: what is not known
 * cannot be reserved.
 */
export function withMacs(plan: Plan): Plan {
  let nth = 0
  const read = new Map(plan.brief.equipment.map((e) => [e.deviceId, e.mac]))
  return {
    ...plan,
    networks: plan.networks.map((net) => ({
      ...net,
      fixed: net.fixed.map((assignment) =>
        assignment.how === 'reserved' && assignment.mac === null && !read.get(assignment.deviceId)
          ? { ...assignment, mac: `00-00-5E-00-53-${(128 + nth++).toString(16).toUpperCase()}` }
          : assignment,
      ),
    })),
  }
}

/** Address of the n-th peer's own line to the internet, and of the internet's end of it. */
const peerLine = (n: number) => ({ own: `198.19.${n}.2`, far: `198.19.${n}.1` })

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

export function buildTwin(given: Plan, weather: readonly string[], stem: string, realTags = false): Built {
  const keys = new Map<string, TunnelKeys>()
  const plan = withEnds(given, keys)
  const index = indexPlan(plan)
  const failed = new Set(weather)
  const name = new Map(plan.devices.map((d, i) => [d.id, `${stem}${i}`]))
  const live = plan.devices.filter((d) => !failed.has(d.id))
  const gatewayDevice = plan.devices.find((d) => d.kind === 'gateway')
  const cloudDevice = plan.devices.find((d) => d.kind === 'cloud')
  const lines: string[] = []
  const six = plan.networks.some(speaksSix)
  /**
   * Lets one interface speak IPv6; all others stay silent.
   * `hears`: it makes itself an address of what is advertised.
   */
  /** Makes itself addresses of what a router says, at once. */
  const HEARS =
    'echo 1 > autoconf; echo 2 > accept_ra; echo 1 > accept_ra_defrtr; echo 0 > use_tempaddr; ' +
    'echo 0 > router_solicitation_delay; echo 1 > router_solicitation_interval; '
  const wake = (ns: string, dev: string, hears = false): string => {
    const conf = `/proc/sys/net/ipv6/conf/${dev}`
    return (
      `ip netns exec ${ns} sh -c 'cd ${conf} 2>/dev/null || exit 0; echo 0 > accept_dad; ` +
      `${hears ? HEARS : 'echo 0 > accept_ra; '}echo 0 > disable_ipv6'`
    )
  }
  // Tunnels come last, those who are dialled before those who dial: a call that is lost is made again only
  // after five seconds.
  const [dialled, ours, dialling]: [string[], string[], string[]] = [[], [], []]
  const bridges = new Map<string, Set<string>>()
  const macOf = (n: number) => `00:00:5e:00:53:${((n % 250) + 1).toString(16).padStart(2, '0')}`
  // Each socket of a group of hosts is a host of its own; of many alike, the first and the last stand for
  // all.
  const sockets = (device: Device): number[] => {
    const fixed =
      index.networks.get(device.wants ?? '')?.fixed.filter((f) => f.deviceId === device.id).length ?? 0
    return device.ports.map((_, i) => i).filter((i) => i === 0 || i === device.ports.length - 1 || i < fixed)
  }
  const socketName = (d: Device, i: number) => `${name.get(d.id)}s${i}`
  const namespaces = live.flatMap((device) =>
    isHost(device)
      ? sockets(device).map((i) => ({ ns: socketName(device, i), device }))
      : [{ ns: name.get(device.id) as string, device }],
  )
  if (realTags)
    namespaces.push({ ns: `${stem}ovs`, device: { ...(plan.devices[0] as Device), kind: 'switch' } })
  for (const { ns } of namespaces) lines.push(`ip netns add ${ns}`)
  // Settings that each namespace begins with.
  for (const { ns, device } of namespaces) {
    const forwards = device.kind === 'gateway' || device.kind === 'cloud' ? 1 : 0
    lines.push(
      `ip netns exec ${ns} sysctl -qw net.ipv6.conf.all.disable_ipv6=${six ? 0 : 1} ` +
        'net.ipv6.conf.default.disable_ipv6=1 net.ipv6.icmp.ratelimit=0 ' +
        `net.ipv6.conf.all.forwarding=${six ? forwards : 0} net.ipv4.ip_forward=${forwards} ` +
        'net.ipv4.conf.all.arp_ignore=1 net.ipv4.conf.all.arp_announce=2 ' +
        'net.ipv4.conf.all.rp_filter=0 net.ipv4.conf.default.rp_filter=0 ' +
        'net.ipv4.icmp_ratelimit=0 net.ipv4.icmp_msgs_per_sec=100000 2>/dev/null; ip netns ' +
        `exec ${ns} sysctl -qw net.bridge.bridge-nf-call-iptables=0 ` +
        `net.bridge.bridge-nf-call-ip6tables=0 2>/dev/null || true; ip -n ${ns} link set lo up`,
    )
  }
  const stp = (d: Device) => modelOf(index, d.model)?.stp ?? d.kind === 'switch'
  const redundant =
    plan.links.filter((l) => l.medium.kind !== 'wifi' && l.medium.kind !== 'line').length >=
      plan.devices.filter((d) => d.kind !== 'cloud').length + 1 &&
    plan.devices.some((d) => d.stpPriority !== null)
  const tree = (device: Device): string =>
    redundant && stp(device)
      ? ` stp_state 1 forward_delay 200 hello_time 100 priority ${device.stpPriority ?? 32768}`
      : ' stp_state 0'
  let counter = 1000
  const bridge = (device: Device, id: string): string => {
    const ns = name.get(device.id) as string
    const known = bridges.get(device.id) ?? new Set()
    bridges.set(device.id, known)
    if (!known.has(id)) {
      known.add(id)
      lines.push(
        `ip -n ${ns} link add name ${id} type ` + `bridge${tree(device)}${six ? ' mcast_snooping 0' : ''}`,
        `ip -n ${ns} link set ${id} up`,
      )
    }
    return id
  }
  const switches: string[] = []
  const switchNs = `${stem}ovs`
  const switchOf = (device: Device): string => {
    const id = `b${plan.devices.indexOf(device)}`
    const begun = `add-br ${id} -- set bridge ${id} datapath_type=netdev`
    if (!switches.includes(begun)) switches.push(begun)
    return id
  }
  /**
   * A device's own interface in a VLAN: its bridge for that VID, or a veth to an untagged port of its Open
   * vSwitch.
   */
  const vidBridge = (device: Device, vid: number): string => {
    const id = device.kind === 'gateway' ? lanName(vid) : `v${vid}`
    if (!realTags) return bridge(device, id)
    const known = bridges.get(device.id) ?? new Set()
    bridges.set(device.id, known)
    if (known.has(id)) return id
    known.add(id)
    const [ns, nth] = [name.get(device.id) as string, counter]
    counter += 3
    lines.push(
      `ip link add name x${nth} netns ${ns} index ${nth} ` +
        `type veth peer name x${nth + 1} netns ${switchNs} index ${nth + 1}`,
      `ip -n ${ns} link set x${nth} name ${id}`,
      `ip -n ${ns} link set ${id} up`,
      `ip -n ${switchNs} link set x${nth + 1} up`,
      plainSums(ns, id),
    )
    switches.push(`add-port ${switchOf(device)} x${nth + 1} tag=${vid}`)
    return id
  }
  /** Open vSwitch reads frames as they are: what sends them must have finished their checksums. */
  const plainSums = (ns: string, dev: string): string =>
    `ip netns exec ${ns} ethtool -K ${dev} tx off >/dev/null 2>&1 || true`
  /** True for a port that Open vSwitch switches. */
  const isSwitched = (device: Device, ref: PortRef, link: Link): boolean =>
    realTags &&
    isVlanAware(device) &&
    !uplinkAt.has(portKey(ref)) &&
    modeOf(index, device, ref, link).mode !== 'routed'
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
  const everyTag = [
    0,
    ...new Set([
      ...plan.networks.map((n) => n.vlan),
      ...plan.devices.flatMap((d) => d.ports.flatMap((p) => vidsOf(p.mode))),
      ...plan.uplinks.flatMap((u) => (u.tag === null ? [] : [u.tag])),
    ]),
  ]
  const uplinks = [...plan.uplinks]
    .filter((u) => u.deviceId === gatewayDevice?.id)
    .sort((a, b) => a.priority - b.priority)
  const uplinkAt = new Map(uplinks.map((u, i) => [`${u.deviceId}/${u.portId}`, { uplink: u, place: i + 1 }]))
  const cloudPorts = new Map<string, string>()
  const plugged = new Set<string>()

  /** Namespace of a cable's end; null where nobody stands at it. */
  const nsOf = (device: Device, ref: PortRef, link?: Link): string | null => {
    if (link && isSwitched(device, ref, link)) return switchNs
    if (!isHost(device)) return name.get(device.id) as string
    const i = device.ports.findIndex((p) => p.id === ref.portId)
    return sockets(device).includes(i) ? socketName(device, i) : null
  }
  function attach(device: Device, ref: PortRef, link: Link, tag: number, dev: string): void {
    const ns = nsOf(device, ref, link) as string
    const up = () => lines.push(`ip -n ${ns} link set ${dev} up`)
    const join = (to: string) => lines.push(`ip -n ${ns} link set ${dev} master ${to}`)
    const line = uplinkAt.get(portKey(ref))
    if (line && device.id === gatewayDevice?.id) {
      if (tag !== (line.uplink.tag ?? 0)) return
      lines.push(
        `ip -n ${ns} link set ${dev} name ${wanName(line.place)}`,
        `ip -n ${ns} link set ${wanName(line.place)} up`,
      )
      return
    }
    if (device.kind === 'cloud') {
      cloudPorts.set(`${ref.portId} ${tag}`, dev)
      return void up()
    }
    const mode = modeOf(index, device, ref, link)
    if (isHost(device)) {
      if (tag !== 0 || mode.mode === 'off') return
      lines.push(
        `ip -n ${ns} link set ${dev} name e0`,
        `ip -n ${ns} link set e0 up`,
        ...(realTags ? [plainSums(ns, 'e0')] : []),
      )
      plugged.add(ns)
      return
    }
    if (mode.mode === 'routed' && device.kind === 'gateway') {
      if (tag !== 0) return
      const place =
        device.ports.filter((x) => x.mode.mode === 'routed').findIndex((x) => x.id === ref.portId) + 1
      lines.push(
        `ip -n ${ns} link set ${dev} name ${routedName(place)}`,
        `ip -n ${ns} link set ${routedName(place)} up`,
        ...(six ? [wake(ns, routedName(place))] : []),
      )
      return
    }
    if (isSwitched(device, ref, link)) {
      const words = portWords(mode)
      lines.push(`ip -n ${switchNs} link set ${dev} up`)
      if (words !== null) switches.push(`add-port ${switchOf(device)} ${dev} ${words}`)
      return
    }
    if (isVlanAware(device)) {
      const vid = vidAt(mode, tag)
      if (vid === null) return
      join(vidBridge(device, vid))
    } else {
      if (mode.mode === 'off') return
      join(bridge(device, `t${tag}`))
    }
    up()
  }

  const cables = new Map<string, { ns: string; dev: string }[]>()
  for (const link of plan.links) {
    const [first, second] = [index.devices.get(link.a.deviceId), index.devices.get(link.b.deviceId)]
    if (!first || !second || failed.has(link.id) || failed.has(first.id) || failed.has(second.id)) continue
    const own = (device: Device, ref: PortRef): number[] | null => {
      if (!isVlanAware(device) || uplinkAt.has(portKey(ref))) return null
      const mode = modeOf(index, device, ref, link)
      return mode.mode === 'routed' ? [0] : everyTag.filter((tag) => vidAt(mode, tag) !== null)
    }
    const [ta, tb] = [own(first, link.a), own(second, link.b)]
    const all = ta && tb ? [...new Set([...ta, ...tb])] : (ta ?? tb ?? everyTag)
    const wire = isHost(first) || isHost(second) ? all.filter((t) => t === 0) : all
    const [na, nb] = [nsOf(first, link.a, link), nsOf(second, link.b, link)]
    // What is on a line or a routed port goes with its cable.
    const keeps = ![first, second].some(
      (device, i) =>
        device.kind === 'cloud' ||
        uplinkAt.has(portKey(i === 0 ? link.a : link.b)) ||
        modeOf(index, device, i === 0 ? link.a : link.b, link).mode === 'routed',
    )
    const ends: { ns: string; dev: string }[] = []
    if (keeps && !realTags) cables.set(link.id, ends)
    if (na === null || nb === null) continue
    // With real tags one cable carries them all.
    for (const tag of realTags ? [0] : wire) {
      const nth = counter
      counter += 3
      lines.push(
        `ip link add name x${nth} netns ${na} index ${nth} ` +
          `type veth peer name x${nth + 1} netns ${nb} index ${nth + 1}`,
      )
      attach(first, link.a, link, tag, `x${nth}`)
      attach(second, link.b, link, tag, `x${nth + 1}`)
      ends.push(
        { ns: na, dev: isHost(first) ? 'e0' : `x${nth}` },
        { ns: nb, dev: isHost(second) ? 'e0' : `x${nth + 1}` },
      )
    }
  }

  // The internet: one address, and one end of each line.
  const cloud = cloudDevice ? (name.get(cloudDevice.id) as string) : ''
  const wans = uplinks.map((uplink, i) => ({
    id: uplink.id,
    own: `198.18.${i + 1}.2`,
    far: `198.18.${i + 1}.1`,
    dev: wanName(i + 1),
    shared: uplink.outside === 'shared',
    probed: uplink.probe !== null,
    tables: [
      lineMark(i + 1),
      ...plan.policyRoutes
        .filter((r) => r.deviceId === uplink.deviceId)
        .flatMap((r, j) => (r.out.kind === 'uplink' && r.out.id === uplink.id ? [choiceMark(j + 1)] : [])),
    ],
  }))
  if (cloudDevice && !failed.has(cloudDevice.id)) {
    lines.push(
      `ip -n ${cloud} addr add ${OUTSIDE}/32 dev lo`,
      ...(six ? [`ip -n ${cloud} addr add ${OUTSIDE6}/128 dev lo nodad`] : []),
    )
    uplinks.forEach((uplink, i) => {
      const port = cloudPortOf(index, { deviceId: uplink.deviceId, portId: uplink.portId })
      const dev = port && cloudPorts.get(`${port} ${uplink.tag ?? 0}`)
      if (dev && !failed.has(uplink.id) && !failed.has(DARK + uplink.id))
        lines.push(
          `ip -n ${cloud} addr add 198.18.${i + 1}.1/30 dev ${dev}`,
          `ip -n ${cloud} route replace 198.18.${i + 1}.0/30 dev ${dev} src ${OUTSIDE}`,
        )
      if (six && uplink.facts.delegated6 && dev && !failed.has(uplink.id) && !failed.has(DARK + uplink.id))
        lines.push(
          wake(cloud, dev),
          `ip -n ${cloud} addr add 2001:db8:ffff:${i + 1}::1/64 dev ${dev} nodad`,
          `ip -n ${cloud} route replace ${uplink.facts.delegated6} ` +
            `via 2001:db8:ffff:${i + 1}::2 dev ${dev} src ${OUTSIDE6}`,
        )
    })
  }
  const files: Record<string, string> = {}
  const servers: Built['servers'][number][] = []
  // Other gateways than the one with the lines: their networks, routed ports, routes and rules.
  plan.devices
    .filter((d) => d.kind === 'gateway' && d.id !== gatewayDevice?.id && !failed.has(d.id))
    .forEach((device, i) => {
      const ns = name.get(device.id) as string
      for (const network of plan.networks) if (network.routerId === device.id) vidBridge(device, network.vlan)
      if (six)
        for (const network of plan.networks)
          if (network.routerId === device.id) lines.push(wake(ns, lanName(network.vlan)))
      files[`other${i}.nft`] = nftRuleset(plan, device.id) ?? ''
      files[`other${i}.ip`] = ipBatch(plan, device.id)
      files[`other${i}.conf`] = dnsmasqConf(plan, device.id)
      servers.push({ ns, file: `other${i}.conf` })
      lines.push(
        `ip netns exec ${ns} nft -f "$DIR/other${i}.nft"`,
        `ip -n ${ns} -force -batch "$DIR/other${i}.ip" 2>/dev/null || true`,
      )
    })
  const gateway = gatewayDevice && !failed.has(gatewayDevice.id) ? (name.get(gatewayDevice.id) as string) : ''
  if (gatewayDevice && gateway !== '') {
    for (const network of plan.networks)
      if (network.routerId === gatewayDevice.id) vidBridge(gatewayDevice, network.vlan)
    if (six)
      for (const network of plan.networks)
        if (network.routerId === gatewayDevice.id) lines.push(wake(gateway, lanName(network.vlan)))
    files['gateway.nft'] = nftRuleset(plan, gatewayDevice.id) ?? ''
    files['gateway.ip'] = ipBatch(plan, gatewayDevice.id)
    files['dnsmasq.conf'] = dnsmasqConf(plan, gatewayDevice.id)
    servers.push({ ns: gateway, file: 'dnsmasq.conf' })
    plan.tunnels
      .filter((t) => t.deviceId === gatewayDevice.id)
      .forEach((tunnel, i) => {
        files[`${wgName(i + 1)}.conf`] = wireguardConf(tunnel, keys.get(tunnel.id)?.privateKey)
        ours.push(
          startWireguard(gateway, wgName(i + 1), `cat "$DIR/${wgName(i + 1)}.conf"`),
          ...(six && tunnel.address6 ? [wake(gateway, wgName(i + 1))] : []),
        )
      })
    // What speaks of tunnels is loaded again when they are there.
    ours.push(`ip -n ${gateway} -force -batch "$DIR/gateway.ip" 2>/dev/null || true`)
    lines.push(
      `ip netns exec ${gateway} nft -f "$DIR/gateway.nft"`,
      `ip -n ${gateway} -force -batch "$DIR/gateway.ip" 2>/dev/null || true`,
    )
    const toTable = (wan: (typeof wans)[number], table: (typeof wan.tables)[number]) =>
      `ip -n ${gateway} route add default via ${wan.far} dev ${wan.dev} table ${table}`
    wans.forEach((wan, i) =>
      lines.push(
        `ip -n ${gateway} addr add ${wan.own}/30 dev ${wan.dev} 2>/dev/null && ip -n ` +
          `${gateway} route add default via ${wan.far} dev ${wan.dev} metric ` +
          `${i + 1}${wan.tables.map((t) => ` && ${toTable(wan, t)}`).join('')} || ` +
          'true',
      ),
    )
    // A line's table of IPv6 leads out by it; without the line it leads nowhere.
    if (six)
      wans.forEach((wan, i) =>
        uplinks[i]?.facts.delegated6
          ? lines.push(
              wake(gateway, wan.dev),
              `ip -n ${gateway} addr add 2001:db8:ffff:${i + 1}::2/64 dev ${wan.dev} nodad ` +
                `2>/dev/null && ip -n ${gateway} route add default via 2001:db8:ffff:${i + 1}::1 dev ` +
                `${wan.dev} metric ${i + 1} && ip -n ${gateway} route add default via ` +
                `2001:db8:ffff:${i + 1}::1 dev ${wan.dev} table ${lineMark(i + 1)} || true`,
            )
          : 0,
      )
  }

  // Hosts, and devices' own addresses: typed in where the plan types them in, by DHCP otherwise.
  const hosts: Host[] = []
  const clients: Host[] = []
  const wake6Of = new Map<Host, string>()
  const place = (device: Device, ns: string, portId: string | null, dev: string, nth: number) => {
    const host = { ns, deviceId: device.id, portId, dev }
    hosts.push(host)
    const home = device.wants === null ? undefined : index.networks.get(device.wants)
    // A socket without its cable is there all the same, without carrier.
    if (dev === 'e0' && !plugged.has(ns))
      lines.push(`ip -n ${ns} link add e0 type veth peer name e0x`, `ip -n ${ns} link set e0 up`)
    const fixed = home?.fixed.filter((f) => f.deviceId === device.id)[nth]
    if (fixed?.how === 'static' && home) {
      const typed = six ? typedSix(home, fixed) : null
      const prefix6 = orNull(parsePrefix6(home.prefix6 ?? ''))
      if (typed && prefix6)
        wake6Of.set(
          host,
          `${wake(ns, dev)}; ip -n ${ns} addr add ${fixed.ip6}/${typed.prefix.length} dev ` +
            `${dev} nodad; ip -n ${ns} route add default via ${routerSix(prefix6)} dev ${dev} ` +
            '2>/dev/null || true',
        )
      const subnet = parsePrefix4(home.subnet)
      const length = fixed.mask ?? (subnet.ok ? subnet.value.length : 32)
      const router = fixed.gateway ?? home.gateway
      // A router beyond the host's own mask is refused by its system, as by any.
      if (parseIpv4(fixed.ip).ok)
        lines.push(
          `ip -n ${ns} addr add ${fixed.ip}/${length} dev ${dev} 2>/dev/null && ip -n ${ns} ` +
            `route add default via ${router} dev ${dev} 2>/dev/null || true`,
        )
      return
    }
    const known = fixed?.mac ?? plan.brief.equipment.find((e) => e.deviceId === device.id)?.mac ?? null
    lines.push(
      `ip -n ${ns} link set ${dev} address ` +
        `${known ? known.replaceAll('-', ':').toLowerCase() : `02${macOf(hosts.length).slice(2)}`} 2>/dev/null ` +
        '|| true',
    )
    clients.push(host)
  }
  for (const device of live) {
    if (device.kind === 'hosts' || device.kind === 'controller') {
      for (const i of sockets(device))
        place(device, socketName(device, i), device.ports[i]?.id ?? '', 'e0', i)
    } else if (OWN.includes(device.kind) && device.wants !== null) {
      const home = index.networks.get(device.wants)
      if (home)
        place(
          device,
          name.get(device.id) as string,
          null,
          isVlanAware(device) ? vidBridge(device, home.vlan) : bridge(device, 't0'),
          0,
        )
    }
  }
  if (switches.length > 0) {
    const db = 'unix:"$DIR/ovs/db.sock"'
    lines.push(
      'mkdir -p "$DIR/ovs"',
      'export OVS_RUNDIR="$DIR/ovs"',
      'ovsdb-tool create "$DIR/ovs/conf.db" /usr/share/openvswitch/vswitch.ovsschema',
      `ip netns exec ${switchNs} ovsdb-server "$DIR/ovs/conf.db" ` +
        '--remote=punix:"$DIR/ovs/db.sock" --pidfile="$DIR/ovs/db.pid" ' +
        '--unixctl="$DIR/ovs/db.ctl" --log-file="$DIR/ovs/db.log" --detach --no-chdir ' +
        '2>/dev/null',
      `ovs-vsctl --db=${db} --no-wait init`,
      `ip netns exec ${switchNs} ovs-vswitchd ${db} --pidfile="$DIR/ovs/vs.pid" ` +
        '--unixctl="$DIR/ovs/vs.ctl" --log-file="$DIR/ovs/vs.log" --detach --no-chdir ' +
        '2>/dev/null',
      `ovs-vsctl --db=${db} --timeout=20 ${[...switches]
        .sort()
        .map((words) => `-- ${words}`)
        .join(' ')}`,
    )
  }
  // Peers, each beyond a line of its own.
  const peers: Built['peers'][number][] = []
  const called = wans.find(
    (w) => !w.shared && plan.uplinks.find((u) => u.id === w.id)?.facts.modem !== 'routing',
  )
  plan.tunnels
    .filter((t) => t.deviceId === gatewayDevice?.id)
    .flatMap((tunnel) => tunnel.peers.map((peer) => ({ tunnel, peer })))
    .forEach(({ tunnel, peer }, i) => {
      const [ns, { own, far }] = [`${stem}p${i}`, peerLine(i + 1)]
      const prefix = peer.allowed.map((a) => parsePrefix4(a)).find((p) => p.ok)
      const address = prefix?.ok
        ? formatIpv4(ipv4(prefix.value.base + (prefix.value.length === 32 ? 0 : 1)))
        : ''
      // Of IPv6 likewise: the first address of what it has.
      const own6 =
        six && tunnel.address6 && peer.kind !== 'provider'
          ? peer.allowed.map((a) => parsePrefix6(a)).find((p) => p.ok && p.value.length > 0)
          : undefined
      const first6 = (prefix: Prefix6) =>
        prefix.length === 128 ? formatIpv6(prefix.groups) : routerSix(prefix)
      const address6 = own6?.ok ? first6(own6.value) : null
      peers.push({
        tunnelId: peer.kind === 'provider' ? '' : tunnel.id,
        peerId: peer.id,
        ns,
        address,
        home: tunnel.address.split('/')[0] ?? '',
        address6,
        home6: address6 === null ? null : (tunnel.address6?.split('/')[0] ?? null),
      })
      lines.push(
        `ip netns add ${ns}`,
        `ip netns exec ${ns} sysctl -qw ` +
          `net.ipv6.conf.all.disable_ipv6=${address6 === null ? 1 : 0} net.ipv6.conf.default.disable_ipv6=1 ` +
          'net.ipv6.icmp.ratelimit=0 net.ipv4.ip_forward=1 net.ipv4.conf.all.rp_filter=0 ' +
          'net.ipv4.conf.default.rp_filter=0 net.ipv4.icmp_ratelimit=0 ' +
          `net.ipv4.icmp_msgs_per_sec=100000; ip -n ${ns} link set lo up`,
      )
      if (
        cloud === '' ||
        failed.has(peer.id) ||
        failed.has(tunnel.id) ||
        (cloudDevice && failed.has(cloudDevice.id))
      )
        return
      const nth = counter
      counter += 3
      lines.push(
        `ip link add name x${nth} netns ${cloud} index ${nth} type veth peer name e0 netns ${ns} index ${nth + 1}`,
        `ip -n ${cloud} link set x${nth} up`,
        `ip -n ${ns} link set e0 up`,
        `ip -n ${cloud} addr add ${far}/30 dev x${nth}`,
        `ip -n ${ns} addr add ${own}/30 dev e0`,
      )
      lines.push(`ip -n ${ns} route add ${peer.kind === 'provider' ? 'default' : '198.18.0.0/15'} via ${far}`)
      if (peer.kind === 'provider')
        lines.push(
          `ip netns exec ${ns} nft 'table ip out { chain post { type nat hook postrouting ` +
            `priority srcnat; oifname "e0" masquerade; }; }'`,
        )
      files[`peer${i}.conf`] = peerConf(
        tunnel,
        peer,
        peer.endpoint === null && called ? `${called.own}:${tunnel.listenPort}` : null,
        keys.get(peer.id)?.privateKey,
      )
      const then = peer.endpoint === null ? dialling : dialled
      then.push(startWireguard(ns, 'wg0', `wg-quick strip "$DIR/peer${i}.conf"`))
      if (address !== '' && peer.kind !== 'provider') then.push(`ip -n ${ns} addr add ${address}/32 dev wg0`)
      if (address6 !== null) then.push(wake(ns, 'wg0'), `ip -n ${ns} addr add ${address6}/128 dev wg0 nodad`)
      then.push(
        `ip -n ${ns} link set wg0 mtu ${tunnel.mtu} up`,
        ...peer.theirAllowed
          .filter((a) => a.includes(':'))
          .flatMap((a) => (address6 === null ? [] : [`ip -n ${ns} route replace ${a} dev wg0`])),
        ...peer.theirAllowed
          .filter((a) => !a.includes(':'))
          .map(
            (first) =>
              `ip -n ${ns} route replace ${first} dev ` +
              `wg0${address !== '' && peer.kind !== 'provider' ? ` src ${address}` : ''}`,
          ),
      )
    })
  // Isolated stations do not hear each other, whichever access point they are at.
  const isolated = hosts.filter((host) =>
    plan.links.some(
      (link) =>
        link.medium.kind === 'wifi' &&
        index.ssids.get(link.medium.ssidId)?.isolation &&
        [link.a, link.b].some((r) => r.deviceId === host.deviceId && r.portId === host.portId),
    ),
  )
  if (isolated.length > 1) {
    lines.push(
      'ISOLATED=""',
      ...isolated.map(
        (host) =>
          `ISOLATED="$ISOLATED$(ip netns exec ${host.ns} cat /sys/class/net/${host.dev}/address 2>/dev/null), "`,
      ),
    )
    for (const ap of live.filter((d) => d.kind === 'access-point' || d.kind === 'extender')) {
      lines.push(
        `printf 'table bridge apart {\\n set s {\\n type ether_addr\\n elements = { %s }\\n ` +
          `}\\n chain f {\\n type filter hook forward priority 0\\n ether saddr @s ether daddr ` +
          `@s drop\\n }\\n}\\n' "\${ISOLATED%, }" | ip netns exec ${name.get(ap.id)} nft -f -`,
      )
    }
  }
  return {
    script: inBatches(lines).join('\n'),
    wake6: six ? hosts.map((h) => wake6Of.get(h) ?? wake(h.ns, h.dev, true)) : [],
    tunnels: plan.tunnels.length > 0 ? [...dialled, ...ours, ...dialling].join('\n') : '',
    files,
    hosts,
    clients,
    gateway,
    servers,
    gatewayId: gatewayDevice?.id ?? '',
    cloud: cloudDevice && !failed.has(cloudDevice.id) ? cloud : '',
    namespaces: [...namespaces.map((n) => n.ns), ...peers.map((p) => p.ns)],
    wans,
    cables,
    peers,
  }
}

/**
 * A line that is one plain command of `ip` in one namespace: nothing hangs on how it ends but the whole
 * script.
 */
const PLAIN = /^ip -n (\S+) ((?:link|addr|route) [^|&>;"'$]*)$/

/**
 * The same commands in fewer processes: namespaces and cables first, all at once, then what follows one
 * another by namespace.
 * Within one namespace the order stays; between two, once the cables are there, it says nothing.
 */
function inBatches(lines: readonly string[]): string[] {
  const cables = lines.filter((l) => l.startsWith('ip link add'))
  const at = lines.findIndex((l) => l.startsWith('ip link add'))
  if (at < 0) return [...lines]
  const batch = (args: string, commands: readonly string[]) =>
    `ip ${args} -batch - <<'END'\n${commands.join('\n')}\nEND`
  const out: string[] = lines.filter((l) => l.startsWith('ip netns add'))
  let run = new Map<string, string[]>()
  const flush = () => {
    for (const [ns, commands] of run) out.push(batch(`-n ${ns}`, commands))
    run = new Map()
  }
  lines.forEach((line, i) => {
    if (i === at) {
      flush()
      out.push(
        batch(
          '',
          cables.map((c) => c.replace(/^ip /, '')),
        ),
      )
    }
    if (line.startsWith('ip link add') || line.startsWith('ip netns add')) return
    const [, ns, command] = PLAIN.exec(line) ?? []
    if (ns === undefined || command === undefined) {
      flush()
      out.push(line)
    } else run.set(ns, [...(run.get(ns) ?? []), command.trim()])
  })
  flush()
  return out
}

/** A WireGuard interface in a namespace; its control socket is kept apart from others of the same name. */
export function startWireguard(ns: string, dev: string, conf: string): string {
  return (
    `ip netns exec ${ns} bash -ec 'mkdir -p /run/wireguard; mount -t tmpfs tmpfs ` +
    '/run/wireguard; WG_I_PREFER_BUGGY_USERSPACE_TO_POLISHED_KMOD=1 LOG_LEVEL=error ' +
    `wireguard-go ${dev} >/dev/null 2>&1; ${conf} > /run/wireguard/c; wg setconf ${dev} ` +
    `/run/wireguard/c'`
  )
}

/** The internet's socket that a line leads to, by following the cables through what passes frames. */
function cloudPortOf(index: PlanIndex, from: PortRef): string | null {
  const seen = new Set([from.deviceId])
  const open: PortRef[] = [from]
  for (const ref of open) {
    for (const link of index.linksAt.get(portKey(ref)) ?? []) {
      const far = farEnd(link, ref)
      const device = index.devices.get(far.deviceId)
      if (device?.kind === 'cloud') return far.portId
      if (!device || seen.has(device.id) || isVlanAware(device) || isHost(device)) continue
      seen.add(device.id)
      for (const port of device.ports) open.push({ deviceId: device.id, portId: port.id })
    }
  }
  return null
}
