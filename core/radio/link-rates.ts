// Question: how fast is each radio link of a plan, in the heaviest rain that it is to stand?
// Method: both directions by their own level; what the link carries is the lesser. Null while something is not said.
import { defineStage, type PlanIndex } from '#core/queries'
import type { LinkId } from '#core/schema'
import { knowsWidth, mostStreams, rateAt } from './generations'
import { budgetFrom, hearing } from './link-budget'
import { radioLinks, type RadioLink } from './plan-links'
import { throughputMbps } from './throughput'

export interface LinkRates {
  /** From the first end to the second and back: rate on the air, Mb/s. */
  readonly onAirMbps: readonly [number, number]
  /** What both directions together carry of IP, Mb/s, as fast as the slower of them. */
  readonly throughputMbps: number
}

/** Null where frequency, power, generation or streams are not said, or no such radio knows the width or as many. */
export function ratesOf({ path, lengthM, settings }: RadioLink): LinkRates | null {
  const { generation, streams, marginDb, widthMhz } = settings
  if (!path || generation === null || streams === null || widthMhz === null) return null
  if (!knowsWidth(generation, widthMhz) || streams > mostStreams(generation)) return null
  const onAir = (from: 0 | 1) =>
    rateAt(budgetFrom(path, from).rainDbm, marginDb, {
      generation,
      widthMhz,
      streams,
      ownDbm: hearing(path, from).ownDbm,
    })
  const onAirMbps = [onAir(0), onAir(1)] as const
  return { onAirMbps, throughputMbps: throughputMbps(Math.min(...onAirMbps), lengthM, generation) }
}

const ratesOfLinks = defineStage(
  'radio link rates',
  (index): ReadonlyMap<LinkId, LinkRates | null> =>
    new Map(radioLinks(index).map((link) => [link.id, ratesOf(link)])),
)

export const linkRates = (index: PlanIndex, id: LinkId): LinkRates | null =>
  index.get(ratesOfLinks).get(id) ?? null
