import type { FailureScenario } from '#core/queries'
import type { Plan } from '#core/schema'
import { openInternet, raiseGateway, raiseOthers, wansOf } from './gateways'
import { TwinGround } from './ground'
import { Hosts, keepApart } from './hosts'
import { raisePeers } from './peers'

// From a plan to a shell script of network namespaces.
// What stands in for what:
// - 802.1Q: one bridge for each VID and one veth for each tag on each cable, each end attached by its own
// port alone;
// - PPPoE and the lines' own addresses: plain addresses of 198.18.0.0/15 (RFC 2544);
// or, for a few sites, one bridge of Open vSwitch for each device, in its userspace datapath, with real tags
// on one veth for each
// cable: other code, so that the bundles themselves are checked (no spanning tree, isolation or tagged lines
// there);
// - cables that work as one: the first of them that is well;
// - client isolation: frames between isolated stations are dropped by address at each access point;
// - devices answer for an address only on the interface that has it (arp_ignore 1), as the engine has it and
// most devices do;
// - WireGuard in the kernel: wireguard-go over /dev/net/tun, one process for each interface;
// - a far site: its gateway and one host in one namespace, which has the site's first address; a provider:
// the same, with masquerade;
// - a line that is dark: its far end has no address;
// Gateways send no redirects, which RFC 1812 section 5.2.7.2 leaves open and firewalls switch off (common practice).
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
  /** The tag that its interface sends. */
  readonly tag: number
  /** The network that it wants. */
  readonly networkId: string | null
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

export function buildTwin(given: Plan, scenario: FailureScenario, stem: string, realTags = false): Built {
  const ground = new TwinGround(given, scenario, stem, realTags)
  const { plan, files, lines, namespaces, cables, gatewayDevice, ipv6 } = ground
  ground.addNamespaces()
  for (const link of plan.links) ground.layCable(link)
  const wans = wansOf(ground)
  const cloud = openInternet(ground)
  const others = raiseOthers(ground)
  const gateway = raiseGateway(ground, wans)
  const placed = new Hosts(ground)
  ground.startSwitches()
  const { peers, dialled, dialling } = raisePeers(ground, cloud, wans)
  keepApart(ground, placed.hosts)
  // Tunnels come last, those who are dialled before those who dial: a call that is lost is made again only
  // after five seconds.
  const tunnels = plan.tunnels.length > 0 ? [...dialled, ...gateway.tunnels, ...dialling] : []
  return {
    script: inBatches(lines).join('\n'),
    wake6: ipv6 ? placed.wake6 : [],
    tunnels: tunnels.join('\n'),
    files,
    hosts: placed.hosts,
    clients: placed.clients,
    gateway: gateway.ns,
    servers: [...others, ...gateway.servers, ...relayedServers(ground, placed.hosts)],
    gatewayId: gatewayDevice?.id ?? '',
    cloud,
    namespaces: [...namespaces.map((n) => n.ns), ...peers.map((p) => p.ns)],
    wans,
    cables,
    peers,
  }
}

/** Real DHCP servers on hosts that relays are told of, with the pools of the networks that are relayed there. */
function relayedServers({ plan, files }: TwinGround, hosts: readonly Host[]): Built['servers'][number][] {
  const relayed = plan.networks.filter(({ dhcp, relayTo, pool }) => dhcp === 'relay' && relayTo && pool)
  return hosts.flatMap((host) => {
    const own = plan.networks
      .flatMap(({ fixed }) => fixed)
      .filter(({ deviceId }) => deviceId === host.deviceId)
    const asked = relayed.filter(({ relayTo }) => own.some(({ ip }) => ip === relayTo))
    if (asked.length === 0) return []
    const file = `relayed-${host.ns}.conf`
    const ranges = asked.flatMap(({ vlan, pool, gateway }) => [
      `dhcp-range=set:v${vlan},${pool?.from},${pool?.to},255.255.255.0,1h`,
      `dhcp-option=tag:v${vlan},option:router,${gateway}`,
    ])
    files[file] = ['port=0', 'no-ping', 'dhcp-authoritative', ...ranges, ''].join('\n')
    return [{ ns: host.ns, file }]
  })
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
