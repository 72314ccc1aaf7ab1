// Hosts, and devices' own addresses: typed in where the plan types them in, by DHCP otherwise.
import { parseIpv4, parsePrefix4, parsePrefix6, routerIpv6 } from '#core/address'
import { hasTrait, isVlanAware, MODELS, typedIpv6 } from '#core/queries'
import type { Device, Network, StaticAssignment } from '#core/schema'
import { orNull } from '#core/util'
import type { Host } from './build'
import { macOf, wake, type TwinGround } from './ground'

/** Hosts of a twin as they are placed, with how each gets its addresses. */
export class Hosts {
  readonly hosts: Host[] = []
  readonly clients: Host[] = []
  private readonly wake6Of = new Map<Host, string>()

  constructor(private readonly ground: TwinGround) {
    for (const device of ground.live) this.add(device)
  }

  /** IPv6 on each host's interface. */
  get wake6(): string[] {
    const isLeased = this.ground.plan.networks.some(({ mode6 }) => mode6 === 'stateful')
    const hears = (host: Host) =>
      isLeased ? `${wake(host.ns, host.dev, true)}; ${lease6(host)}` : wake(host.ns, host.dev, true)
    return this.hosts.map((host) => this.wake6Of.get(host) ?? hears(host))
  }

  private add(device: Device): void {
    const { ground } = this
    if (device.kind === 'hosts' || device.kind === 'controller') {
      for (const { i, tag, ns, network } of ground.interfaces(device)) {
        const networkId = network?.id ?? null
        const portId = device.ports[i]?.id ?? ''
        this.place(device, { ns, deviceId: device.id, portId, tag, networkId, dev: 'e0' }, i)
      }
      return
    }
    const home = device.homeNetworkId === null ? undefined : ground.index.networks.get(device.homeNetworkId)
    if (!home || !(hasTrait(device, 'addressed') || device.kind === 'telephone')) return
    const dev = isVlanAware(device) ? ground.vidBridge(device, home.vlan) : ground.bridge(device, 't0')
    const own = {
      ns: ground.nameOf(device),
      deviceId: device.id,
      portId: null,
      tag: 0,
      networkId: home.id,
      dev,
    }
    this.place(device, own, 0)
  }

  private place(device: Device, host: Host, nth: number): void {
    const { ground } = this
    const { ns, dev } = host
    this.hosts.push(host)
    const home = ground.plan.networks.find((network) => network.id === host.networkId)
    // A socket without its cable is there all the same, without carrier.
    if (dev === 'e0' && !ground.plugged.has(ns))
      ground.lines.push(`ip -n ${ns} link add e0 type veth peer name e0x`, `ip -n ${ns} link set e0 up`)
    const fixed = home?.fixed.filter((f) => f.deviceId === device.id)[nth]
    if (fixed?.how === 'static' && home) this.typeIn(host, home, fixed)
    else this.lease(device, host, fixed?.mac ?? null)
  }

  private typeIn(host: Host, home: Network, fixed: StaticAssignment): void {
    const { ns, dev } = host
    const typed = this.ground.ipv6 ? typedIpv6(home, fixed) : null
    const prefix6 = orNull(parsePrefix6(home.prefix6 ?? ''))
    if (typed && prefix6)
      this.wake6Of.set(
        host,
        `${wake(ns, dev)}; ip -n ${ns} addr add ${fixed.ip6}/${typed.prefix.length} dev ` +
          `${dev} nodad; ip -n ${ns} route add default via ${routerIpv6(prefix6)} dev ${dev} ` +
          '2>/dev/null || true',
      )
    const subnet = parsePrefix4(home.subnet)
    const length = fixed.mask ?? (subnet.ok ? subnet.value.length : 32)
    const router = fixed.gateway ?? home.gateway
    // A router beyond the host's own mask is refused by its system, as by any.
    if (parseIpv4(fixed.ip).ok)
      this.ground.lines.push(
        `ip -n ${ns} addr add ${fixed.ip}/${length} dev ${dev} 2>/dev/null && ip -n ${ns} ` +
          `route add default via ${router} dev ${dev} 2>/dev/null || true`,
      )
  }

  private lease(device: Device, host: Host, reserved: string | null): void {
    const { plan, lines } = this.ground
    const known = reserved ?? plan.brief.equipment.find((e) => e.deviceId === device.id)?.mac ?? null
    const mac = known ? known.replaceAll('-', ':').toLowerCase() : `02${macOf(this.hosts.length).slice(2)}`
    lines.push(`ip -n ${host.ns} link set ${host.dev} address ${mac} 2>/dev/null || true`)
    this.clients.push(host)
  }
}

