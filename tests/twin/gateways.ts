// Gateways with the files written for them, and the internet beyond their lines.
import {
  choiceMark,
  dnsmasqConf,
  ip6Rules,
  ipBatch,
  lanName,
  uplinkMark,
  nftRuleset,
  wanName,
  wgName,
  wireguardConf,
} from '#core/export'
import { farEnd, isHost, isVlanAware, portKey, type PlanIndex } from '#core/queries'
import type { Device, PortRef, Uplink } from '#core/schema'
import { OUTSIDE, OUTSIDE6, startWireguard, type Built } from './build'
import { vidAt, wake, type TwinGround } from './ground'

/** Each line as the gateway and the internet have it, in the order of priority. */
export const wansOf = ({ plan, uplinks }: TwinGround): Built['wans'] =>
  uplinks.map((uplink, i) => ({
    id: uplink.id,
    own: `198.18.${i + 1}.2`,
    far: `198.18.${i + 1}.1`,
    dev: wanName(i + 1),
    // A modem that routes has the outside address itself, and hands nothing on unless it is told to.
    shared:
      uplink.outside === 'shared' ||
      (uplink.facts.modem === 'routing' && uplink.facts.modemForwards !== true),
    probed: uplink.probe !== null,
    tables: [
      uplinkMark(i + 1),
      ...plan.policyRoutes
        .filter((r) => r.deviceId === uplink.deviceId)
        .flatMap((r, j) => (r.out.kind === 'uplink' && r.out.id === uplink.id ? [choiceMark(j + 1)] : [])),
    ],
  }))

/** A frame on a cable: the port that it is about to enter, and its tag. */
interface Frame {
  readonly into: PortRef
  readonly tag: number
}

/** Ports by which a device passes a frame on, and with which tags. */
function passedOn(index: PlanIndex, device: Device, { into, tag }: Frame): { port: PortRef; tag: number }[] {
  const others = device.ports.filter((port) => port.id !== into.portId)
  const at = (port: Device['ports'][number]): PortRef => ({ deviceId: device.id, portId: port.id })
  if (!isVlanAware(device)) return others.map((port) => ({ port: at(port), tag }))
  const own = device.ports.find((port) => port.id === into.portId)
  const vid = own ? vidAt(own.mode, tag) : null
  if (vid === null) return []
  return others.flatMap((port) =>
    [0, vid].filter((out) => vidAt(port.mode, out) === vid).map((out) => ({ port: at(port), tag: out })),
  )
}

/** The internet's socket that a line leads to, and the tag there, by following frames through what passes them. */
function cloudPortOf(index: PlanIndex, { deviceId, portId, tag }: Uplink): string | null {
  const over = (port: PortRef, tag: number): Frame[] =>
    (index.linksAt.get(portKey(port)) ?? []).map((link) => ({ into: farEnd(link, port), tag }))
  const seen = new Set<string>()
  const open = over({ deviceId, portId }, tag ?? 0)
  for (const frame of open) {
    const device = index.devices.get(frame.into.deviceId)
    if (device?.kind === 'cloud') return `${frame.into.portId} ${frame.tag}`
    const key = `${portKey(frame.into)} ${frame.tag}`
    if (!device || seen.has(key) || isHost(device) || device.kind === 'gateway') continue
    seen.add(key)
    for (const next of passedOn(index, device, frame)) open.push(...over(next.port, next.tag))
  }
  return null
}

