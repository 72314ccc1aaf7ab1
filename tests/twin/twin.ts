import { execFile, spawn, type ChildProcessWithoutNullStreams } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync, chmodSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { createInterface, type Interface } from 'node:readline'
import { fileURLToPath } from 'node:url'
import { promisify } from 'node:util'
import { formatIpv4, parseIpv4, type Ipv4 } from '#core/address'
import { indexPlan, type Plan } from '#core/model'
import { includes } from '#core/policy'
import { flowBetween, openSite, type Party, type Site } from '#core/reach'
import { buildTwin, OUTSIDE, withMacs, type Built, type Host } from './build'

// The twin of a plan in the kernel: built, given its addresses by a real DHCP server, probed, compared and taken down.

const run = promisify(execFile)
const AGENT = fileURLToPath(new URL('agent.mjs', import.meta.url))
const PROBE_SECONDS = 60

export interface Ports {
  readonly tcp: readonly number[]
  readonly udp: readonly number[]
}

/** First and last port of each service of a plan, and one that no service names. */
export function portsOf(plan: Plan): Ports {
  const of = (proto: 'tcp' | 'udp') => {
    const named = plan.services.flatMap((s) => s.entries.filter((e) => e.proto === proto).flatMap((e) => [e.from, e.to]))
    return [...new Set([...named.filter((p) => p !== 67 && p !== 68), 7777])].sort((a, b) => a - b).slice(0, 9)
  }
  return { tcp: of('tcp'), udp: of('udp') }
}

