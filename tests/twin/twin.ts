import { mkdtempSync, rmSync, writeFileSync, chmodSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

import { indexPlan, upstreamDownIn, type FailureScenario, down } from '#core/queries'
import type { Plan } from '#core/schema'

import { openIpv6Site } from '#core/reachability'
import { buildTwin, withMacs, type Built } from './build'
import { compare, type Comparison } from './compare'
import { hasIpv6 } from './mechanisms'
import { keyOf, placesOf, familyFour, placesOfSix, familySix } from './places'
import { portsOf, Prober } from './prober'
import { removeNamespace, stemOf } from './sweep'
import { bash, run } from './shell'

/** Twins that this process has built. */
let counter = 0

export interface TwinOptions {
  /** Changes the twin after it was built: a control that must show. */
  readonly tamper?: (built: Built) => string
  readonly realTags?: boolean
}

/** How many times as long as usual an address, a handshake and an answer are waited for where cells differ. */
const PATIENCE = 4

/**
 * Every probe for real, and the engine's answer to each. A busy machine loses a probe, a lease or a handshake, so
 * where cells differ the twin that stands is asked again: what is wrong there is wrong again, whatever chance
 * decided when it was built.
 */
export async function compareWithKernel(
  given: Plan,
  scenario: FailureScenario = [],
  { tamper = () => '', realTags = false }: TwinOptions = {},
): Promise<Judged> {
  return withTwin(given, scenario, realTags, async (twin) => {
    const found = await raise(twin, tamper(twin.built), scenario)
    const first = await judge(twin, twin.built, scenario, found)
    if (first.differences.length === 0) return { ...first, lost: [] }
    for (const prober of twin.probers.values()) prober.stop()
    twin.probers.clear()
    const patient = { ...twin, patience: PATIENCE }
    const again = await judge(patient, twin.built, scenario, await askLonger(patient, found))
    return { ...again, lost: first.differences }
  })
}

/** What was judged, and what differed when it was asked first. */
export interface Judged extends Comparison {
  readonly lost: Comparison['differences']
}

/**
 * Twins of one plan that stand side by side: more would fill the one table of neighbours that a machine has.
 */
const STANDING = 3

/**
 * Single failures, of which most need no twin of their own: both ends of a broken cable, or of each cable
 * of a dead device, hear nothing (nft at their ingress, since a cable set down is up again only after a
 * second or two), whoever has an address by DHCP or of its own making gives it back and asks anew, and all
 * is probed.
 * Where a failure changes nothing that the twin has, such as the cable of a socket that others stand for,
 * what the kernel said when all was well is compared with what the engine says now.
 * `seen` gets each answer; null for one that only a twin built under it can show: gateways, lines, and
 * cables that take addresses along.
 */
export async function compareEach(
  given: Plan,
  failures: readonly string[],
  seen: (failure: string, found: Comparison | null) => void,
): Promise<void> {
  const unheard: string[] = []
  const queue: string[] = []
  const { cables } = buildTwin(withMacs(given), [], '')
  for (const failure of failures) {
    const ends = endsUnder(given, cables, failure)
    if (ends === null) seen(failure, null)
    else (ends.length === 0 ? unheard : queue).push(failure)
  }
  await Promise.all(
    Array.from({ length: STANDING }, (_, i) =>
      withTwin(given, [], false, async (twin) => {
        const { plan, stem, folder } = twin
        const found = await raise(twin, '', [])
        // Who is there under a failure, by the names of the twin that stands.
        const builtUnder = (failure: string) => buildTwin(plan, [down(failure)], stem)
        for (const failure of i === 0 ? unheard : [])
          seen(failure, await judge(twin, builtUnder(failure), [down(failure)], found))
        for (let failure = queue.shift(); failure !== undefined; failure = queue.shift()) {
          const built = builtUnder(failure)
          const deaf = endsUnder(plan, twin.built.cables, failure) ?? []
          await bash([
            '-c',
            deaf
              .map(
                ({ ns, dev }) =>
                  `ip netns exec ${ns} nft 'table netdev cut { chain ${dev} { type filter hook ingress ` +
                  `device ${dev} priority 0; policy drop; }; }'`,
              )
              .join('\n'),
          ])
          await askAnew(built, folder)
          const now = { ...(await addressesOf(built, 1)), well: found.well }
          const again = () => {
            for (const prober of twin.probers.values()) prober.forget()
            return judge(twin, built, [down(failure)], now)
          }
          // A busy machine loses a probe now and then; what is wrong is wrong again.
          const first = await again()
          seen(failure, first.differences.length === 0 ? first : await again())
          await bash([
            '-c',
            [...new Set(deaf.map(({ ns }) => ns))]
              .map((ns) => `ip netns exec ${ns} nft delete table netdev cut`)
              .join('\n'),
          ])
        }
      }),
    ),
  )
}

/** Who hears nothing under a failure; null where that is not all that it does. */
function endsUnder(
  plan: Plan,
  cables: Built['cables'],
  failure: string,
): readonly { readonly ns: string; readonly dev: string }[] | null {
  const device = plan.devices.find((d) => d.id === failure)
  if (device?.kind === 'gateway' || device?.kind === 'cloud') return null
  const links = plan.links.filter((l) => l.id === failure || [l.a.deviceId, l.b.deviceId].includes(failure))
  const ends = links.map((l) => cables.get(l.id) ?? null)
  return links.length === 0 || ends.includes(null) ? null : ends.flatMap((e) => e ?? [])
}

/** A twin that stands, and those who probe in it. */
interface Twin {
  readonly plan: Plan
  readonly stem: string
  readonly built: Built
  readonly folder: string
  readonly probers: Map<string, Prober>
  readonly patience: number
}
interface Found {
  readonly addresses: ReadonlyMap<string, string>
  readonly sixes: ReadonlyMap<string, string>
  readonly well: ReadonlySet<string>
}

async function withTwin<T>(
  given: Plan,
  scenario: FailureScenario,
  realTags: boolean,
  work: (twin: Twin) => Promise<T>,
): Promise<T> {
  const plan = withMacs(given)
  const stem = stemOf(counter++)
  const twin: Twin = {
    plan,
    stem,
    built: buildTwin(plan, scenario, stem, realTags),
    folder: mkdtempSync(join(tmpdir(), 'mast-twin-')),
    probers: new Map(),
    patience: 1,
  }
  try {
    return await work(twin)
  } finally {
    for (const prober of twin.probers.values()) prober.stop()
    await Promise.all(twin.built.namespaces.map(removeNamespace))
    rmSync(twin.folder, { recursive: true, force: true })
  }
}

/** Every cell of both families. `built`: who is there under this weather. */
async function judge(
  twin: Twin,
  built: Built,
  scenario: FailureScenario,
  { addresses, sixes, well }: Found,
): Promise<Comparison> {
  const { plan, probers, patience } = twin
  const ports = portsOf(plan)
  const places = placesOf(plan, built, addresses, well)
  const ipv6 = openIpv6Site(indexPlan(plan), scenario)
  if ((ipv6 !== null) !== hasIpv6(plan)) throw new Error('the engine has another view of whether IPv6 is on')
  for (const { ns } of places)
    if (!probers.has(ns)) probers.set(ns, new Prober(ns, ports, ipv6 !== null, patience))
  // An agent answers for the addresses that it found when it began.
  const own = new Map<string, string>()
  for (const host of built.hosts)
    own.set(
      host.ns,
      `${own.get(host.ns) ?? ''} ${addresses.get(keyOf(host)) ?? ''} ${sixes.get(keyOf(host)) ?? ''}`,
    )
  await Promise.all([...probers].map(([ns, p]) => p.begin(own.get(ns) ?? '')))
  const [four, other] = await Promise.all([
    compare(plan, built.wans, familyFour(plan, scenario, places), probers, ports),
    ipv6 && compare(plan, [], familySix(plan, ipv6, placesOfSix(plan, built, sixes)), probers, ports),
  ])
  if (!other) return four
  return {
    cells: four.cells + other.cells,
    passing: four.passing + other.passing,
    answers: [...four.answers, ...other.answers],
    silent: four.silent,
    differences: [...four.differences, ...other.differences],
  }
}

/**
 * Everybody whose address is not typed in loses it and asks again; by DHCP those who hear nothing wait for
 * two seconds.
 */
async function askAnew(built: Built, folder: string): Promise<void> {
  const lines = [
    ...built.clients.map(
      (host) =>
        `(ip -n ${host.ns} -4 addr flush dev ${host.dev}; ip -n ${host.ns} neigh flush all; ip netns ` +
        `exec ${host.ns} udhcpc -i ${host.dev} -n -q -f -t 2 -T 1 -A 1 -s "$DIR/lease.sh" ` +
        '>/dev/null 2>&1) &',
    ),
    ...built.wake6.map(
      (line, i) =>
        `(ip netns exec ${built.hosts[i]?.ns} sysctl -qw ` +
        `net.ipv6.conf.${built.hosts[i]?.dev}.disable_ipv6=1; ${line}) &`,
    ),
  ]
  writeFileSync(join(folder, 'ask.sh'), [`export DIR=${folder}`, ...lines, 'wait', 'sleep 0.3'].join('\n'))
  await bash([join(folder, 'ask.sh')])
}

/** Who has no address by DHCP asks again, and handshakes are tried again. */
async function askLonger({ built, folder, patience }: Twin, { addresses, well }: Found): Promise<Found> {
  const without = built.clients.filter((host) => !addresses.has(keyOf(host)))
  writeFileSync(
    join(folder, 'longer.sh'),
    [`export DIR=${folder}`, ...without.map((host) => dhcpClient(host, 6 * patience)), 'wait'].join('\n'),
  )
  await bash([join(folder, 'longer.sh')])
  if (built.tunnels !== '') await wakePeers(built, patience)
  return { ...(await addressesOf(built, ROUNDS * patience)), well }
}

/** A client that asks so many times, a second apart, in the background. */
const dhcpClient = ({ ns, dev }: Built['clients'][number], times: number): string =>
  `ip netns exec ${ns} udhcpc -i ${dev} -n -q -f -t ${times} -T 1 -A 1 -s "$DIR/lease.sh" >/dev/null 2>&1 &`

/** What clients do with what they are given: udhcpc for IPv4, dhclient for IPv6. */
const LEASE_SCRIPTS = {
  'lease.sh':
    '#!/bin/sh\n[ "$1" = bound ] || exit 0\nip addr add "$ip/${mask:-24}" dev ' +
    '"$interface"\n[ -n "$router" ] && ip route add default via ${router%% *} dev ' +
    '"$interface"\nexit 0\n',
  'lease6.sh':
    '#!/bin/sh\n[ "$reason" = BOUND6 ] && ip -6 addr add "$new_ip6_address/128" dev "$interface" nodad\nexit 0\n',
}

/** Builds the namespaces, starts the DHCP server, lets every client ask, and reads who got what. */
async function raise({ built, folder }: Twin, tampering: string, scenario: FailureScenario): Promise<Found> {
  for (const [file, text] of Object.entries(built.files)) writeFileSync(join(folder, file), text)
  for (const [name, text] of Object.entries(LEASE_SCRIPTS)) {
    writeFileSync(join(folder, name), text)
    chmodSync(join(folder, name), 0o755)
  }
  const dhcp = built.servers.map(
    ({ ns, file }) =>
      `ip netns exec ${ns} dnsmasq --conf-file="$DIR/${file}" ` +
      `--dhcp-leasefile="$DIR/${file}.leases" --pid-file="$DIR/${file}.pid" ` +
      `--log-facility="$DIR/${file}.log" --user=root`,
  )
  const ask = built.clients.map((host) => dhcpClient(host, 6))
  writeFileSync(
    join(folder, 'build.sh'),
    [
      'set -e',
      'export TZ=UTC',
      `export DIR=${folder}`,
      built.script,
      tampering,
      ...dhcp,
      'set +e',
      ...built.wake6.map((line) => `(${line}) &`),
      ...ask,
      'wait',
      'exit 0',
    ].join('\n'),
  )
  try {
    await bash([join(folder, 'build.sh')], { maxBuffer: 1e7 })
  } catch (error) {
    throw new Error(
      `the twin could not be built: ${String((error as { stderr?: string }).stderr).slice(0, 600)}`,
      { cause: error },
    )
  }
  const well = await probeLines(built, scenario)
  if (built.tunnels !== '') {
    writeFileSync(join(folder, 'tunnels.sh'), ['set -e', `export DIR=${folder}`, built.tunnels].join('\n'))
    await bash([join(folder, 'tunnels.sh')])
    await wakePeers(built, 1)
  }
  return { ...(await addressesOf(built, ROUNDS)), well }
}

/** How often it is looked whether hosts have made themselves addresses, about three times a second. */
const ROUNDS = 7

/** Who has which address now. */
async function addressesOf(built: Built, rounds: number): Promise<Pick<Found, 'addresses' | 'sixes'>> {
  const addresses = new Map<string, string>()
  const sixes = await ownSixes(built, rounds)
  await Promise.all(
    built.hosts.map(async (host) => {
      const { stdout } = await run('ip', ['-n', host.ns, '-j', 'addr', 'show', 'dev', host.dev]).catch(
        () => ({ stdout: '[]' }),
      )
      const [iface] = JSON.parse(stdout || '[]') as { addr_info?: { family: string; local: string }[] }[]
      const own = iface?.addr_info?.find((a) => a.family === 'inet')
      if (own) addresses.set(keyOf(host), own.local)
    }),
  )
  return { addresses, sixes }
}

/** Addresses that hosts have made themselves; those who hear nobody are given some seconds. */
async function ownSixes(built: Built, rounds: number): Promise<Map<string, string>> {
  const found = new Map<string, string>()
  if (built.wake6.length === 0) return found
  for (let round = 0; round < rounds && found.size < built.hosts.length; round++) {
    if (round > 0) await new Promise((done) => setTimeout(done, 350))
    await Promise.all(
      built.hosts
        .filter((h) => !found.has(keyOf(h)))
        .map(async (host) => {
          const { stdout } = await run('ip', [
            '-n',
            host.ns,
            '-j',
            '-6',
            'addr',
            'show',
            'dev',
            host.dev,
            'scope',
            'global',
          ]).catch(() => ({ stdout: '[]' }))
          const own = (JSON.parse(stdout || '[]') as { addr_info?: { local: string }[] }[]).flatMap(
            (iface) => iface.addr_info ?? [],
          )[0]
          if (own) found.set(keyOf(host), own.local)
        }),
    )
  }
  return found
}

/** What a gateway's own probes do: a line whose far end does not answer is taken out of the routes. */
async function probeLines(built: Built, scenario: FailureScenario): Promise<Set<string>> {
  const well = new Set<string>()
  if (built.gateway === '') return well
  const silent = upstreamDownIn(scenario)
  await Promise.all(
    built.wans.map(async (wan) => {
      if (!wan.probed && silent.has(wan.id)) return
      const answers = await run('ip', [
        'netns',
        'exec',
        built.gateway,
        'fping',
        '-q',
        '-r',
        '4',
        '-B',
        '1',
        '-t',
        '300',
        wan.far,
      ]).then(
        () => true,
        () => false,
      )
      if (answers) return void well.add(wan.id)
      for (const table of ['main', ...wan.tables.map(String)]) {
        await run('ip', [
          '-n',
          built.gateway,
          'route',
          'del',
          'default',
          'via',
          wan.far,
          'table',
          table,
        ]).catch(() => undefined)
        if (built.wake6.length > 0)
          await run('ip', [
            '-n',
            built.gateway,
            '-6',
            'route',
            'del',
            'default',
            'dev',
            wan.dev,
            'table',
            table,
          ]).catch(() => undefined)
      }
    }),
  )
  return well
}

/** Tunnels shake hands before anything is judged; those that cannot are left as they are. */
async function wakePeers(built: Built, patience: number): Promise<void> {
  const ping = (ns: string, to: string) =>
    run('ip', `netns exec ${ns} fping -q -r ${8 * patience} -B 1 -t 250 ${to}`.split(' ')).catch(
      () => undefined,
    )
  await Promise.all(
    built.peers.flatMap((peer) => [
      ping(peer.ns, peer.home),
      ...(built.gateway === '' ? [] : [ping(built.gateway, peer.address)]),
    ]),
  )
}

export { portsOf } from './prober'
export type { Ports } from './prober'
export type { Comparison, Difference } from './compare'
