import { execFile, spawn, type ChildProcessWithoutNullStreams } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync, chmodSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { createInterface } from 'node:readline'
import { fileURLToPath } from 'node:url'
import { promisify } from 'node:util'
import {
  contains,
  contains6,
  formatIpv4,
  parseIpv4,
  parseIpv6,
  parsePrefix4,
  routerSix,
  type Ipv4,
} from '#core/address'
import {
  DARK,
  indexPlan,
  translateSource,
  mapsOf,
  translateDestination,
  prefixSix,
  type Plan,
} from '#core/model'
import { includes } from '#core/filter'
import {
  callFromInside,
  flowBetween,
  openSite,
  openSix,
  peerKey,
  type Party,
  type Site,
} from '#core/reachability'
import { buildTwin, OUTSIDE, OUTSIDE6, withMacs, type Built, type Host } from './build'

// The twin of a plan in the kernel: built, given its addresses by a real DHCP server, probed, compared and
// taken down.

const run = promisify(execFile)
const AGENT = fileURLToPath(new URL('agent.pl', import.meta.url))
const PROBE_SECONDS = 60

/** An address to try, and under which port each port is dialled where that differs: `tcp 443` -> 8443. */
interface Target {
  readonly ip: string
  readonly dial?: Readonly<Record<string, number>>
}

export interface Ports {
  readonly tcp: readonly number[]
  readonly udp: readonly number[]
}

/** First and last port of each service of a plan, and one that no service names. */
export function portsOf(plan: Plan): Ports {
  const of = (proto: 'tcp' | 'udp') => {
    const named = plan.services.flatMap((service) =>
      service.entries.filter((e) => e.proto === proto).flatMap((e) => [e.from, e.to]),
    )
    const handed = plan.forwards.filter((f) => f.proto === proto).map((f) => f.toPort)
    return [...new Set([...handed, ...named.filter((p) => p !== 67 && p !== 68), 7777])].slice(0, 9)
  }
  return { tcp: of('tcp'), udp: of('udp') }
}

/** The agent of one namespace. It remembers what it saw until it is told that the twin has changed. */
class Prober {
  private child: ChildProcessWithoutNullStreams | null = null
  private waiting: ((line: string) => void)[] = []
  private own = ''
  private readonly seen = new Map<string, Promise<unknown>>()
  constructor(
    private readonly ns: string,
    private readonly ports: Ports,
    private readonly six: boolean,
  ) {}
  /** Ready to answer for these addresses of its own. */
  async begin(own: string): Promise<void> {
    if (this.child && this.own === own) return
    this.stop()
    this.own = own
    this.child = spawn('ip', [
      'netns',
      'exec',
      this.ns,
      'perl',
      AGENT,
      this.ports.tcp.join(','),
      this.ports.udp.join(','),
      this.six ? '1' : '0',
    ])
    const waiting: ((line: string) => void)[] = (this.waiting = [])
    createInterface({ input: this.child.stdout }).on('line', (line) => waiting.shift()?.(line))
    await this.next()
  }
  private next(): Promise<string> {
    return new Promise((resolve, reject) => {
      const timer = setTimeout(() => reject(new Error('a probe did not answer')), PROBE_SECONDS * 1000)
      this.waiting.push((line) => {
        clearTimeout(timer)
        resolve(line)
      })
    })
  }
  private once<T>(what: string, probe: () => Promise<T>): Promise<T> {
    const known = this.seen.get(what) as Promise<T> | undefined
    if (known) return known
    const answer = probe()
    this.seen.set(what, answer)
    return answer
  }
  async ask(targets: readonly Target[]): Promise<{ tcp: boolean[]; udp: boolean[] }[]> {
    if (targets.length === 0) return []
    const words = targets
      .map(({ ip, dial }) =>
        dial
          ? `${ip}=${Object.entries(dial)
              .map(([port, by]) => `${port.replace(' ', '')}:${by}`)
              .join(',')}`
          : ip,
      )
      .join(' ')
    const bits = (text = '') => [...text].map((c) => c === '1')
    const answer = await this.once(words, () => {
      this.child?.stdin.write(`${words}\n`)
      return this.next()
    })
    return answer.split(' ').map((word) => ({ tcp: bits(word.split('/')[0]), udp: bits(word.split('/')[1]) }))
  }
  async pings(targets: readonly string[]): Promise<Set<string>> {
    if (targets.length === 0) return new Set()
    return this.once(`ping ${targets.join(' ')}`, async () => {
      const { stdout } = await run('ip', [
        'netns',
        'exec',
        this.ns,
        'fping',
        ...(targets[0]?.includes(':') ? ['-6'] : []),
        '-a',
        '-r',
        '1',
        '-t',
        '400',
        '-i',
        '1',
        ...targets,
      ]).catch((e: { stdout?: string }) => ({ stdout: e.stdout ?? '' }))
      return new Set(stdout.split('\n').map((l) => l.trim()))
    })
  }
  forget(): void {
    this.seen.clear()
  }
  stop(): void {
    this.child?.kill('SIGKILL')
  }
}

