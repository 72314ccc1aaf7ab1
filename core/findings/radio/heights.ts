// Question: is the height of an antenna one that somebody can have meant?
// Method: over the ground at its end, where that is known; else by how steep the link is.
// Source: common practice, without a source: radio bridges stand on roofs and masts of up to 60 m, and look little up
// or down. Feet that are typed for metres are the usual slip.
import { endBuildings } from '#core/brief'
import type { PlanIndex } from '#core/queries'
import type { RadioLink } from '#core/radio'
import { ifFeetM } from '../feet'
import { draft, type Draft } from '../finding'

const MOST_OVER_GROUND_M = 60
/** Of the length, what one end may be over the other: some 11 degrees. */
const STEEPEST = 0.2
/** Of the length, as near a surveyed point counts as the end itself. */
const AT_END = 0.01
const ENDS = ['a', 'b'] as const

/** Ground at both ends by what was surveyed there, else by what is said of the building; null where neither is. */
function groundsOf({ plan }: PlanIndex, { link, lengthM, settings }: RadioLink) {
  const buildings = endBuildings(plan, link)
  return ENDS.map((_, end) => {
    const endM = end === 0 ? 0 : lengthM
    const point = settings.profile.find(({ atM }) => Math.abs(atM - endM) <= AT_END * lengthM)
    return point?.groundM ?? buildings[end]?.groundM ?? null
  })
}

/** A height, and what it is where it was typed in feet, m. */
const inBoth = (heightM: number) => ({
  heightM,
  ifFeetM: ifFeetM(heightM),
})

/** Heights that are far from what such antennas have, or under the ground. */
export function heightPlausibility(index: PlanIndex, radioLink: RadioLink, name: string): Draft[] {
  const { id, names, lengthM, settings } = radioLink
  const heights = ENDS.map((end) => settings.ends[end].antennaM)
  const place = ['links', id, 'medium']
  const overGround = groundsOf(index, radioLink).flatMap((groundM, end): Draft[] => {
    const heightM = heights[end] ?? null
    if (groundM === null || heightM === null) return []
    const overM = heightM - groundM
    const said = { ...inBoth(heightM), link: name, at: names[end] ?? '', key: ENDS[end] ?? 'a' }
    if (overM < 0)
      return [draft('R14', 'warning', place, { ...said, kind: 'under-ground', byM: Math.round(-overM) })]
    return overM > MOST_OVER_GROUND_M
      ? [draft('R14', 'note', place, { ...said, kind: 'high', byM: Math.round(overM) })]
      : []
  })
  const [first, second] = heights
  if (overGround.length > 0 || first == null || second == null || lengthM === 0) return overGround
  const byM = Math.round(Math.abs(first - second))
  if (byM <= STEEPEST * lengthM) return []
  const higher = first > second ? 0 : 1
  const said = { ...inBoth(Math.max(first, second)), link: name, at: names[higher], key: 'steep' }
  return [draft('R14', 'note', place, { ...said, kind: 'steep', byM })]
}
