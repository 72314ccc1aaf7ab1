import { aPeer, aTunnel } from '../fixtures/tunnels'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { newTunnelKeys } from '#server/platform/x25519'
import { dnsmasqConf, keyFollower, nftRuleset, peerConf, wireguardConf } from '#core/export'
import { readRunning } from '#core/ingest'
import { BLANK_PORT } from '#core/edit'
import { uplinkMtu, uplinkShare, tunnelRoom } from '#core/queries'
import type { Peer, Plan, Tunnel } from '#core/schema'
import { site, the, type LoosePlan } from '../plans'
import { startWireguard } from './build'
import { saySkipped, whyNot, whyNoTunnels } from './why-not'
import { bash } from './shell'

// Single things in two namespaces, a gateway and somebody beyond it: what a program does with our file, and
// what it says then.

const sh = async (script: string): Promise<string> => (await bash(['-ec', script], { maxBuffer: 1e7 })).stdout
const works = (script: string): Promise<boolean> =>
  sh(script).then(
    () => true,
    () => false,
  )
const noTwin = await whyNot()
const noTunnels = noTwin ?? (await whyNoTunnels())
if (noTunnels) saySkipped('keys that change', noTunnels)

const [GATE, AWAY] = [`mk${process.pid % 10_000}g`, `mk${process.pid % 10_000}a`]
const folder = mkdtempSync(join(tmpdir(), 'mast-running-'))
const kept = (name: string, text: string): string => {
  writeFileSync(join(folder, name), text)
  return join(folder, name)
}
const inGate = (command: string) => `ip netns exec ${GATE} ${command}`
const inAway = (command: string) => `ip netns exec ${AWAY} ${command}`
/** Beside the WireGuard of a namespace, whose control socket nobody else sees. */
const beside = (ns: string, command: string) => `nsenter -t $(ip netns pids ${ns} | head -1) -m -n ${command}`
const clear = () =>
  sh(
    `for ns in ${GATE} ${AWAY}; do ip netns pids $ns 2>/dev/null | xargs -r kill -9 ` +
      '2>/dev/null || true; ip netns del $ns 2>/dev/null || true; done',
  )
/** Two namespaces joined by one cable whose ends are named. */
const joined = (near: string, far: string) =>
  sh(
    `ip netns add ${GATE}; ip netns add ${AWAY}; ip link add ${near} netns ${GATE} type ` +
      `veth peer name ${far} netns ${AWAY}; for ns in ${GATE} ${AWAY}; do ip -n $ns link ` +
      `set lo up; done; ip -n ${GATE} link set ${near} up; ip -n ${AWAY} link set ${far} up`,
  )
const drifts = (plan: Plan, text: string) => {
  const read = readRunning(plan, 'gate', text)
  if (!read.ok) throw new Error(`not read: ${JSON.stringify(read.problems)}`)
  return read.value.drifts.map((d) => d.code)
}
afterAll(async () => {
  await clear()
  rmSync(folder, { recursive: true, force: true })
})

