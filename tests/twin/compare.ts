// The engine against the kernel, cell by cell.
import { type Ipv4 } from '#core/address'
import type { Plan, PortForward } from '#core/schema'
import { includes } from '#core/filter'
import { callFromInside, flowBetween, type Party } from '#core/reachability'
import { type Built } from './build'
import { expectedIp, type Family, type Place } from './places'
import type { Answers, Ports, Prober } from './prober'
import { run } from './shell'

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
  /** Each cell and what the kernel let through, as one text. */
  readonly answers: readonly string[]
  /** Places that got no address. */
  readonly silent: readonly string[]
  readonly differences: readonly Difference[]
}

/**
 * What the outside gets at an address inside: tried directly, and where a forward names it, by way of each
 * line's own address.
 */
async function throughForwards(
  plan: Plan,
  wans: Built['wans'],
  prober: Prober | undefined,
  { ip, isGateway, ports }: { readonly ip: string; readonly isGateway: boolean; readonly ports: Ports },
  direct: Answers | undefined,
): Promise<Answers> {
  const isItsOwn = (address: string) => isGateway && plan.networks.some(({ gateway }) => gateway === address)
  const mine = plan.forwards.filter((f) => f.toAddress === ip || isItsOwn(f.toAddress))
  const seen = {
    tcp: ports.tcp.map((_, i) => direct?.tcp[i] ?? null),
    udp: ports.udp.map((_, i) => direct?.udp[i] ?? null),
  }
  for (const wan of wans.filter((w) => !w.shared && mine.some((f) => f.uplinkId === w.id))) {
    const dial: Record<string, number> = {}
    for (const forward of mine.filter((m) => m.uplinkId === wan.id))
      for (let n = 0; n <= forward.to - forward.from; n++)
        dial[`${forward.proto} ${forward.toPort + n}`] = forward.from + n
    const [answer] = (await prober?.ask([{ ip: wan.own, dial }])) ?? []
    for (const proto of ['tcp', 'udp'] as const)
      ports[proto].forEach(
        (port, i) => (seen[proto][i] ??= `${proto} ${port}` in dial ? (answer?.[proto][i] ?? null) : null),
      )
  }
  return seen
}

type Services = ReturnType<typeof flowBetween>['services']

/** What was compared, and where the two differ. */
class Tally {
  readonly differences: Difference[] = []
  readonly answers: string[] = []
  cells = 0
  passing = 0
  constructor(private readonly family: Family) {}
  note(from: string, to: string, what: string, engine: boolean, kernel: boolean): void {
    this.cells++
    this.answers.push(`${from} ${to} ${this.family.name}${what} ${kernel}`)
    if (kernel) this.passing++
    if (engine !== kernel)
      this.differences.push({ from, to, what: `${this.family.name}${what}`, engine, kernel })
  }
}

interface Judging {
  readonly plan: Plan
  readonly wans: Built['wans']
  readonly family: Family
  readonly probers: ReadonlyMap<string, Prober>
  readonly ports: Ports
  readonly tally: Tally
}

/** Whether each host has an address, and one that the engine thinks possible. */
function compareAddresses({ family: { site, places, toEngine }, tally }: Judging): void {
  for (const place of places) {
    const party = place.party(site, place)
    if (party?.kind !== 'endpoint') continue
    const own = place.address(place)
    tally.note(place.name, '', 'has an address', party.endpoint.how !== 'link-local', own !== null)
    if (own === null) continue
    const ip = toEngine(own, party)
    const possible = ip !== null && party.endpoint.ranges.some((r) => r.from <= ip && ip <= r.to)
    tally.note(place.name, own, 'has this address', possible, true)
  }
}

interface Other {
  readonly to: Place
  readonly ip: string | null
}
/** Whom a place calls; of two places of one address nobody calls himself. */
function othersOf({ family: { site, places } }: Judging, from: Place): Other[] {
  return places.flatMap((to) => {
    const ip = to.address(from)
    const isNobody = from.name === 'gateway' && from.party(site, to) === null
    const isSelf = ip !== null && from.name !== 'gateway' && ip === from.address(to)
    return to === from || isNobody || isSelf ? [] : [{ to, ip }]
  })
}

/**
 * The address that a namespace sends to another from, as its kernel says; null where it has no route there.
 */
async function sourceTowards(ns: string, ip: string): Promise<string | null> {
  const { stdout } = await run('ip', ['-n', ns, '-j', 'route', 'get', ip]).catch(() => ({ stdout: '[]' }))
  return (JSON.parse(stdout || '[]') as { prefsrc?: string }[])[0]?.prefsrc ?? null
}

/** What the engine lets through from one place to another; null where it knows no such flow. */
async function engineSays(
  { family }: Judging,
  from: Place,
  { to, ip }: Other,
  own: string | null,
): Promise<Services | null> {
  const { site, toEngine, border } = family
  const [first, second] = [from.party(site, to), to.party(site, from)]
  const read = (text: string | null, party: Party | null): Ipv4 | null =>
    text === null ? expectedIp(party) : toEngine(text, party)
  const isHost = isHostOrPeer(to) && !isPeer(to)
  const chosen = from.name === 'gateway' && isHost && ip !== null ? await sourceTowards(from.ns, ip) : null
  const called = to.name === 'internet' ? border : (chosen ?? from.address(to))
  const source = read(from.name === 'gateway' ? called : own, first)
  const target = read(to.name === 'gateway' && from.name === 'internet' ? (border ?? ip) : ip, second)
  if (!first || !second || source === null || target === null) return null
  return flowBetween(site, { party: first, address: source }, { party: second, address: target }).services
}

