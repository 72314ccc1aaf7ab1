// Peers of tunnels, each beyond a line of its own.
import {
  formatIpv4,
  formatIpv6,
  ipv4,
  parsePrefix6,
  readPrefixes4,
  routerIpv6,
  type Prefix6,
} from '#core/address'
import { peerConf } from '#core/export'
import type { Peer, Tunnel } from '#core/schema'
import { orNull } from '#core/util'
import { startWireguard, type Built } from './build'
import { peerLine, wake, type TwinGround } from './ground'

const first6 = (prefix: Prefix6): string =>
  prefix.length === 128 ? formatIpv6(prefix.groups) : routerIpv6(prefix)

/** The first address of what a peer has. */
function addressOf({ allowed }: Peer): string {
  const [prefix] = readPrefixes4(allowed)
  return prefix ? formatIpv4(ipv4(prefix.base + (prefix.length === 32 ? 0 : 1))) : ''
}

/** Of IPv6 likewise; null where it has none. */
function address6Of({ ipv6 }: TwinGround, tunnel: Tunnel, peer: Peer): string | null {
  if (!ipv6 || !tunnel.address6 || peer.kind === 'provider') return null
  const prefixes = peer.allowed.flatMap((a) => orNull(parsePrefix6(a)) ?? [])
  const own = prefixes.find((prefix) => prefix.length > 0)
  return own ? first6(own) : null
}

interface RaisedPeer {
  readonly tunnel: Tunnel
  readonly peer: Peer
  readonly nth: number
  readonly ns: string
  readonly address: string
  readonly address6: string | null
}

function addNamespace({ lines }: TwinGround, { ns, address6 }: RaisedPeer): void {
  lines.push(
    `ip netns add ${ns}`,
    `ip netns exec ${ns} sysctl -qw ` +
      `net.ipv6.conf.all.disable_ipv6=${address6 === null ? 1 : 0} net.ipv6.conf.default.disable_ipv6=1 ` +
      'net.ipv6.icmp.ratelimit=0 net.ipv4.ip_forward=1 net.ipv4.conf.all.rp_filter=0 ' +
      'net.ipv4.conf.default.rp_filter=0 net.ipv4.icmp_ratelimit=0 ' +
      `net.ipv4.icmp_msgs_per_sec=100000; ip -n ${ns} link set lo up`,
  )
}

/** The peer's own line to the internet. */
function layLine(ground: TwinGround, cloud: string, { ns, nth, peer }: RaisedPeer): void {
  const { own, far } = peerLine(nth + 1)
  const pair = ground.nextPair()
  const beyond = peer.kind === 'provider' ? 'default' : '198.18.0.0/15'
  ground.lines.push(
    `ip link add name x${pair} netns ${cloud} index ${pair} type veth peer name e0 netns ${ns} index ${pair + 1}`,
    `ip -n ${cloud} link set x${pair} up`,
    `ip -n ${ns} link set e0 up`,
    `ip -n ${cloud} addr add ${far}/30 dev x${pair}`,
    `ip -n ${ns} addr add ${own}/30 dev e0`,
    `ip -n ${ns} route add ${beyond} via ${far}`,
  )
  if (peer.kind === 'provider')
    ground.lines.push(
      `ip netns exec ${ns} nft 'table ip out { chain post { type nat hook postrouting ` +
        `priority srcnat; oifname "e0" masquerade; }; }'`,
    )
}

/** Commands that start a peer's end of its tunnel, by its own file. */
function startPeer({ nth, ns, tunnel, peer, address, address6 }: RaisedPeer): string[] {
  const own = peer.kind === 'provider' ? '' : address
  const isSix = (prefix: string) => prefix.includes(':')
  const sixes = address6 === null ? [] : peer.theirAllowed.filter(isSix)
  const fours = peer.theirAllowed.filter((a) => !isSix(a))
  return [
    startWireguard(ns, 'wg0', `wg-quick strip "$DIR/peer${nth}.conf"`),
    ...(own === '' ? [] : [`ip -n ${ns} addr add ${own}/32 dev wg0`]),
    ...(address6 === null ? [] : [wake(ns, 'wg0'), `ip -n ${ns} addr add ${address6}/128 dev wg0 nodad`]),
    `ip -n ${ns} link set wg0 mtu ${tunnel.mtu} up`,
    ...sixes.map((a) => `ip -n ${ns} route replace ${a} dev wg0`),
    ...fours.map((a) => `ip -n ${ns} route replace ${a} dev wg0${own === '' ? '' : ` src ${own}`}`),
  ]
}

export interface RaisedPeers {
  readonly peers: readonly Built['peers'][number][]
  /** Commands that start those who are dialled, and those who dial. */
  readonly dialled: readonly string[]
  readonly dialling: readonly string[]
}

/** @param cloud namespace of the internet; empty where it is not there */
export function raisePeers(ground: TwinGround, cloud: string, wans: Built['wans']): RaisedPeers {
  const { plan, stem, gatewayDevice, files, keys } = ground
  const called = wans.find(({ shared }) => !shared)
  const [dialled, dialling]: [string[], string[]] = [[], []]
  const raised = plan.tunnels
    .filter((t) => t.deviceId === gatewayDevice?.id)
    .flatMap((tunnel) => tunnel.peers.map((peer) => ({ tunnel, peer })))
    .map(({ tunnel, peer }, nth): RaisedPeer => ({
      tunnel,
      peer,
      nth,
      ns: `${stem}p${nth}`,
      address: addressOf(peer),
      address6: address6Of(ground, tunnel, peer),
    }))
  for (const one of raised) {
    const { tunnel, peer, nth } = one
    addNamespace(ground, one)
    if (cloud === '' || !ground.isUp(peer.id, tunnel.id)) continue
    layLine(ground, cloud, one)
    const endpoint = peer.endpoint === null && called ? `${called.own}:${tunnel.listenPort}` : null
    files[`peer${nth}.conf`] = peerConf(tunnel, peer, endpoint, keys.get(peer.id)?.privateKey)
    const then = peer.endpoint === null ? dialling : dialled
    then.push(...startPeer(one))
  }
  const peers = raised.map(({ tunnel, peer, ns, address, address6 }) => ({
    tunnelId: peer.kind === 'provider' ? '' : tunnel.id,
    peerId: peer.id,
    ns,
    address,
    home: tunnel.address.split('/')[0] ?? '',
    address6,
    home6: address6 === null ? null : (tunnel.address6?.split('/')[0] ?? null),
  }))
  return { peers, dialled, dialling }
}