describe.skipIf(noTunnels !== null)('a peer that changes its key, wireguard-go for the kernel’s', () => {
  const [ours, old, next, stranger] = [newTunnelKeys(), newTunnelKeys(), newTunnelKeys(), newTunnelKeys()]
  const peer: Peer = aPeer({
    id: 'road',
    name: 'On the road',
    kind: 'person',
    publicKey: old.publicKey,
    next: { publicKey: next.publicKey, until: '2026-12-09' },
    allowed: ['10.9.200.9/32'],
    theirAllowed: ['10.9.200.0/24'],
  })
  const tunnel = aTunnel({
    publicKey: ours.publicKey,
    peers: [peer],
  })
  const plan = site((p) => void p.tunnels.push(tunnel))
  const follow = () => sh(beside(GATE, `sh ${kept('follow.sh', keyFollower(tunnel, 'wg1') ?? '')}`))
  const answers = () => works(inAway('fping -q -c 3 -p 300 -t 300 10.9.200.1'))
  const takes = async (key: string) => {
    // Handshakes are told in whole seconds: two in one second cannot be told apart.
    await new Promise((done) => setTimeout(done, 1100))
    await sh(beside(AWAY, `wg set wg0 private-key ${kept('key', key)}`))
  }
  const dump = () => sh(beside(GATE, 'wg show all dump'))
  beforeAll(async () => {
    await clear()
    await joined('wan1', 'e0')
    await sh(
      [
        `ip -n ${GATE} addr add 198.18.0.1/30 dev wan1; ip -n ${AWAY} addr add 198.18.0.2/30 dev e0`,
        startWireguard(GATE, 'wg1', `cat ${kept('wg1.conf', wireguardConf(tunnel, ours.privateKey))}`),
        `ip -n ${GATE} addr add 10.9.200.1/24 dev wg1; ip -n ${GATE} link set wg1 up`,
        startWireguard(
          AWAY,
          'wg0',
          `wg-quick strip ${kept('away.conf', peerConf(tunnel, peer, '198.18.0.1:51820', old.privateKey))}`,
        ),
        `ip -n ${AWAY} addr add 10.9.200.9/32 dev wg0; ip -n ${AWAY} link set wg0 up; ip -n ` +
          `${AWAY} route add 10.9.200.0/24 dev wg0`,
      ].join('\n'),
    )
  })
  it('is let in by the old one, by the new one as soon as addresses follow it, and by the old one again', async () => {
    expect(await answers()).toBe(true)
    await follow()
    expect([await answers(), drifts(plan, await dump())]).toEqual([true, []])
    await takes(next.privateKey)
    // The new key is known, but the addresses are still the old one's.
    expect(await answers()).toBe(false)
    await follow()
    expect([await answers(), drifts(plan, await dump())]).toEqual([true, []])
    await takes(old.privateKey)
    await answers()
    await follow()
    expect(await answers()).toBe(true)
  })
  it('and by no third one', async () => {
    await takes(stranger.privateKey)
    await answers()
    await follow()
    expect(await answers()).toBe(false)
  })
  it('shows in what wg prints: a port, a peer that is not planned, addresses that are not', async () => {
    await sh(
      beside(GATE, `wg set wg1 listen-port 51999 peer ${stranger.publicKey} allowed-ips 10.9.200.77/32`),
    )
    expect(drifts(plan, await dump())).toEqual(['port-differs', 'peer-unknown'])
    await sh(
      beside(GATE, `wg set wg1 listen-port 51820 peer ${stranger.publicKey} allowed-ips 10.9.200.9/32`),
    )
    expect(drifts(plan, await dump())).toEqual(['peer-unknown', 'allowed-differs'])
  })
})

describe.skipIf(noTunnels !== null)(
  'packets in a tunnel, wireguard-go for the kernel’s, a plain cable of the uplink’s MTU for PPPoE',
  () => {
    const [ours, theirs] = [newTunnelKeys(), newTunnelKeys()]
    /** How many packets the gateway has cut up since it began, of either family. */
    const cut = async () => {
      const [four = '', ipv6 = ''] = (
        await sh(
          inGate(`sh -c "grep '^Ip:' /proc/net/snmp | tail -1; echo =; grep Ip6FragCreates /proc/net/snmp6"`),
        )
      ).split('=')
      const names = (await sh(inGate(`sh -c "grep '^Ip:' /proc/net/snmp | head -1"`))).trim().split(/\s+/)
      return (
        Number(four.trim().split(/\s+/)[names.indexOf('FragCreates')]) + Number(/(\d+)\s*$/.exec(ipv6)?.[1])
      )
    }
    it.each([
      ['pppoe', '198.18.0.2:51820'],
      ['dhcp', '198.18.0.2:51820'],
      ['pppoe', '[2001:db8:ffff::2]:51820'],
      ['dhcp', '[2001:db8:ffff::2]:51820'],
    ] as const)(
      'over %s to %s: as large as computed none is cut up, one byte more and it is',
      async (kind, endpoint) => {
        const peer: Peer = aPeer({
          id: 'far',
          name: 'Far',
          publicKey: theirs.publicKey,
          allowed: ['10.9.200.9/32'],
          theirAllowed: ['10.9.200.0/24'],
          endpoint,
        })
        const plan = site((plan) => {
          the(plan.uplinks, 'line').kind = kind
          plan.tunnels.push(
            aTunnel({
              publicKey: ours.publicKey,
              peers: [peer],
            }),
          )
        })
        const [tunnel] = plan.tunnels as [Tunnel]
        const { most } = tunnelRoom(plan, tunnel)
        const mtu = uplinkMtu(plan.uplinks[0]!)
        await clear()
        await joined('wan1', 'e0')
        const away =
          `[Interface]\nPrivateKey = ${theirs.privateKey}\nListenPort = ` +
          `51820\n[Peer]\nPublicKey = ${ours.publicKey}\nAllowedIPs = 10.9.200.0/24\n`
        await sh(
          [
            `ip -n ${GATE} link set wan1 mtu ${mtu}; ip -n ${AWAY} link set e0 mtu ${mtu}`,
            `ip -n ${GATE} addr add 198.18.0.1/30 dev wan1; ip -n ${AWAY} addr add 198.18.0.2/30 ` +
              `dev e0; ip -n ${GATE} addr add 2001:db8:ffff::1/64 dev wan1 nodad; ip -n ${AWAY} ` +
              'addr add 2001:db8:ffff::2/64 dev e0 nodad',
            startWireguard(GATE, 'wg1', `cat ${kept('wg1.conf', wireguardConf(tunnel, ours.privateKey))}`),
            `ip -n ${GATE} addr add 10.9.200.1/24 dev wg1; ip -n ${GATE} link set wg1 mtu ${most} up`,
            startWireguard(AWAY, 'wg0', `cat ${kept('away.conf', away)}`),
            `ip -n ${AWAY} addr add 10.9.200.9/32 dev wg0; ip -n ${AWAY} link set wg0 mtu ${most} ` +
              `up; ip -n ${AWAY} route add 10.9.200.0/24 dev wg0`,
          ].join('\n'),
        )
        // 28 of a ping are its headers: RFC 791 and RFC 792.
        const ping = (size: number) =>
          works(inGate(`fping -q -M -b ${size - 28} -c 2 -p 200 -t 900 10.9.200.9`))
        expect([await ping(most), await cut()]).toEqual([true, 0])
        // WireGuard fills packets up to 16 bytes, but never beyond the tunnel's MTU.
        await sh(`ip -n ${GATE} link set wg1 mtu ${most + 1}`)
        await ping(most + 1)
        expect(await cut()).toBeGreaterThan(0)
      },
    )
  },
)

