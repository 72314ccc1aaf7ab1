// Question: which of a plan's intents match an address, at either end?
// Method: by what their selectors may say of whoever has it, and by prefixes it lies in.
// Source: the plan's own semantics; no figures used.
import { contains, parsePrefix4, type Ipv4 } from '#core/address'
import { noBits, orNull, setBit, type BitRow } from '#core/util'
import { defineStage, membersOf, type PlanIndex } from '#core/queries'
import type { Selector } from '#core/schema'
import { zoneOf } from './class-pairs'
import { MatchBitCache, type AddressSample, type Principal } from './equivalence-classes'

/** What selectors may say to match a principal: their kind, and for some an id; prefixes match addresses. */
function selectorKeysFor(principal: Principal): readonly (readonly [Selector['kind'], string])[] {
  const { party } = principal
  switch (party.kind) {
    case 'endpoint':
      return [
        ['any', ''],
        ['inside', ''],
        ['network', zoneOf(principal) ?? ''],
        ['device', party.endpoint.deviceId],
      ]
    case 'internet':
      return [
        ['any', ''],
        ['internet', ''],
      ]
    case 'gateway':
      return [
        ['any', ''],
        ['gateway', ''],
      ]
    case 'peer':
      return [
        ['any', ''],
        ['tunnel', party.tunnelId],
        ['peer', party.peerId],
      ]
  }
}

type MatchAt = (sample: AddressSample) => BitRow

function matcherOfEnd(index: PlanIndex, end: 'from' | 'to'): MatchAt {
  const { intents } = index.plan
  const byKey = new Map<string, number[]>()
  const prefixes: { readonly place: number; readonly matches: (address: Ipv4) => boolean }[] = []
  intents.forEach((intent, place) => {
    for (const selector of membersOf(index, intent[end])) {
      if (selector.kind === 'prefix') {
        const prefix = orNull(parsePrefix4(selector.prefix))
        if (prefix) prefixes.push({ place, matches: (address) => contains(prefix, address) })
        continue
      }
      const key = `${selector.kind} ${'id' in selector ? selector.id : ''}`
      byKey.set(key, [...(byKey.get(key) ?? []), place])
    }
  })
  return ({ principal, address }) => {
    const bits = noBits(intents.length)
    for (const [kind, id] of selectorKeysFor(principal))
      for (const place of byKey.get(`${kind} ${id}`) ?? []) setBit(bits, place)
    for (const { place, matches } of prefixes) if (matches(address)) setBit(bits, place)
    return bits
  }
}

const intentMatches = defineStage('intent matches', (index) => {
  const [from, to] = [matcherOfEnd(index, 'from'), matcherOfEnd(index, 'to')]
  return (sample: AddressSample) => ({ from: from(sample), to: to(sample) })
})

/** Which intents match each class of a site. */
export const intentBitsOf = (index: PlanIndex): MatchBitCache => new MatchBitCache(index.get(intentMatches))
