// Question: how do the standard modules say what a gateway's interfaces and rules are?
// Method: interfaces with their addresses; rules as access lists, one for each chain, their sides as
// prefixes, since those modules know no interfaces here.
// The internet is any address, so what rules before it have decided must stay before it; lists are stateless:
// answers have to be let back by whatever loads them.
// Source:
// RFC 7951 (JSON), RFC 8343 (ietf-interfaces), RFC 8344 (ietf-ip), RFC 8519 (ietf-access-control-list).
import { formatIpv4, parseIpv4, parsePrefix4, routerIpv6 } from '#core/address'
import { orNull } from '#core/util'
import {
  findPort,
  indexPlan,
  uplinksInOrder,
  membersOf,
  ipv6PrefixOf,
  expandPairDefaults,
  type PlanIndex,
} from '#core/queries'
import type { Json } from '#core/edit'
import type { Plan, Rule, Selector, ServiceEntry, DeviceId } from '#core/schema'
import { fixedAddresses, routedPorts } from '#core/filter'
import { lanName, routedName, wanName, wgName } from './gateway'

const text = (value: Json): string => `${JSON.stringify(value, null, 2)}\n`
const ipv4 = (list: readonly (readonly [ip: string, length: number])[]): object =>
  list.length === 0
    ? {}
    : { 'ietf-ip:ipv4': { address: list.map(([ip, length]) => ({ ip, 'prefix-length': length })) } }

/** A gateway's interfaces, as RFC 8343 and 8344 have them. */
export function interfacesJson(plan: Plan, deviceId: DeviceId): string {
  const index = indexPlan(plan)
  const one = (name: string, type: string, description: string, more: object): Json =>
    ({ name, description, type: `iana-if-type:${type}`, enabled: true, ...more }) as Json
  const ipOf = (address: string, address6: string | null = null) => {
    const [ip = '', length = ''] = address.split('/')
    const [ipv6 = '', length6 = ''] = address6?.split('/') ?? []
    return {
      ...ipv4(parseIpv4(ip).ok ? [[ip, Number(length)]] : []),
      ...(ipv6 === ''
        ? {}
        : { 'ietf-ip:ipv6': { address: [{ ip: ipv6, 'prefix-length': Number(length6) }] } }),
    }
  }
  const lans = plan.networks
    .filter((n) => n.routerId === deviceId)
    .map((network) => {
      const subnet = orNull(parsePrefix4(network.subnet))
      const ipv6 = ipv6PrefixOf(network)
      return one(lanName(network.vlan), 'l3ipvlan', network.name, {
        ...ipv4(subnet && parseIpv4(network.gateway).ok ? [[network.gateway, subnet.length]] : []),
        ...(ipv6
          ? { 'ietf-ip:ipv6': { address: [{ ip: routerIpv6(ipv6), 'prefix-length': ipv6.length }] } }
          : {}),
      })
    })
  const lines = uplinksInOrder(plan)
    .filter((u) => u.deviceId === deviceId)
    .map((uplink, i) =>
      one(
        wanName(i + 1),
        uplink.kind === 'pppoe' ? 'ppp' : 'ethernetCsmacd',
        uplink.name,
        uplink.kind === 'static' && uplink.facts.address ? ipOf(uplink.facts.address) : {},
      ),
    )
  const routed = routedPorts(index)
    .filter((port) => port.deviceId === deviceId)
    .map((ref, i) => {
      const port = findPort(index, ref)
      const addresses = port?.mode.mode === 'routed' ? ipOf(port.mode.address, port.mode.address6) : {}
      return one(routedName(i + 1), 'ethernetCsmacd', `port ${port?.name ?? ref.portId}`, addresses)
    })
  const tunnels = plan.tunnels
    .filter((t) => t.deviceId === deviceId)
    .map((t, i) => one(wgName(i + 1), 'tunnel', t.name, ipOf(t.address, t.address6)))
  return text({ 'ietf-interfaces:interfaces': { interface: [...lans, ...lines, ...routed, ...tunnels] } })
}

const onlyPrefixes4 = (texts: readonly string[]): string[] => texts.filter((text) => parsePrefix4(text).ok)