describe.skipIf(noTwin !== null)('leases that dnsmasq wrote', () => {
  const held = (mac: string) =>
    site(
      (plan) =>
        void the(plan.networks, 'staff').fixed.push({
          id: 'pr',
          ip: '10.9.10.50',
          name: 'Printer',
          deviceId: null,
          how: 'reserved',
          mask: null,
          gateway: null,
          mac,
          ip6: null,
        }),
    )
  it('are as planned, and a reservation that somebody else has shows', async () => {
    await clear()
    await joined('lan.10', 'e0')
    const leases = join(folder, 'leases')
    const lease = kept(
      'bound.sh',
      '#!/bin/sh\n[ "$1" = bound ] && ip addr add "$ip/24" dev "$interface"; exit 0\n',
    )
    await sh(
      [
        `chmod 755 ${lease}; ip -n ${AWAY} link set e0 address 00:00:5e:00:53:11; ip -n ` +
          `${GATE} addr add 10.9.10.1/24 dev lan.10`,
        inGate(
          `dnsmasq --conf-file=${kept('dnsmasq.conf', dnsmasqConf(held('00-00-5E-00-53-11'), 'gate'))} ` +
            `--dhcp-leasefile=${leases} --pid-file=${join(folder, 'pid')} ` +
            `--log-facility=${join(folder, 'log')} --user=root`,
        ),
        inAway(`udhcpc -i e0 -n -q -f -t 6 -T 1 -s ${lease}`),
        `ip -n ${AWAY} link set e0 down; ip -n ${AWAY} link set e0 address 00:00:5e:00:53:22; ` +
          `ip -n ${AWAY} link set e0 up`,
        inAway(`udhcpc -i e0 -n -q -f -t 6 -T 1 -x hostname:desk -s ${lease}`),
      ].join('\n'),
    )
    const written = readFileSync(leases, 'utf8')
    expect(written.split('\n').filter((l) => /^\d+ ([0-9a-f]{2}:){5}/.test(l))).toHaveLength(2)
    expect(drifts(held('00-00-5E-00-53-11'), written)).toEqual([])
    expect(drifts(held('00-00-5E-00-53-99'), written)).toEqual(['lease-taken'])
  })
})

