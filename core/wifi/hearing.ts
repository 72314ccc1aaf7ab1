// Question: how loudly does each radio of a site hear each other?
// Method: computed where both hang in a drawn building; by the distance of their buildings where that is known; else
// each is taken to hear the other loudly. Each pair is computed when it is first asked for.
import { freeSpaceLossDb } from '#core/radio'
import type { BuildingId, Span } from '#core/schema'
import { levelAt, obstaclesOf, type Obstacles } from './coverage'
import { floorUnder, type KnownPlacement } from './floors'
import { eirpDbm, radioMhz, type ApRadio } from './radios'
import type { WifiScene } from './scene'

/** Level at which the second hears the first, dBm; both by their places. */
export type Hearing = (first: number, second: number) => number

/** Taken for the level of a radio of which nobody knows where it hangs, dBm. */
const LOUD_DBM = -60

const isEndOf = (span: Span, id: BuildingId): boolean => id === span.a || id === span.b

export function hearingOf({ floors, spans, placements }: WifiScene, radios: readonly ApRadio[]): Hearing {
  const hangs = new Map(placements.map((placement) => [placement.deviceId, placement]))
  const ready = new Map<string, Obstacles>()
  const obstaclesAt = (placement: KnownPlacement, mhz: number): Obstacles => {
    const key = `${placement.buildingId} ${placement.floor} ${mhz}`
    const known = ready.get(key) ?? obstaclesOf(floorUnder(floors, placement), mhz)
    ready.set(key, known)
    return known
  }
  const level = (radio: ApRadio, from: KnownPlacement, to: KnownPlacement): number => {
    const mhz = radioMhz(radio)
    if (from.buildingId === to.buildingId)
      return levelAt(obstaclesAt(to, mhz), { radio, placement: from, mhz }, to)
    const distanceM = spans.find((span) =>
      [from, to].every(({ buildingId }) => isEndOf(span, buildingId)),
    )?.distanceM
    return distanceM ? eirpDbm(radio) - freeSpaceLossDb(mhz, distanceM / 1000) : LOUD_DBM
  }
  const known = new Map<number, number>()
  return (first, second) => {
    if (first === second) return -Infinity
    const key = first * radios.length + second
    let heard = known.get(key)
    if (heard !== undefined) return heard
    const [radio, other] = [radios[first], radios[second]]
    const [from, to] = [radio, other].map((one) => one && hangs.get(one.deviceId))
    heard = radio && from && to ? level(radio, from, to) : LOUD_DBM
    known.set(key, heard)
    return heard
  }
}
