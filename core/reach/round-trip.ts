// Question: does an answer come back, and what does the way there charge?
// Method: a flow is a passage there and one back past the same routers in reverse; what it charges between hosts is kept with the roads.
// Source: RFC 9293 (an answer is needed at all); stateful filters that see only half of a flow drop it: common practice.
import type { Ipv4 } from '#core/address'
import { memoOn } from '#core/base'
import { NOTHING, pay, SHUT, type ServiceSet, type Toll } from '#core/policy'
import { ended, oneWay, type Party, type Passage, type Site, type StopCode } from './passage'

export interface Flow {
  readonly request: Passage
  /** Null where the request never arrives. */
  readonly reply: Passage | null
  /** Services that get through and back. */
  readonly services: ServiceSet
  readonly stop: StopCode | null
}

/** Exactly what gets from one address to another and back. */
export function flowBetween(site: Site, from: Party, fromAddress: Ipv4, to: Party, toAddress: Ipv4): Flow {
  const { request, reply, stop } = thereAndBack(site, from, fromAddress, to, toAddress, true)
  return {
    request,
    reply,
    stop,
    services: stop ? NOTHING : pay(request.toll, site.policies, fromAddress, toAddress),
  }
}

/** One end of a way: a party with an address that stand for all that share it. Their number is the same on the same roads, whatever rules and intents divide them by. */
export interface WayEnd {
  readonly number: number
  readonly party: Party
  readonly address: Ipv4
}

/** What the way from one end to another charges, for any addresses that share it. */
export function tollOf(site: Site, from: WayEnd, to: WayEnd): Toll {
  // Between hosts a reply goes as a new flow would, past the same routers.
  const hosts = from.party.kind === 'endpoint' && to.party.kind === 'endpoint'
  if (!hosts) {
    const { request, stop } = thereAndBack(site, from.party, from.address, to.party, to.address, false)
    return stop ? SHUT : request.toll
  }
  if (isMute(to.party)) return SHUT
  const known = tollsOn(site.roads)
  const held = known[from.number]?.[to.number]
  if (held) return held
  const there = passage(site, from, to)
  const back = there.stop ? there : passage(site, to, from)
  const shut = back.stop !== null || !isSymmetric(there, back)
  keep(known, to.number, from.number, shut ? SHUT : back.toll)
  return keep(known, from.number, to.number, shut ? SHUT : there.toll)
}

/** Tolls between hosts, by the numbers of both ends: whoever asks for one direction is told of both. */
const tollsOn = memoOn((_roads: object): Toll[][] => [])
function keep(known: Toll[][], from: number, to: number, toll: Toll): Toll {
  ;(known[from] ??= [])[to] = toll
  return toll
}
const passage = (site: Site, from: WayEnd, to: WayEnd): Passage =>
  oneWay(site, from.party, from.address, { party: to.party, address: to.address, told: false }, true)

function thereAndBack(
  site: Site,
  from: Party,
  fromAddress: Ipv4,
  to: Party,
  toAddress: Ipv4,
  told: boolean,
): Pick<Flow, 'request' | 'reply' | 'stop'> {
  return joined(
    to,
    () => oneWay(site, from, fromAddress, { party: to, address: toAddress, told }, true),
    (lastRouter) =>
      oneWay(site, to, toAddress, { party: from, address: fromAddress, told }, false, lastRouter),
  )
}

/** Nobody can call a host that only has the address it gave itself. */
const isMute = (to: Party): boolean => to.kind === 'endpoint' && to.endpoint.how === 'link-local'
function isSymmetric({ routers: there }: Passage, { routers: back }: Passage): boolean {
  return back === there
    ? there.length < 2
    : back.length === there.length && back.every((id, i) => id === there[there.length - 1 - i])
}

function joined(
  to: Party,
  ask: () => Passage,
  answer: (lastRouter: string | undefined) => Passage,
): Pick<Flow, 'request' | 'reply' | 'stop'> {
  if (isMute(to)) return { request: ended([], [], 'no-address'), reply: null, stop: 'no-address' }
  const request = ask()
  if (request.stop) return { request, reply: null, stop: request.stop }
  const reply = answer(request.routers.at(-1))
  if (reply.stop) return { request, reply, stop: reply.stop }
  return { request, reply, stop: isSymmetric(request, reply) ? null : 'asymmetric' }
}