/** Every cell of one place: pings first, since they make neighbours known. */
async function compareFrom(judging: Judging, from: Place): Promise<void> {
  const { plan, wans, family, probers, ports } = judging
  const others = othersOf(judging, from)
  const ips = [...new Set(others.flatMap((o) => o.ip ?? []))]
  const own = from.address(from.name === 'gateway' ? (family.places[0] as Place) : from)
  // A host without an address of its own sends nothing, and nobody can call it; the engine must say the same
  // of each cell.
  const prober = own === null && isHostOrPeer(from) ? undefined : probers.get(from.ns)
  const echo = (await prober?.pings(ips)) ?? new Set<string>()
  const answers = (await prober?.ask(ips.map((ip) => ({ ip })))) ?? []
  for (const other of others) {
    const { to, ip } = other
    const direct = ip === null ? undefined : answers[ips.indexOf(ip)]
    compareCell(judging, from, to, await engineSays(judging, from, other, own), {
      echo: ip !== null && echo.has(ip),
      isOthersToo:
        (to.name !== 'gateway' && plan.networks.some(({ gateway }) => gateway === ip)) ||
        family.places.some((one) => isPeer(one) && one !== to && one.address(from) === ip),
      seen:
        ip !== null && isOutside(judging, from)
          ? await throughForwards(plan, wans, prober, { ip, isGateway: to.name === 'gateway', ports }, direct)
          : direct,
    })
  }
}

const isPeer = ({ name }: Place): boolean => name.startsWith('peer:')
const isHostOrPeer = ({ name }: Place): boolean => name !== 'gateway' && name !== 'internet'
const isOutside = ({ family }: Judging, from: Place): boolean =>
  family.name === '' && from.name === 'internet'

interface Seen {
  readonly echo: boolean
  readonly seen: Answers | undefined
  readonly isOthersToo: boolean
}
/** One cell: what the engine says of each service against what the kernel let through. */
function compareCell(
  { ports, tally }: Judging,
  from: Place,
  to: Place,
  services: Services | null,
  { echo, seen, isOthersToo }: Seen,
): void {
  const passes = (proto: FlowProto, port: number) => services !== null && includes(services, proto, port)
  const check = (what: string, engine: boolean, kernel: boolean) =>
    tally.note(from.name, to.name, what, engine, kernel)
  // An echo does not say who sent it: of an address that a gateway, or another peer, has as well it tells nothing.
  if (!isOthersToo) check('icmp', passes('icmp', 0), echo)
  for (const proto of ['tcp', 'udp'] as const)
    ports[proto].forEach((port, i) =>
      check(`${proto} ${port}`, passes(proto, port), seen?.[proto][i] === to.ns),
    )
}

/** The line of a forward and who has the address that it leads to; null where nobody has it. */
function endsOfForward({ wans, family: { places } }: Judging, forward: PortForward) {
  const wan = wans.find((w) => w.id === forward.uplinkId)
  const target = places.find((p) => p.name !== 'gateway' && p.address(p) === forward.toAddress)
  return wan && target && !wan.shared ? { wan, target } : null
}

/** What a line hands inside, called from inside by the line's own address. */
async function compareInside(judging: Judging, forward: PortForward): Promise<void> {
  const { family, probers, ports, tally } = judging
  const { site, places, toEngine } = family
  const ends = endsOfForward(judging, forward)
  if (!ends) return
  const { wan, target } = ends
  const dial: Record<string, number> = {}
  for (let n = 0; n <= forward.to - forward.from; n++)
    dial[`${forward.proto} ${forward.toPort + n}`] = forward.from + n
  await Promise.all(
    places.map(async (from) => {
      const party = from.party(site, from)
      const own = from.address(from)
      const address = own === null || party?.kind !== 'endpoint' ? null : toEngine(own, party)
      if (party?.kind !== 'endpoint' || address === null) return
      const [answer] = (await probers.get(from.ns)?.ask([{ ip: wan.own, dial }])) ?? []
      const { services } = callFromInside(site, forward, party.endpoint, address)
      ports[forward.proto].forEach((port, i) => {
        const outer = dial[`${forward.proto} ${port}`]
        if (outer === undefined) return
        const what = `${forward.proto} ${outer}`
        const kernel = answer?.[forward.proto][i] === target.ns
        tally.note(from.name, `${wan.id} from inside`, what, includes(services, forward.proto, outer), kernel)
      })
    }),
  )
}

type FlowProto = 'tcp' | 'udp' | 'icmp'

export async function compare(
  plan: Plan,
  wans: Built['wans'],
  family: Family,
  probers: ReadonlyMap<string, Prober>,
  ports: Ports,
): Promise<Comparison> {
  const { places } = family
  const tally = new Tally(family)
  const judging: Judging = { plan, wans, family, probers, ports, tally }
  compareAddresses(judging)
  await Promise.all(places.map((from) => compareFrom(judging, from)))
  if (family.name === '') for (const forward of plan.forwards) await compareInside(judging, forward)
  const { cells, passing, answers, differences } = tally
  const silent = places.filter((p) => p.name !== 'gateway' && p.address(p) === null).map((p) => p.name)
  return { cells, passing, answers, silent, differences }
}