/** Asks for an IPv6 address; nobody may answer (RFC 8415). Of twenty who ask at once the last waits ten seconds. */
const lease6 = ({ ns, dev }: Host): string =>
  `timeout 20 ip netns exec ${ns} dhclient -6 -1 -q -cf /dev/null -lf "$DIR/${ns}.lease6" ` +
  `-pf "$DIR/${ns}.pid6" -sf "$DIR/lease6.sh" ${dev} >/dev/null 2>&1 || true`

/** The access points that each isolated station's links lead to. */
function isolatedStations({ plan }: TwinGround, hosts: readonly Host[]) {
  return hosts.flatMap((host) => {
    const aps = plan.links.flatMap(({ medium, ...ends }) => {
      if (medium.kind !== 'wifi' || !plan.ssids.find((ssid) => ssid.id === medium.ssidId)?.isolation)
        return []
      const isOwn = (end: typeof ends.a) => end.deviceId === host.deviceId && end.portId === host.portId
      if (isOwn(ends.a)) return [ends.b.deviceId]
      return isOwn(ends.b) ? [ends.a.deviceId] : []
    })
    const above = neighboursOf(plan, host).flatMap((id) => takenForStation(plan, id))
    return aps.length + above.length > 0 ? [{ host, aps: [...aps, ...above] }] : []
  })
}

const neighboursOf = ({ links }: TwinGround['plan'], host: Host): string[] =>
  links.flatMap(({ a: first, b: second }) => {
    const isOwn = (end: typeof first) => end.deviceId === host.deviceId && end.portId === host.portId
    if (isOwn(first)) return [second.deviceId]
    return isOwn(second) ? [first.deviceId] : []
  })

/** Access points of isolated SSIDs for whom an extender, or an access point behind another, is one station. */
function takenForStation(plan: TwinGround['plan'], id: string): string[] {
  const kindOf = (one: string) => plan.devices.find((device) => device.id === one)?.kind
  const above = plan.links.flatMap(({ medium, a: first, b: second }) => {
    if (medium.kind !== 'wifi' || ![first.deviceId, second.deviceId].includes(id as never)) return []
    const far = first.deviceId === id ? second : first
    // An extender has joined access points; of two access points the second has joined the first.
    const isJoined =
      kindOf(far.deviceId) === 'access-point' && (kindOf(id) === 'extender' || second.deviceId === id)
    if (!isJoined || (kindOf(id) !== 'extender' && kindOf(id) !== 'access-point')) return []
    const isolates = !medium.fourAddress && plan.ssids.find((ssid) => ssid.id === medium.ssidId)?.isolation
    return [{ id: far.deviceId, isolates }]
  })
  return above.flatMap((one) => [...(one.isolates ? [one.id] : []), ...takenForStation(plan, one.id)])
}

/**
 * Frames between isolated stations are dropped by address at each access point: those between its own stations,
 * or, where its model keeps apart across all of them, whatever it would pass on.
 */
export function keepApart(ground: TwinGround, hosts: readonly Host[]): void {
  const { plan, live, lines, name } = ground
  const isolated = isolatedStations(ground, hosts)
  for (const ap of live.filter((d) => d.kind === 'access-point' || d.kind === 'extender')) {
    const model = plan.models.find((m) => m.name === ap.model) ?? MODELS.find((m) => m.name === ap.model)
    const kept = model?.isolation === 'network' ? isolated : isolated.filter(({ aps }) => aps.includes(ap.id))
    if (kept.length < 2) continue
    lines.push(
      'ISOLATED=""',
      ...kept.map(
        ({ host: { ns, dev } }) =>
          `ISOLATED="$ISOLATED$(ip netns exec ${ns} cat /sys/class/net/${dev}/address 2>/dev/null), "`,
      ),
      `printf 'table bridge apart {\\n set s {\\n type ether_addr\\n elements = { %s }\\n ` +
        `}\\n chain f {\\n type filter hook forward priority 0\\n ether saddr @s ether daddr ` +
        `@s drop\\n }\\n}\\n' "\${ISOLATED%, }" | ip netns exec ${name.get(ap.id)} nft -f -`,
    )
  }
}