class Agent {
  private readonly lines: Interface
  private readonly waiting: ((line: string) => void)[] = []
  readonly ready: Promise<string>
  constructor(private readonly child: ChildProcessWithoutNullStreams) {
    this.lines = createInterface({ input: child.stdout })
    this.lines.on('line', (line) => this.waiting.shift()?.(line))
    this.ready = this.next()
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
  async ask(targets: readonly string[]): Promise<{ tcp: boolean[]; udp: boolean[] }[]> {
    this.child.stdin.write(`${JSON.stringify(targets)}\n`)
    return JSON.parse(await this.next()) as { tcp: boolean[]; udp: boolean[] }[]
  }
  stop(): void {
    this.child.kill('SIGKILL')
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

/** Every probe for real, and the engine's answer to each. `tamper` changes the twin after it was built: a control that must show. */
export async function compareWithKernel(given: Plan, weather: readonly string[] = [], tamper: (built: Built) => string = () => ''): Promise<Comparison> {
  const plan = withMacs(given)
  const built = buildTwin(plan, weather, `m${process.pid % 1000}-${counter++}-`)
  const folder = mkdtempSync(join(tmpdir(), 'mast-twin-'))
  const agents: Agent[] = []
  try {
    const addresses = await raise(built, folder, tamper(built))
    const ports = portsOf(plan)
    const places = placesOf(plan, built, addresses)
    const start = (ns: string) => {
      const agent = new Agent(spawn('ip', ['netns', 'exec', ns, process.execPath, AGENT, JSON.stringify(ports)]))
      agents.push(agent)
      return agent
    }
    const agentAt = new Map<string, Agent>()
    for (const place of places) if (!agentAt.has(place.ns)) agentAt.set(place.ns, start(place.ns))
    await Promise.all(agents.map((a) => a.ready))
    return await compare(plan, weather, places, agentAt, ports)
  } finally {
    for (const agent of agents) agent.stop()
    await takeDown(built)
    rmSync(folder, { recursive: true, force: true })
  }
}

/** Builds the namespaces, starts the DHCP server, lets every client ask, and reads who got what. */
async function raise(built: Built, folder: string, tampering: string): Promise<Map<string, string>> {
  for (const [file, text] of Object.entries(built.files)) writeFileSync(join(folder, file), text)
  const lease = join(folder, 'lease.sh')
  writeFileSync(lease, '#!/bin/sh\n[ "$1" = bound ] || exit 0\nip addr add "$ip/${mask:-24}" dev "$interface"\n[ -n "$router" ] && ip route add default via ${router%% *} dev "$interface"\nexit 0\n')
  chmodSync(lease, 0o755)
  const dhcp = built.gateway === '' ? [] : [`ip netns exec ${built.gateway} dnsmasq --conf-file="$DIR/dnsmasq.conf" --dhcp-leasefile="$DIR/leases" --pid-file="$DIR/dnsmasq.pid" --log-facility="$DIR/dnsmasq.log" --user=root`]
  const ask = built.clients.map((c) => `ip netns exec ${c.ns} udhcpc -i ${c.dev} -n -q -f -t 5 -T 1 -A 1 -s "$DIR/lease.sh" >/dev/null 2>&1 &`)
  writeFileSync(join(folder, 'build.sh'), ['set -e', `DIR=${folder}`, built.script, tampering, ...dhcp, 'set +e', ...ask, 'wait', 'exit 0'].join('\n'))
  try {
    await run('bash', [join(folder, 'build.sh')], { maxBuffer: 1e7 })
  } catch (error) {
    throw new Error(`the twin could not be built: ${String((error as { stderr?: string }).stderr).slice(0, 600)}`, { cause: error })
  }
  await probeLines(built)
  const addresses = new Map<string, string>()
  await Promise.all(built.hosts.map(async (host) => {
    const { stdout } = await run('ip', ['-n', host.ns, '-j', 'addr', 'show', 'dev', host.dev]).catch(() => ({ stdout: '[]' }))
    const [face] = JSON.parse(stdout || '[]') as { addr_info?: { family: string; local: string }[] }[]
    const own = face?.addr_info?.find((a) => a.family === 'inet')
    if (own) addresses.set(keyOf(host), own.local)
  }))
  return addresses
}

/** What a gateway's own probes do: a line whose far end does not answer is taken out of the routes. */
async function probeLines(built: Built): Promise<void> {
  if (built.gateway === '') return
  await Promise.all(built.wans.map(async (wan) => {
    const answers = await run('ip', ['netns', 'exec', built.gateway, 'fping', '-q', '-c', '2', '-p', '150', '-t', '300', wan.far]).then(() => true, () => false)
    if (!answers) await run('ip', ['-n', built.gateway, 'route', 'del', 'default', 'via', wan.far]).catch(() => undefined)
  }))
}

async function takeDown(built: Built): Promise<void> {
  const kill = built.namespaces.map((ns) => `ip netns pids ${ns} 2>/dev/null | xargs -r kill -9 2>/dev/null; ip netns del ${ns} 2>/dev/null`)
  await run('bash', ['-c', `${kill.join('\n')}\ntrue`], { maxBuffer: 1e7 }).catch(() => undefined)
}

const keyOf = (h: Host) => `${h.deviceId}/${h.portId ?? ''}`

function placesOf(plan: Plan, built: Built, addresses: ReadonlyMap<string, string>): Place[] {
  const index = indexPlan(plan)
  const hosts = built.hosts.map((host): Place => {
    const wants = plan.devices.find((d) => d.id === host.deviceId)?.wants ?? null
    return {
      name: keyOf(host), ns: host.ns, home: wants,
      address: () => addresses.get(keyOf(host)) ?? null,
      party: (site) => {
        const endpoint = site.endpoints.find((e) => e.deviceId === host.deviceId && (host.portId === null ? e.portIds.length === 0 : e.portIds.includes(host.portId)))
        return endpoint ? { kind: 'endpoint', endpoint } : null
      },
    }
  })
  const faceOf = (other: Place) => index.networks.get(other.home ?? '')?.gateway ?? null
  const own = built.wans.find((w) => !w.shared)
  const gateway: Place = { name: 'gateway', ns: built.gateway, home: null, party: () => ({ kind: 'gateway', deviceId: built.gatewayId }), address: (other) => (other.name === 'internet' ? (own?.own ?? null) : faceOf(other)) }
  const internet: Place = { name: 'internet', ns: built.cloud, home: null, party: () => ({ kind: 'internet' }), address: () => OUTSIDE }
  return [...hosts, ...(built.gateway === '' ? [] : [gateway]), ...(built.cloud === '' ? [] : [internet])]
}

const ipOf = (text: string): Ipv4 => {
  const read = parseIpv4(text)
  if (!read.ok) throw new Error(`not an address: ${text}`)
  return read.value
}

/** Some address that the engine thinks an endpoint may have. */
function expectedIp(party: Party | null): string | null {
  const first = party?.kind === 'endpoint' ? party.endpoint.ranges[0] : undefined
  return first ? formatIpv4(first.from) : null
}

async function pings(ns: string, targets: readonly string[]): Promise<Set<string>> {
  if (targets.length === 0) return new Set()
  const { stdout } = await run('ip', ['netns', 'exec', ns, 'fping', '-a', '-r', '1', '-t', '400', '-i', '1', ...targets]).catch((e: { stdout?: string }) => ({ stdout: e.stdout ?? '' }))
  return new Set(stdout.split('\n').map((l) => l.trim()))
}

async function compare(plan: Plan, weather: readonly string[], places: readonly Place[], agentAt: ReadonlyMap<string, Agent>, ports: Ports): Promise<Comparison> {
  const site = openSite(indexPlan(plan), weather)
  const differences: Difference[] = []
  let cells = 0
  let passing = 0
  const note = (from: string, to: string, what: string, engine: boolean, kernel: boolean) => {
    cells++
    if (kernel) passing++
    if (engine !== kernel) differences.push({ from, to, what, engine, kernel })
  }
  for (const place of places) {
    const party = place.party(site, place)
    if (party?.kind !== 'endpoint') continue
    const own = place.address(place)
    const ip = own === null ? null : ipOf(own)
    note(place.name, '', 'has an address', party.endpoint.how !== 'link-local', own !== null)
    // Where it has one, it is one that the engine thinks possible.
    if (ip !== null) note(place.name, own ?? '', 'has this address', party.endpoint.ranges.some((r) => r.from <= ip && ip <= r.to), true)
  }
  await Promise.all(places.map(async (from) => {
    const others = places.flatMap((to) => {
      return to === from ? [] : [{ to, ip: to.address(from) }]
    })
    // A host without an address of its own sends nothing, and nobody can call it; the engine must say the same of each cell.
    const ips = [...new Set(others.flatMap((o) => o.ip ?? []))]
    const mine = from.address(from.name === 'gateway' ? (places[0] as Place) : from)
    const silent = from.name !== 'gateway' && from.name !== 'internet' && mine === null
    // Pings first: they make neighbours known.
    const echo = silent ? new Set<string>() : await pings(from.ns, ips)
    const answers = silent ? [] : ((await agentAt.get(from.ns)?.ask(ips)) ?? [])
    for (const { to, ip } of others) {
      const [a, b] = [from.party(site, to), to.party(site, from)]
      const source = from.name === 'gateway' ? (to.name === 'internet' ? (plan.networks[0]?.gateway ?? null) : from.address(to)) : (mine ?? expectedIp(a))
      const target = to.name === 'gateway' && from.name === 'internet' ? (plan.networks[0]?.gateway ?? ip) : (ip ?? expectedIp(b))
      const services = a && b && source && target ? flowBetween(site, a, ipOf(source), b, ipOf(target)).services : null
      const seen = ip === null ? undefined : answers[ips.indexOf(ip)]
      const check = (what: string, engine: boolean, kernel: boolean) => note(from.name, to.name, what, engine, kernel)
      check('icmp', services !== null && includes(services, 'icmp', 0), ip !== null && echo.has(ip))
      ports.tcp.forEach((port, i) => check(`tcp ${port}`, services !== null && includes(services, 'tcp', port), seen?.tcp[i] ?? false))
      ports.udp.forEach((port, i) => check(`udp ${port}`, services !== null && includes(services, 'udp', port), seen?.udp[i] ?? false))
    }
  }))
  return { cells, passing, silent: places.filter((p) => p.name !== 'gateway' && p.address(p) === null).map((p) => p.name), differences }
}

/** Why the twin cannot run here; null where it can. */
export async function whyNot(): Promise<string | null> {
  if (process.getuid?.() !== 0) return 'it needs root for network namespaces'
  for (const [program, args] of [['ip', ['-V']], ['nft', ['--version']], ['dnsmasq', ['--version']], ['udhcpc', ['--help']], ['fping', ['--version']]] as const) {
    const there = await run(program, [...args]).then(() => true, (e: { code?: unknown }) => e.code !== 'ENOENT')
    if (!there) return `${program} is not installed`
  }
  const probe = `mast-probe-${process.pid}`
  const works = await run('bash', ['-c', `ip netns add ${probe} && ip -n ${probe} link add name br0 type bridge && ip -n ${probe} link add name va0 type veth peer name vb0 && ip netns exec ${probe} nft add table inet t; R=$?; ip netns del ${probe}; exit $R`]).then(() => true, () => false)
  return works ? null : 'this kernel gives no namespaces with bridges, veth and nftables'
}