/** Two lines of the first order, 7 to 3, and two of the second, 1 to 3. */
function sharing(plan: LoosePlan): void {
  the(plan.devices, 'gate').ports.push({ id: 'p3', name: '3', mode: { mode: 'wan' }, ...BLANK_PORT })
  plan.uplinks.push({ ...the(plan.uplinks, 'line'), id: 'spare', portId: 'p3', weight: 3 })
  the(plan.uplinks, 'line').weight = 7
  const second = { portId: 'p3', priority: 2 }
  plan.uplinks.push({ ...the(plan.uplinks, 'line'), ...second, id: 'third', weight: 1 })
  plan.uplinks.push({ ...the(plan.uplinks, 'line'), ...second, id: 'fourth', weight: 3 })
}

/** Sends one datagram from each of so many addresses, to a port. */
const SEND =
  'use Socket; for my $n (0 .. $ARGV[0] - 1) { socket(my $s, AF_INET, SOCK_DGRAM, 0); ' +
  'bind($s, pack_sockaddr_in(0, inet_aton(sprintf "10.9.%d.%d", 10 + int($n / 200), 1 + ' +
  '$n % 200))) or die $!; send($s, "x", 0, pack_sockaddr_in($ARGV[1], ' +
  'inet_aton("203.0.113.1"))) or die $! }'

/** Counts new flows by their marks. */
const COUNT =
  "nft 'table ip count { map seen { type ipv4_addr : mark; flags dynamic; size 65535; " +
  '}; chain c { type filter hook prerouting priority 0; ct state new ct mark & 0x1f0000 ' +
  '== 0x10000 counter; ct state new ct mark & 0x1f0000 == 0x20000 counter; ct state new ' +
  'ct mark & 0x3e00000 == 0x600000 counter; ct state new ct mark & 0x3e00000 == ' +
  "0x800000 counter; ct state new update @seen { ip saddr : ct mark }; }; }'"

describe.skipIf(noTwin !== null)('uplinks that share', () => {
  it('get new flows by weight, and one sender stays with one uplink', async () => {
    const plan = site(sharing)
    await clear()
    await joined('lan.10', 'e0')
    const senders = 400
    const address = (n: number) => `10.9.${10 + Math.floor(n / 200)}.${1 + (n % 200)}`
    const send = kept('send.pl', SEND)
    await sh(
      [
        inGate('sysctl -qw net.ipv4.ip_forward=1 net.ipv4.conf.all.rp_filter=0'),
        `ip -n ${GATE} addr add 10.9.99.1/16 dev lan.10`,
        `ip -n ${GATE} route add default dev lan.10`,
        inGate(`nft -f ${kept('share.nft', nftRuleset(plan, 'gate') ?? '')}`),
        inGate(COUNT),
        `ip -n ${AWAY} -batch - ` +
          `<<'END'\n${Array.from({ length: senders }, (_, n) => `addr add ${address(n)}/16 dev e0`).join('\n')}\n` +
          `route add default via 10.9.99.1\nEND`,
      ].join('\n'),
    )
    const counted = async (port: number) => {
      await sh(inAway(`perl ${send} ${senders} ${port}`))
      const { nftables } = JSON.parse(await sh(inGate('nft -j list table ip count'))) as {
        nftables: readonly {
          rule?: { expr: readonly { counter?: { packets: number } }[] }
          map?: { elem?: unknown }
        }[]
      }
      return {
        packets: nftables.flatMap((x) => x.rule?.expr.flatMap((e) => e.counter?.packets ?? []) ?? []),
        seen: JSON.stringify(nftables.flatMap((x) => x.map?.elem ?? [])),
      }
    }
    const first = await counted(4000)
    const [packets1 = 0, packets2 = 0, packets3 = 0, packets4 = 0] = first.packets
    expect([packets1 + packets2, packets3 + packets4]).toEqual([senders, senders])
    // Four and a half deviations of a binomial: one run in 150,000 is further off.
    for (const [id, of, took] of [
      ['line', 0.7, packets1],
      ['third', 0.25, packets3],
    ] as const) {
      const share = uplinkShare(plan.uplinks, the(plan.uplinks, id)) / 100
      expect(share).toBeCloseTo(of)
      expect(Math.abs(took - senders * share)).toBeLessThan(4.5 * Math.sqrt(senders * share * (1 - share)))
    }
    // New flows of the same senders take the same lines.
    const second = await counted(4001)
    expect([second.packets, second.seen]).toEqual([
      [2 * packets1, 2 * packets2, 2 * packets3, 2 * packets4],
      first.seen,
    ])
  })
})