/** IPv4 prefixes of one end of a rule; null: any address. */
function prefixesOfEnd(index: PlanIndex, selector: Selector): readonly string[] | null {
  const { tunnels, networks } = index.plan
  switch (selector.kind) {
    case 'inside':
      return onlyPrefixes4(networks.map((n) => n.subnet))
    case 'network':
      return onlyPrefixes4([index.networks.get(selector.id)?.subnet ?? ''])
    case 'device':
      return fixedAddresses(index, selector.id).map((ip) => `${formatIpv4(ip)}/32`)
    case 'prefix':
      return onlyPrefixes4([selector.prefix])
    case 'group': {
      const ofMembers = membersOf(index, selector).map((m) => prefixesOfEnd(index, m))
      return ofMembers.includes(null) ? null : ofMembers.flatMap((prefixes) => prefixes ?? [])
    }
    case 'peer': {
      const peers = tunnels.flatMap((t) => t.peers).filter((p) => p.id === selector.id)
      return onlyPrefixes4(peers.slice(0, 1).flatMap((p) => p.allowed))
    }
    case 'tunnel': {
      const tunnel = tunnels.find((t) => t.id === selector.id)
      return onlyPrefixes4(tunnel?.peers.flatMap((p) => p.allowed) ?? [])
    }
    default:
      return null
  }
}

const PROTOCOL = { tcp: 6, udp: 17, icmp: 1 } as const

function matchOf(from: string | null, to: string | null, entry: ServiceEntry | null): Json {
  const port =
    entry && entry.proto !== 'icmp'
      ? {
          [entry.proto]: {
            'destination-port':
              entry.from === entry.to
                ? { operator: 'eq', port: entry.from }
                : { 'lower-port': entry.from, 'upper-port': entry.to },
          },
        }
      : {}
  const ipv4 = {
    ...(entry ? { protocol: PROTOCOL[entry.proto] } : {}),
    ...(to === null ? {} : { 'destination-ipv4-network': to }),
    ...(from === null ? {} : { 'source-ipv4-network': from }),
  }
  return {
    ...(Object.keys(ipv4).length > 0 ? { ipv4 } : {}),
    ...(entry?.proto === 'icmp' ? { icmp: { type: 8 } } : {}),
    ...port,
  } as Json
}

function entriesOf(index: PlanIndex, rule: Rule): Json[] {
  const [from, to] = [
    prefixesOfEnd(index, rule.from),
    rule.chain === 'input' ? null : prefixesOfEnd(index, rule.to),
  ]
  const services =
    rule.services.length === 0 ? [null] : rule.services.flatMap((id) => index.services.get(id)?.entries ?? [])
  const pairs = (from ?? [null]).flatMap((source) =>
    (to ?? [null]).flatMap((target) => services.map((entry) => ({ source, target, entry }))),
  )
  return pairs.map(({ source, target, entry }, i) => ({
    name: pairs.length === 1 ? rule.id : `${rule.id}.${i + 1}`,
    matches: matchOf(source, target, entry),
    actions: {
      forwarding: `ietf-access-control-list:${rule.action}`,
      ...(rule.log ? { logging: 'ietf-access-control-list:log-syslog' } : {}),
    },
  }))
}

/** A gateway's rules as access lists of RFC 8519, in order, with each chain's default as its last entry. */
export function accessListsJson(plan: Plan, deviceId: DeviceId): string {
  const index = indexPlan(plan)
  const planned = plan.policies.find((p) => p.deviceId === deviceId)
  const policy = planned && expandPairDefaults(planned)
  const list = (chain: Rule['chain']): Json => ({
    name: chain,
    type: 'ietf-access-control-list:ipv4-acl-type',
    aces: {
      ace: [
        ...(policy?.rules ?? [])
          .filter((r) => r.chain === chain && r.when === null)
          .flatMap((r) => entriesOf(index, r)),
        {
          name: 'default',
          matches: {},
          actions: { forwarding: `ietf-access-control-list:${policy?.[chain] ?? 'accept'}` },
        },
      ],
    },
  })
  return text({ 'ietf-access-control-list:acls': { acl: [list('forward'), list('input')] } })
}