/** The internet's end of one line, with a way to what its provider delegates. */
function openLine(ground: TwinGround, cloud: string, uplink: Uplink, i: number): void {
  const { index, lines, ipv6, cloudPorts } = ground
  const port = cloudPortOf(index, uplink)
  const dev = port && cloudPorts.get(port)
  if (!dev || !ground.isUp(uplink.id) || ground.upstreamDown.has(uplink.id)) return
  lines.push(
    `ip -n ${cloud} addr add 198.18.${i + 1}.1/30 dev ${dev}`,
    `ip -n ${cloud} route replace 198.18.${i + 1}.0/30 dev ${dev} src ${OUTSIDE}`,
  )
  const { delegated6, routed4 } = uplink.facts
  for (const prefix of routed4)
    lines.push(
      `ip -n ${cloud} route append ${prefix} via 198.18.${i + 1}.2 dev ${dev} src ${OUTSIDE} metric ${i + 1}`,
    )
  if (!ipv6 || !delegated6) return
  lines.push(
    wake(cloud, dev),
    `ip -n ${cloud} addr add 2001:db8:ffff:${i + 1}::1/64 dev ${dev} nodad`,
    `ip -n ${cloud} route replace ${delegated6} ` +
      `via 2001:db8:ffff:${i + 1}::2 dev ${dev} src ${OUTSIDE6}`,
  )
}

/** The internet: one address, and one end of each line; its namespace, or nothing where it is not there. */
export function openInternet(ground: TwinGround): string {
  const { cloudDevice, lines, ipv6, uplinks } = ground
  if (!cloudDevice || !ground.isUp(cloudDevice.id)) return ''
  const cloud = ground.nameOf(cloudDevice)
  lines.push(
    `ip -n ${cloud} addr add ${OUTSIDE}/32 dev lo`,
    ...(ipv6 ? [`ip -n ${cloud} addr add ${OUTSIDE6}/128 dev lo nodad`] : []),
  )
  uplinks.forEach((uplink, i) => openLine(ground, cloud, uplink, i))
  return cloud
}

/** The interfaces of a gateway's networks. */
function openNetworks(ground: TwinGround, device: Device): void {
  const own = ground.plan.networks.filter((network) => network.routerId === device.id)
  for (const network of own) ground.vidBridge(device, network.vlan)
  if (ground.ipv6)
    for (const network of own) ground.lines.push(wake(ground.nameOf(device), lanName(network.vlan)))
}

/** What a kernel may say of lines for what is not there: down, not yet started, or a next hop on no link. */
const ABSENT = ['Cannot find device', 'Nexthop has invalid gateway', 'Network is unreachable']
/** What it may say besides where the file is loaded again. */
const AGAIN = ['File exists', '[Aa]ddress already assigned']

/** Loads a file of `ip` commands; any other refusal than the given is told, and ends the building. */
function loadBatch(ns: string, file: string, allowed: readonly string[], family = ''): string {
  const refused = `"$DIR/${file}.${allowed.length}.err"`
  return (
    `ip -n ${ns} ${family} -force -batch "$DIR/${file}" 2>${refused} || ` +
    `! grep -E '^(Error|RTNETLINK)' ${refused} | grep -vE '${allowed.join('|')}' >&2 || exit 1`
  )
}

/** The files of a gateway, and the commands that load them; `stem`: of their names. */
function loadFiles({ plan, files, lines }: TwinGround, device: Device, ns: string, stem: string): void {
  files[`${stem}.nft`] = nftRuleset(plan, device.id) ?? ''
  files[`${stem}.ip`] = ipBatch(plan, device.id)
  lines.push(`ip netns exec ${ns} nft -f "$DIR/${stem}.nft"`, loadBatch(ns, `${stem}.ip`, ABSENT))
  const rules6 = ip6Rules(plan, device.id)
  if (rules6 === null) return
  files[`${stem}-6.ip`] = rules6
  lines.push(loadBatch(ns, `${stem}-6.ip`, ABSENT, '-6'))
}

type Server = Built['servers'][number]

/** Other gateways than the one with the lines: their networks, routed ports, routes and rules. */
export function raiseOthers(ground: TwinGround): Server[] {
  const { plan, files, gatewayDevice } = ground
  return plan.devices
    .filter((d) => d.kind === 'gateway' && d.id !== gatewayDevice?.id && ground.isUp(d.id))
    .map((device, i) => {
      const [ns, file] = [ground.nameOf(device), `other${i}.conf`]
      openNetworks(ground, device)
      loadFiles(ground, device, ns, `other${i}`)
      files[file] = dnsmasqConf(plan, device.id)
      return { ns, file }
    })
}

type Wan = Built['wans'][number]

