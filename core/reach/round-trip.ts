// Question: does an answer come back, and what does the way there charge?
// Method: a flow is a passage there and one back past the same routers in reverse; between hosts both are kept with the land.
// Source: RFC 9293 (an answer is needed at all); stateful filters that see only half of a flow drop it: common practice.
import type { Ipv4 } from '#core/address'
import { memoOn } from '#core/base'
import { NOTHING, pay, SHUT, type ServiceSet, type Toll } from '#core/policy'
import { ended, oneWay, type Land, type Party, type Passage, type Site, type StopCode } from './passage'

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
  return { request, reply, stop, services: stop ? NOTHING : pay(request.toll, site.policies, fromAddress, toAddress) }
}

/** One end of a way: a party with an address that stand for all that share it, and a name for them. */
export interface WayEnd {
  readonly key: string
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
  const request = passageOf(site, from, to)
  const reply = request.stop ? request : passageOf(site, to, from)
  return reply.stop || !isSymmetric(request, reply) ? SHUT : request.toll
}

const passagesOn = memoOn((_land: Land) => new Map<string, Map<string, Passage>>())
function passageOf(site: Site, from: WayEnd, to: WayEnd): Passage {
  const known = passagesOn(site.land)
  let row = known.get(from.key)
  if (!row) known.set(from.key, (row = new Map()))
  let passage = row.get(to.key)
  if (!passage) row.set(to.key, (passage = oneWay(site, from.party, from.address, { party: to.party, address: to.address, told: false }, true)))
  return passage
}

function thereAndBack(site: Site, from: Party, fromAddress: Ipv4, to: Party, toAddress: Ipv4, told: boolean): Pick<Flow, 'request' | 'reply' | 'stop'> {
  return joined(to, () => oneWay(site, from, fromAddress, { party: to, address: toAddress, told }, true), (lastRouter) => oneWay(site, to, toAddress, { party: from, address: fromAddress, told }, false, lastRouter))
}

/** Nobody can call a host that only has the address it gave itself. */
const isMute = (to: Party): boolean => to.kind === 'endpoint' && to.endpoint.how === 'link-local'
function isSymmetric({ routers: there }: Passage, { routers: back }: Passage): boolean {
  return back === there ? there.length < 2 : back.length === there.length && back.every((id, i) => id === there[there.length - 1 - i])
}

function joined(to: Party, ask: () => Passage, answer: (lastRouter: string | undefined) => Passage): Pick<Flow, 'request' | 'reply' | 'stop'> {
  if (isMute(to)) return { request: ended([], [], 'no-address'), reply: null, stop: 'no-address' }
  const request = ask()
  if (request.stop) return { request, reply: null, stop: request.stop }
  const reply = answer(request.routers.at(-1))
  if (reply.stop) return { request, reply, stop: reply.stop }
  return { request, reply, stop: isSymmetric(request, reply) ? null : 'asymmetric' }
}
