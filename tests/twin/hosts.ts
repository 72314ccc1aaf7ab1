// Hosts, and devices' own addresses: typed in where the plan types them in, by DHCP otherwise.
import { parseIpv4, parsePrefix4, parsePrefix6, routerIpv6 } from '#core/address'
import { isVlanAware, typedIpv6, hasTrait } from '#core/queries'
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
    return this.hosts.map((h) => this.wake6Of.get(h) ?? wake(h.ns, h.dev, true))
  }

  private add(device: Device): void {
    const { ground } = this
    if (device.kind === 'hosts' || device.kind === 'controller') {
      for (const i of ground.sockets(device)) {
        const portId = device.ports[i]?.id ?? ''
        this.place(device, { ns: ground.socketName(device, i), deviceId: device.id, portId, dev: 'e0' }, i)
      }
      return
    }
    const home = device.wants === null ? undefined : ground.index.networks.get(device.wants)
    if (!home || !hasTrait(device, 'addressed')) return
    const dev = isVlanAware(device) ? ground.vidBridge(device, home.vlan) : ground.bridge(device, 't0')
    this.place(device, { ns: ground.nameOf(device), deviceId: device.id, portId: null, dev }, 0)
  }

  private place(device: Device, host: Host, nth: number): void {
    const { ground } = this
    const { ns, dev } = host
    this.hosts.push(host)
    const home = device.wants === null ? undefined : ground.index.networks.get(device.wants)
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

/** Isolated stations do not hear each other, whichever access point they are at. */
export function keepApart({ plan, index, live, lines, name }: TwinGround, hosts: readonly Host[]): void {
  const isolated = hosts.filter((host) =>
    plan.links.some(
      (link) =>
        link.medium.kind === 'wifi' &&
        index.ssids.get(link.medium.ssidId)?.isolation &&
        [link.a, link.b].some((r) => r.deviceId === host.deviceId && r.portId === host.portId),
    ),
  )
  if (isolated.length < 2) return
  lines.push(
    'ISOLATED=""',
    ...isolated.map(
      ({ ns, dev }) =>
        `ISOLATED="$ISOLATED$(ip netns exec ${ns} cat /sys/class/net/${dev}/address 2>/dev/null), "`,
    ),
  )
  for (const ap of live.filter((d) => d.kind === 'access-point' || d.kind === 'extender'))
    lines.push(
      `printf 'table bridge apart {\\n set s {\\n type ether_addr\\n elements = { %s }\\n ` +
        `}\\n chain f {\\n type filter hook forward priority 0\\n ether saddr @s ether daddr ` +
        `@s drop\\n }\\n}\\n' "\${ISOLATED%, }" | ip netns exec ${name.get(ap.id)} nft -f -`,
    )
}