/**
 * A line that is down has no session, and so no address: PPPoE ends with its session, a DHCP client gives the address
 * back as the carrier goes (decision 28).
 */
function openWan(ground: TwinGround, gateway: string, wan: Wan, i: number): void {
  if (!ground.isUp(wan.id)) return
  const { lines } = ground
  const tables = wan.tables.map(
    (table) => ` && ip -n ${gateway} route add default via ${wan.far} dev ${wan.dev} table ${table}`,
  )
  lines.push(
    `ip -n ${gateway} addr add ${wan.own}/30 dev ${wan.dev} 2>/dev/null && ip -n ` +
      `${gateway} route add default via ${wan.far} dev ${wan.dev} metric ` +
      `${i + 1}${tables.join('')} || true`,
  )
}

/** A line's table of IPv6 leads out by it; without the line it leads nowhere. */
function openWan6({ lines, uplinks }: TwinGround, gateway: string, wan: Wan, i: number): void {
  if (!uplinks[i]?.facts.delegated6) return
  const far = `2001:db8:ffff:${i + 1}::1`
  lines.push(
    wake(gateway, wan.dev),
    `ip -n ${gateway} addr add 2001:db8:ffff:${i + 1}::2/64 dev ${wan.dev} nodad ` +
      `2>/dev/null && ip -n ${gateway} route add default via ${far} dev ` +
      `${wan.dev} metric ${i + 1} && ip -n ${gateway} route add default via ` +
      `${far} dev ${wan.dev} table ${uplinkMark(i + 1)} || true`,
  )
}

export interface RaisedGateway {
  /** Its namespace; empty where it is not there. */
  readonly ns: string
  readonly servers: readonly Server[]
  /** Commands that start its tunnels. */
  readonly tunnels: readonly string[]
}

/**
 * Starts a tunnel. Each is a process of its own that takes its port a moment later: of two at one port the first is to
 * have it. The kernel's own WireGuard refuses to set up the second; one that runs as a process takes any other port
 * when it next hears of its interface, so that is left down, as the batch leaves it.
 */
function startTunnel(ns: string, dev: string, port: number): string {
  const isTaken = `ip netns exec ${ns} ss -lunH "sport = :${port}" | grep -q .`
  return [
    `taken=$(${isTaken} && echo yes || true)`,
    `${startWireguard(ns, dev, `cat "$DIR/${dev}.conf"`)} || true`,
    `[ -n "$taken" ] || ip -n ${ns} link set ${dev} up 2>/dev/null`,
    `for _ in $(seq 100); do ${isTaken} && break; sleep 0.05; done`,
  ].join('\n')
}

/** The gateway with the lines. */
export function raiseGateway(ground: TwinGround, wans: Built['wans']): RaisedGateway {
  const { plan, files, ipv6, keys, gatewayDevice } = ground
  if (!gatewayDevice || !ground.isUp(gatewayDevice.id)) return { ns: '', servers: [], tunnels: [] }
  const ns = ground.nameOf(gatewayDevice)
  openNetworks(ground, gatewayDevice)
  loadFiles(ground, gatewayDevice, ns, 'gateway')
  files['dnsmasq.conf'] = dnsmasqConf(plan, gatewayDevice.id)
  const tunnels = plan.tunnels
    .filter((t) => t.deviceId === gatewayDevice.id)
    .flatMap((tunnel, i) => {
      const name = wgName(i + 1)
      files[`${name}.conf`] = wireguardConf(tunnel, keys.get(tunnel.id)?.privateKey)
      return [startTunnel(ns, name, tunnel.listenPort), ...(tunnel.address6 ? [wake(ns, name)] : [])]
    })
  wans.forEach((wan, i) => openWan(ground, ns, wan, i))
  if (ipv6) wans.forEach((wan, i) => openWan6(ground, ns, wan, i))
  // What speaks of tunnels is loaded again when they are there.
  const again = loadBatch(ns, 'gateway.ip', [...ABSENT, ...AGAIN])
  return {
    ns,
    servers: [{ ns, file: 'dnsmasq.conf' }],
    tunnels: [...tunnels, again],
  }
}
