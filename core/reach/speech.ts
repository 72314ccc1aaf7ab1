// Question: which of a plan's intents speak of a place?
// Method: by what their selectors may say of whoever stands there, and by prefixes of its address.
import { contains, parsePrefix4, type Ipv4 } from '#core/address'
import { noBits, setBit, type BitRow } from '#core/base'
import { membersOf, type Intent, type PlanIndex, type Selector } from '#core/model'
import type { Marks } from '#core/policy'
import { Speech, type Place, type Subject } from './kinds'
import { keyOf } from './lots'

/** What selectors may say to speak of a subject: their kind, and for some an id; prefixes speak of addresses. */
function signsOf(subject: Subject): readonly (readonly [Selector['kind'], string])[] {
  const { party } = subject
  switch (party.kind) {
    case 'endpoint':
      return [
        ['any', ''],
        ['inside', ''],
        ['network', keyOf(subject) ?? ''],
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

/** Which of a list of intents speak of a place, at either end. */
export function speechOf(index: PlanIndex, intents: readonly Intent[]): Speech {
  const listed = (end: 'from' | 'to') => {
    const [bySign, prefixes] = [
      new Map<Selector['kind'], Map<string, number[]>>(),
      [] as { readonly i: number; readonly speaks: (address: Ipv4) => boolean }[],
    ]
    intents.forEach((intent, i) =>
      membersOf(index, intent[end]).forEach((selector) => {
        const prefix = selector.kind === 'prefix' ? parsePrefix4(selector.prefix) : null
        if (prefix?.ok) prefixes.push({ i, speaks: (address) => contains(prefix.value, address) })
        else if (prefix === null) {
          const [byId, id] = [
            bySign.get(selector.kind) ?? new Map<string, number[]>(),
            'id' in selector ? selector.id : '',
          ]
          bySign.set(selector.kind, byId.set(id, [...(byId.get(id) ?? []), i]))
        }
      }),
    )
    return (place: Place): BitRow => {
      const words = noBits(intents.length)
      for (const [kind, id] of signsOf(place.subject))
        for (const i of bySign.get(kind)?.get(id) ?? []) setBit(words, i)
      for (const { i, speaks } of prefixes) if (speaks(place.address)) setBit(words, i)
      return words
    }
  }
  const [from, to] = [listed('from'), listed('to')]
  return new Speech((place): Marks => ({ from: from(place), to: to(place) }))
}
