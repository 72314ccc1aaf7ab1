// Question: what does each end of a tunnel have to be told?
// Method: the gateway's interface with every peer, and each peer's own file, seen from its side.
// Keys come from outside the plan.
// Source: wg(8), wg-quick(8); 25519 keys as of RFC 7748 in base64 (RFC 4648).
import { parseIpv4, parsePrefix4, parsePrefix6 } from '#core/address'
import { canBeCalled, uplinksInOrder } from '#core/queries'
import type { Peer, Plan, Tunnel } from '#core/schema'
import { hashComment } from './hash-comment'

/** Written where a key is not known or not asked for; `wg` refuses it, so that it cannot be overlooked. */
export const KEY_WANTED = 'KEY-WANTED'

/** None at all is said by no line: `wg` reads no empty list. */
const allowedLine = (prefixes: readonly string[]): string[] =>
  prefixes.length > 0 ? [`AllowedIPs = ${prefixes.join(', ')}`] : []

/**
 * The gateway's side, for `wg setconf`.
 * The private key is the caller's to give; without it the file says where it belongs.
 */
export function wireguardConf(tunnel: Tunnel, privateKey: string | null = null): string {
  const reached = (peer: Peer) => [
    ...(peer.endpoint === null ? [] : [`Endpoint = ${peer.endpoint}`]),
    ...(peer.keepaliveS ? [`PersistentKeepalive = ${peer.keepaliveS}`] : []),
  ]
  const peers = tunnel.peers.flatMap((peer) => [
    '',
    hashComment(peer.name),
    '[Peer]',
    `PublicKey = ${peer.publicKey ?? KEY_WANTED}`,
    ...allowedLine(peer.allowed),
    ...reached(peer),
    // Addresses belong to one key at a time, and come over when the new one is heard.
    ...(peer.next === null
      ? []
      : [
          '',
          hashComment(`${peer.name}, the key it changes to until ${peer.next.until}`),
          '[Peer]',
          `PublicKey = ${peer.next.publicKey}`,
          ...reached(peer),
        ]),
  ])
  return [
    '[Interface]',
    `PrivateKey = ${privateKey ?? KEY_WANTED}`,
    `ListenPort = ${tunnel.listenPort}`,
    ...peers,
    '',
  ].join('\n')
}

/**
 * While peers change their keys: a shell script, run every few seconds, that gives a peer's addresses to
 * whichever of its two keys was heard last.
 * Its
 * outage is at most the pause between two runs. Null where nobody changes.
 * @param ifname name of the tunnel's interface
 */
export function keyFollower(tunnel: Tunnel, ifname: string): string | null {
  const changing = tunnel.peers.flatMap((peer) =>
    peer.next && peer.publicKey !== null && peer.allowed.length > 0
      ? [
          {
            name: peer.name,
            old: peer.publicKey,
            next: peer.next.publicKey,
            until: peer.next.until,
            allowed: peer.allowed.join(','),
          },
        ]
      : [],
  )
  if (changing.length === 0) return null
  return [
    '#!/bin/sh',
    '# Addresses of peers that change their key follow the key that was heard last.',
    'set -eu',
    `heard() { wg show ${ifname} latest-handshakes | awk -v key="$1" '$1 == key { print $2 }'; }`,
    `has() { wg show ${ifname} allowed-ips | awk -v key="$1" '$1 == key && $2 != "(none)" { print 1 }'; }`,
    'follow() {',
    '  to=$1',
    '  old=$(heard "$1"); next=$(heard "$2")',
    '  if [ "${next:-0}" -gt "${old:-0}" ]; then to=$2; fi',
    `  if [ -z "$(has "$to")" ]; then wg set ${ifname} peer "$to" allowed-ips "$3"; fi`,
    '}',
    ...changing.flatMap((change) => [
      hashComment(`${change.name}, until ${change.until}`),
      `follow '${change.old}' '${change.next}' '${change.allowed}'`,
    ]),
    '',
  ].join('\n')
}

/**
 * Where the outside finds a tunnel's gateway: the address of the first line that can be called, or a name;
 * null where nobody knows.
 */
export function endpointOf(plan: Plan, tunnel: Tunnel): string | null {
  if (tunnel.publicName !== null) return `${tunnel.publicName}:${tunnel.listenPort}`
  const uplink = uplinksInOrder(plan).find((u) => u.deviceId === tunnel.deviceId && canBeCalled(u))
  const address = uplink?.facts.address?.split('/')[0]
  return address && parseIpv4(address).ok ? `${address}:${tunnel.listenPort}` : null
}

/**
 * A peer's side, for wg-quick: its own addresses in the tunnel, and what of ours it may send and take.
 * @param endpoint where it finds this gateway, `host:port`; null where the gateway dials it
 */
export function peerConf(
  tunnel: Tunnel,
  peer: Peer,
  endpoint: string | null,
  privateKey: string | null = null,
): string {
  const own = peer.allowed.filter(
    (text) =>
      (parsePrefix4(text).ok && (peer.kind === 'person' || text.endsWith('/32'))) ||
      (parsePrefix6(text).ok && (peer.kind === 'person' || text.endsWith('/128'))),
  )
  const dialled = peer.endpoint?.split(':').at(-1)
  return [
    '[Interface]',
    `PrivateKey = ${privateKey ?? KEY_WANTED}`,
    ...(own.length > 0 ? [`Address = ${own.join(', ')}`] : []),
    `MTU = ${tunnel.mtu}`,
    ...(dialled ? [`ListenPort = ${dialled}`] : []),
    '',
    '[Peer]',
    `PublicKey = ${tunnel.publicKey ?? KEY_WANTED}`,
    ...allowedLine(peer.theirAllowed),
    ...(endpoint === null ? [] : [`Endpoint = ${endpoint}`, 'PersistentKeepalive = 25']),
    '',
  ].join('\n')
}