interface Place {
  readonly name: string
  readonly ns: string
  readonly party: (site: Site, other: Place) => Party | null
  /** Address others try; null where it has none. */
  readonly address: (other: Place) => string | null
  readonly home: string | null
}

export interface Difference {
  readonly from: string
  readonly to: string
  readonly what: string
  readonly engine: boolean
  readonly kernel: boolean
}
export interface Comparison {
  readonly cells: number
  readonly passing: number
  /** Places that got no address. */
  readonly silent: readonly string[]
  readonly differences: readonly Difference[]
}

let counter = 0

/**
 * Every probe for real, and the engine's answer to each.
 * `tamper` changes the twin after it was built: a control that must show.
 */
export async function compareWithKernel(
  given: Plan,
  weather: readonly string[] = [],
  tamper: (built: Built) => string = () => '',
  realTags = false,
): Promise<Comparison> {
  return withTwin(given, weather, realTags, async (twin) => {
    const found = await raise(twin.built, twin.folder, tamper(twin.built), weather)
    return judge(twin, twin.built, weather, found)
  })
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
        const found = await raise(twin.built, folder, '', [])
        // Who is there under a failure, by the names of the twin that stands.
        const builtUnder = (failure: string) => buildTwin(plan, [failure], stem)
        for (const failure of i === 0 ? unheard : [])
          seen(failure, await judge(twin, builtUnder(failure), [failure], found))
        for (let failure = queue.shift(); failure !== undefined; failure = queue.shift()) {
          const built = builtUnder(failure)
          const deaf = endsUnder(plan, twin.built.cables, failure) ?? []
          await run('bash', [
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
            return judge(twin, built, [failure], now)
          }
          // A busy machine loses a probe now and then; what is wrong is wrong again.
          const first = await again()
          seen(failure, first.differences.length === 0 ? first : await again())
          await run('bash', [
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
}
interface Found {
  readonly addresses: ReadonlyMap<string, string>
  readonly sixes: ReadonlyMap<string, string>
  readonly well: ReadonlySet<string>
}

async function withTwin<T>(
  given: Plan,
  weather: readonly string[],
  realTags: boolean,
  work: (twin: Twin) => Promise<T>,
): Promise<T> {
  const plan = withMacs(given)
  const stem = `m${process.pid % 1000}-${counter++}-`
  const twin: Twin = {
    plan,
    stem,
    built: buildTwin(plan, weather, stem, realTags),
    folder: mkdtempSync(join(tmpdir(), 'mast-twin-')),
    probers: new Map(),
  }
  try {
    return await work(twin)
  } finally {
    for (const prober of twin.probers.values()) prober.stop()
    await takeDown(twin.built)
    rmSync(twin.folder, { recursive: true, force: true })
  }
}

/** Every cell of both families. `built`: who is there under this weather. */
async function judge(
  twin: Twin,
  built: Built,
  weather: readonly string[],
  { addresses, sixes, well }: Found,
): Promise<Comparison> {
  const { plan, probers } = twin
  const ports = portsOf(plan)
  const places = placesOf(plan, built, addresses, well)
  const six = openSix(indexPlan(plan), weather)
  for (const { ns } of places) if (!probers.has(ns)) probers.set(ns, new Prober(ns, ports, six !== null))
  // An agent answers for the addresses that it found when it began.
  const own = new Map<string, string>()
  for (const host of built.hosts)
    own.set(
      host.ns,
      `${own.get(host.ns) ?? ''} ${addresses.get(keyOf(host)) ?? ''} ${sixes.get(keyOf(host)) ?? ''}`,
    )
  await Promise.all([...probers].map(([ns, p]) => p.begin(own.get(ns) ?? '')))
  const [four, other] = await Promise.all([
    compare(plan, built.wans, familyFour(plan, weather, places), probers, ports),
    six && compare(plan, [], familySix(plan, six, placesOfSix(plan, built, sixes)), probers, ports),
  ])
  if (!other) return four
  return {
    cells: four.cells + other.cells,
    passing: four.passing + other.passing,
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
  await run('bash', [join(folder, 'ask.sh')])
}

/** Builds the namespaces, starts the DHCP server, lets every client ask, and reads who got what. */
async function raise(
  built: Built,
  folder: string,
  tampering: string,
  weather: readonly string[],
): Promise<Found> {
  for (const [file, text] of Object.entries(built.files)) writeFileSync(join(folder, file), text)
  const lease = join(folder, 'lease.sh')
  writeFileSync(
    lease,
    '#!/bin/sh\n[ "$1" = bound ] || exit 0\nip addr add "$ip/${mask:-24}" dev ' +
      '"$interface"\n[ -n "$router" ] && ip route add default via ${router%% *} dev ' +
      '"$interface"\nexit 0\n',
  )
  chmodSync(lease, 0o755)
  const dhcp = built.servers.map(
    ({ ns, file }) =>
      `ip netns exec ${ns} dnsmasq --conf-file="$DIR/${file}" ` +
      `--dhcp-leasefile="$DIR/${file}.leases" --pid-file="$DIR/${file}.pid" ` +
      `--log-facility="$DIR/${file}.log" --user=root`,
  )
  const ask = built.clients.map(
    (host) =>
      `ip netns exec ${host.ns} udhcpc -i ${host.dev} -n -q -f -t 6 -T 1 -A 1 -s "$DIR/lease.sh" >/dev/null 2>&1 &`,
  )
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
      ...built.wake6.map((line) => `${line} &`),
      ...ask,
      'wait',
      'exit 0',
    ].join('\n'),
  )
  try {
    await run('bash', [join(folder, 'build.sh')], { maxBuffer: 1e7 })
  } catch (error) {
    throw new Error(
      `the twin could not be built: ${String((error as { stderr?: string }).stderr).slice(0, 600)}`,
      { cause: error },
    )
  }
  const well = await probeLines(built, weather)
  if (built.tunnels !== '') {
    writeFileSync(join(folder, 'tunnels.sh'), ['set -e', `export DIR=${folder}`, built.tunnels].join('\n'))
    await run('bash', [join(folder, 'tunnels.sh')])
    await wakePeers(built)
  }
  return { ...(await addressesOf(built)), well }
}

/** Who has which address now. */
async function addressesOf(built: Built, rounds = 7): Promise<Pick<Found, 'addresses' | 'sixes'>> {
  const addresses = new Map<string, string>()
  const sixes = await ownSixes(built, rounds)
  await Promise.all(
    built.hosts.map(async (host) => {
      const { stdout } = await run('ip', ['-n', host.ns, '-j', 'addr', 'show', 'dev', host.dev]).catch(
        () => ({ stdout: '[]' }),
      )
      const [face] = JSON.parse(stdout || '[]') as { addr_info?: { family: string; local: string }[] }[]
      const own = face?.addr_info?.find((a) => a.family === 'inet')
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
            (face) => face.addr_info ?? [],
          )[0]
          if (own) found.set(keyOf(host), own.local)
        }),
    )
  }
  return found
}

/** What a gateway's own probes do: a line whose far end does not answer is taken out of the routes. */
async function probeLines(built: Built, weather: readonly string[]): Promise<Set<string>> {
  const well = new Set<string>()
  if (built.gateway === '') return well
  await Promise.all(
    built.wans.map(async (wan) => {
      if (!wan.probed && weather.includes(DARK + wan.id)) return
      const answers = await run('ip', [
        'netns',
        'exec',
        built.gateway,
        'fping',
        '-q',
        '-c',
        '2',
        '-p',
        '150',
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
async function wakePeers(built: Built): Promise<void> {
  await Promise.all(
    built.peers.flatMap((peer) => [
      run('ip', [
        'netns',
        'exec',
        peer.ns,
        'fping',
        '-q',
        '-c',
        '6',
        '-p',
        '250',
        '-t',
        '250',
        peer.home,
      ]).catch(() => undefined),
      ...(built.gateway === ''
        ? []
        : [
            run('ip', [
              'netns',
              'exec',
              built.gateway,
              'fping',
              '-q',
              '-c',
              '6',
              '-p',
              '250',
              '-t',
              '250',
              peer.address,
            ]).catch(() => undefined),
          ]),
    ]),
  )
}

async function takeDown(built: Built): Promise<void> {
  const kill = built.namespaces.map(
    (ns) => `ip netns pids ${ns} 2>/dev/null | xargs -r kill -9 2>/dev/null; ip netns del ${ns} 2>/dev/null`,
  )
  await run('bash', ['-c', `${kill.join('\n')}\ntrue`], { maxBuffer: 1e7 }).catch(() => undefined)
}

const keyOf = (h: Host) => `${h.deviceId}/${h.portId ?? ''}`

function placesOf(
  plan: Plan,
  built: Built,
  addresses: ReadonlyMap<string, string>,
  well: ReadonlySet<string>,
): Place[] {
  const index = indexPlan(plan)
  const hosts = built.hosts.map((host): Place => {
    const wants = plan.devices.find((d) => d.id === host.deviceId)?.wants ?? null
    return {
      name: keyOf(host),
      ns: host.ns,
      home: wants,
      // Who comes through a tunnel calls by the address that it knows, where its own file allows that, or
      // else by the real one.
      address: (other) => {
        const own = addresses.get(keyOf(host)) ?? null
        const tunnel = plan.tunnels.find((t) => t.peers.some((p) => other.name === peerKey(p.id)))
        if (own === null || own.includes(':') || !tunnel) return own
        const known = translateSource(mapsOf(tunnel), ipOf(own))
        const sends = tunnel.peers
          .filter((p) => other.name === peerKey(p.id))
          .flatMap((p) => p.theirAllowed)
          .map((a) => parsePrefix4(a))
        return sends.some((p) => p.ok && contains(p.value, known)) ? formatIpv4(known) : own
      },
      party: (site) => {
        const endpoint = site.endpoints.find(
          (endpoint) =>
            endpoint.deviceId === host.deviceId &&
            (host.portId === null ? endpoint.portIds.length === 0 : endpoint.portIds.includes(host.portId)),
        )
        return endpoint ? { kind: 'endpoint', endpoint } : null
      },
    }
  })
  const faceOf = (other: Place) =>
    built.peers.find((p) => other.name === peerKey(p.peerId))?.home ??
    index.networks.get(other.home ?? '')?.gateway ??
    null
  // The outside calls the gateway over a line that is well, if there is one.
  const own = built.wans.find((w) => !w.shared && well.has(w.id)) ?? built.wans.find((w) => !w.shared)
  // Of several gateways the one with the lines is asked, by those who live behind it.
  const elsewhere = (other: Place) =>
    (index.networks.get(other.home ?? '')?.routerId ?? built.gatewayId) !== built.gatewayId
  const gateway: Place = {
    name: 'gateway',
    ns: built.gateway,
    home: null,
    party: (_, other) => (elsewhere(other) ? null : { kind: 'gateway', deviceId: built.gatewayId }),
    address: (other) => {
      if (elsewhere(other)) return null
      if (other.name === 'internet') return own?.own ?? null
      return faceOf(other)
    },
  }
  const internet: Place = {
    name: 'internet',
    ns: built.cloud,
    home: null,
    party: () => ({ kind: 'internet' }),
    address: () => OUTSIDE,
  }
  const peers = built.peers
    .filter((p) => p.tunnelId !== '')
    .map((peer): Place => ({
      name: peerKey(peer.peerId),
      ns: peer.ns,
      home: null,
      party: () => ({ kind: 'peer', tunnelId: peer.tunnelId, peerId: peer.peerId }),
      address: () => peer.address,
    }))
  return [
    ...hosts,
    ...peers,
    ...(built.gateway === '' ? [] : [gateway]),
    ...(built.cloud === '' ? [] : [internet]),
  ]
}

const ipOf = (text: string): Ipv4 => {
  const read = parseIpv4(text)
  if (!read.ok) throw new Error(`not an address: ${text}`)
  return read.value
}

/** Some address that the engine thinks an endpoint may have. */
const expectedIp = (party: Party | null): Ipv4 | null =>
  party?.kind === 'endpoint' ? (party.endpoint.ranges[0]?.from ?? null) : null

/** One of the two families: the engine's site, who is there, and how the kernel's addresses are read. */
interface Family {
  readonly name: '' | '6 '
  readonly site: Site
  readonly places: readonly Place[]
  /** What the engine calls an address of the kernel, of this party. */
  toEngine(text: string, party: Party | null): Ipv4 | null
  /** Address of the gateway as the outside calls it, or as it calls the outside. */
  readonly border: string | null
}

function familyFour(plan: Plan, weather: readonly string[], places: readonly Place[]): Family {
  return {
    name: '',
    site: openSite(indexPlan(plan), weather),
    places,
    toEngine: (text) =>
      translateDestination(
        plan.tunnels.flatMap((t) => mapsOf(t)),
        ipOf(text),
      ),
    border: plan.networks[0]?.gateway ?? null,
  }
}

const prefixIn = (plan: Plan, networkId: string | null) => {
  const network = plan.networks.find((n) => n.id === networkId)
  return network ? prefixSix(network) : null
}

function placesOfSix(plan: Plan, built: Built, sixes: ReadonlyMap<string, string>): Place[] {
  const first = plan.networks.find((n) => prefixIn(plan, n.id))
  const routerOf = (networkId: string | null) => {
    const prefix = prefixIn(plan, networkId)
    return prefix && routerSix(prefix)
  }
  const elsewhere = (other: Place) =>
    (plan.networks.find((n) => n.id === other.home)?.routerId ?? built.gatewayId) !== built.gatewayId
  const peerAt = (name: string) => built.peers.find((p) => name === peerKey(p.peerId))
  return placesOf(plan, built, sixes, new Set())
    .filter((p) => !p.name.startsWith('peer:') || peerAt(p.name)?.address6)
    .map((place) => {
      if (place.name.startsWith('peer:'))
        return { ...place, address: () => peerAt(place.name)?.address6 ?? null }
      if (place.name === 'gateway')
        return {
          ...place,
          address: (other: Place) =>
            elsewhere(other)
              ? null
              : (peerAt(other.name)?.home6 ??
                routerOf(other.name === 'internet' ? (first?.id ?? null) : other.home)),
        }
      if (place.name === 'internet') return { ...place, address: () => OUTSIDE6 }
      return place
    })
}

function familySix(plan: Plan, site: Site, places: readonly Place[]): Family {
  const first = plan.networks.map((n) => prefixIn(plan, n.id)).find((p) => p !== null)
  return {
    name: '6 ',
    site,
    places,
    border: first ? routerSix(first) : null,
    toEngine: (text, party) => {
      if (text === OUTSIDE6) return site.ipv6?.outside[0] ?? null
      const read = parseIpv6(text)
      const home = plan.networks.find((network) => {
        const prefix = prefixIn(plan, network.id)
        return read.ok && prefix !== null && contains6(prefix, { groups: read.value, length: 128 })
      })
      const prefix = prefixIn(plan, home?.id ?? null)
      if (prefix && text === routerSix(prefix))
        return site.interfaceOfNetwork.get(home?.id ?? '')?.address ?? null
      if (party?.kind === 'peer' || party?.kind === 'gateway') return site.ipv6?.addressOf(text) ?? null
      if (party?.kind === 'endpoint' && party.endpoint.how === 'static')
        return site.ipv6?.addressOf(text) ?? null
      // Whoever made itself an address made it of the prefix of the network it is in.
      return party?.kind === 'endpoint' && party.endpoint.networkId === home?.id ? expectedIp(party) : null
    },
  }
}

/**
 * What the outside gets at an address inside: tried directly, and where a forward names it, by way of each
 * line's own address.
 */
async function throughForwards(
  plan: Plan,
  wans: Built['wans'],
  prober: Prober | undefined,
  { ip, ports }: { readonly ip: string; readonly ports: Ports },
  direct: { tcp: boolean[]; udp: boolean[] } | undefined,
) {
  const mine = plan.forwards.filter((f) => f.toAddress === ip)
  const seen = { tcp: [...(direct?.tcp ?? [])], udp: [...(direct?.udp ?? [])] }
  for (const wan of wans.filter((w) => !w.shared && mine.some((f) => f.uplinkId === w.id))) {
    const dial: Record<string, number> = {}
    for (const forward of mine.filter((m) => m.uplinkId === wan.id))
      for (let n = 0; n <= forward.to - forward.from; n++)
        dial[`${forward.proto} ${forward.toPort + n}`] = forward.from + n
    const [answer] = (await prober?.ask([{ ip: wan.own, dial }])) ?? []
    for (const proto of ['tcp', 'udp'] as const)
      ports[proto].forEach(
        (port, i) => (seen[proto][i] ||= (answer?.[proto][i] ?? false) && `${proto} ${port}` in dial),
      )
  }
  return seen
}

async function compare(
  plan: Plan,
  wans: Built['wans'],
  family: Family,
  probers: ReadonlyMap<string, Prober>,
  ports: Ports,
): Promise<Comparison> {
  const { site, places, toEngine } = family
  const differences: Difference[] = []
  let cells = 0
  let passing = 0
  const note = (from: string, to: string, what: string, engine: boolean, kernel: boolean) => {
    cells++
    if (kernel) passing++
    if (engine !== kernel) differences.push({ from, to, what: `${family.name}${what}`, engine, kernel })
  }
  for (const place of places) {
    const party = place.party(site, place)
    if (party?.kind !== 'endpoint') continue
    const own = place.address(place)
    const ip = own === null ? null : toEngine(own, party)
    note(place.name, '', 'has an address', party.endpoint.how !== 'link-local', own !== null)
    // Where it has one, it is one that the engine thinks possible.
    if (own !== null)
      note(
        place.name,
        own,
        'has this address',
        ip !== null && party.endpoint.ranges.some((r) => r.from <= ip && ip <= r.to),
        true,
      )
  }
  await Promise.all(
    places.map(async (from) => {
      const others = places.flatMap((to) => {
        // Two places of one address: nobody calls himself.
        const ip = to.address(from)
        return to === from ||
          (from.name === 'gateway' && from.party(site, to) === null) ||
          (ip !== null && from.name !== 'gateway' && ip === from.address(to))
          ? []
          : [{ to, ip }]
      })
      // A host without an address of its own sends nothing, and nobody can call it; the engine must say the
      // same of each cell.
      const ips = [...new Set(others.flatMap((o) => o.ip ?? []))]
      const mine = from.address(from.name === 'gateway' ? (places[0] as Place) : from)
      const silent = from.name !== 'gateway' && from.name !== 'internet' && mine === null
      // Pings first: they make neighbours known.
      const echo = silent
        ? new Set<string>()
        : ((await probers.get(from.ns)?.pings(ips)) ?? new Set<string>())
      const answers = silent ? [] : ((await probers.get(from.ns)?.ask(ips.map((ip) => ({ ip })))) ?? [])
      for (const { to, ip } of others) {
        const [first, second] = [from.party(site, to), to.party(site, from)]
        const read = (text: string | null, party: Party | null): Ipv4 | null =>
          text === null ? expectedIp(party) : toEngine(text, party)
        const source =
          from.name === 'gateway'
            ? read(to.name === 'internet' ? family.border : from.address(to), first)
            : read(mine, first)
        const target = read(
          to.name === 'gateway' && from.name === 'internet' ? (family.border ?? ip) : ip,
          second,
        )
        const services =
          first && second && source !== null && target !== null
            ? flowBetween(site, { party: first, address: source }, { party: second, address: target })
                .services
            : null
        const direct = ip === null ? undefined : answers[ips.indexOf(ip)]
        const seen =
          family.name === '' && from.name === 'internet' && ip !== null
            ? await throughForwards(plan, wans, probers.get(from.ns), { ip, ports }, direct)
            : direct
        // What a line hands inside is not the gateway's to answer.
        const handed = new Set(
          family.name === '' && from.name === 'internet' && to.name === 'gateway'
            ? plan.forwards.flatMap((forward) =>
                Array.from(
                  { length: forward.to - forward.from + 1 },
                  (_, n) => `${forward.proto} ${forward.from + n}`,
                ),
              )
            : [],
        )
        const check = (what: string, engine: boolean, kernel: boolean) =>
          void (handed.has(what) || note(from.name, to.name, what, engine, kernel))
        check('icmp', services !== null && includes(services, 'icmp', 0), ip !== null && echo.has(ip))
        ports.tcp.forEach((port, i) =>
          check(`tcp ${port}`, services !== null && includes(services, 'tcp', port), seen?.tcp[i] ?? false),
        )
        ports.udp.forEach((port, i) =>
          check(`udp ${port}`, services !== null && includes(services, 'udp', port), seen?.udp[i] ?? false),
        )
      }
    }),
  )
  // What a line hands inside, called from inside by the line's own address.
  for (const forward of family.name === '' ? plan.forwards : []) {
    const wan = wans.find((w) => w.id === forward.uplinkId)
    const earlier = plan.forwards
      .slice(0, plan.forwards.indexOf(forward))
      .some((f) => f.proto === forward.proto && f.from <= forward.to && forward.from <= f.to)
    // Where it is not handed on, the gateway itself may answer there: a call to it is judged elsewhere.
    // An address of a pool is somebody's, or nobody's: which of them has it is the server's to say.
    if (!places.some((p) => p.name !== 'gateway' && p.address(p) === forward.toAddress)) continue
    if (
      !forward.hairpin ||
      !wan ||
      wan.shared ||
      earlier ||
      !site.uplinks.some((u) => u.id === wan.id) ||
      site.dark.has(wan.id)
    )
      continue
    await Promise.all(
      places.map(async (from) => {
        const party = from.party(site, from)
        const own = from.address(from)
        const address = own === null || party?.kind !== 'endpoint' ? null : toEngine(own, party)
        if (party?.kind !== 'endpoint' || address === null) return
        const dial: Record<string, number> = {}
        for (let n = 0; n <= forward.to - forward.from; n++)
          dial[`${forward.proto} ${forward.toPort + n}`] = forward.from + n
        const [answer] = (await probers.get(from.ns)?.ask([{ ip: wan.own, dial }])) ?? []
        const { services } = callFromInside(site, forward, party.endpoint, address)
        ports[forward.proto].forEach((port, i) => {
          const outer = dial[`${forward.proto} ${port}`]
          if (outer !== undefined)
            note(
              from.name,
              `${wan.id} from inside`,
              `${forward.proto} ${outer}`,
              includes(services, forward.proto, outer),
              answer?.[forward.proto][i] ?? false,
            )
        })
      }),
    )
  }
  return {
    cells,
    passing,
    silent: places.filter((p) => p.name !== 'gateway' && p.address(p) === null).map((p) => p.name),
    differences,
  }
}

/** Why the twin cannot run here; null where it can. */
export async function whyNot(): Promise<string | null> {
  if (process.getuid?.() !== 0) return 'it needs root for network namespaces'
  for (const [program, args] of [
    ['ip', ['-V']],
    ['nft', ['--version']],
    ['dnsmasq', ['--version']],
    ['udhcpc', ['--help']],
    ['fping', ['--version']],
    ['perl', ['-v']],
  ] as const) {
    if (!(await isThere(program, args))) return `${program} is not installed`
  }
  const probe = `mast-probe-${process.pid}`
  const works = await run('bash', [
    '-c',
    `ip netns add ${probe} && ip -n ${probe} link add name br0 type bridge && ip -n ` +
      `${probe} link add name va0 type veth peer name vb0 && ip netns exec ${probe} nft add ` +
      `table inet t; R=$?; ip netns del ${probe}; exit $R`,
  ]).then(
    () => true,
    () => false,
  )
  return works ? null : 'this kernel gives no namespaces with bridges, veth and nftables'
}

const isThere = (program: string, args: readonly string[]) =>
  run(program, [...args]).then(
    () => true,
    (e: { code?: unknown }) => e.code !== 'ENOENT',
  )

/** Why real tags cannot be tried here; null where they can. */
export async function whyNoTags(): Promise<string | null> {
  for (const program of ['ovs-vsctl', 'ovs-vswitchd', 'ethtool'])
    if (!(await isThere(program, ['--version']))) return `${program} is not installed`
  return null
}

/** Why tunnels cannot be tried here; null where they can. */
export async function whyNoTunnels(): Promise<string | null> {
  for (const program of ['wireguard-go', 'wg'])
    if (!(await isThere(program, ['--version']))) return `${program} is not installed`
  const probe = `mast-tun-${process.pid}`
  const works = await run('bash', [
    '-c',
    `ip netns add ${probe} && ip netns exec ${probe} bash -ec 'mkdir -p /run/wireguard; ` +
      'mount -t tmpfs tmpfs /run/wireguard; WG_I_PREFER_BUGGY_USERSPACE_TO_POLISHED_KMOD=1 ' +
      `wireguard-go wg0 >/dev/null 2>&1; wg show wg0 >/dev/null'; R=$?; ip netns pids ` +
      `${probe} | xargs -r kill; ip netns del ${probe}; exit $R`,
  ]).then(
    () => true,
    () => false,
  )
  return works ? null : 'there is no /dev/net/tun that wireguard-go could use'
}
