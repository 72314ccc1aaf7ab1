// Question: for how much of a year is a radio link lost to rain, and for how much of its worst month to fading?
// Method: the rain that falls for 0.01 % of the year, scaled to the share of it at which the fade margin is used up;
// bent and reflected rays by the quick method. Null while the link cannot be computed.
// Source: ITU-R P.530-18, 2.4.1 (rain); P.530-16, 2.3.2, quick planning (fading), both from memory; the gradient of
// refractivity by the coasts of temperate seas, common practice without a source.
import { defineStage, type PlanIndex } from '#core/queries'
import type { LinkId } from '#core/schema'
import { spareDb } from './link-budget'
import { radioLinks, type RadioLink } from './plan-links'

/** Share of the year for which a plan's heaviest rain, or more, falls, %; in minutes 53. */
export const HEAVIEST_PERCENT = 0.01
const YEAR_MIN = 365.25 * 24 * 60
/** Rain that falls, or more, for 0.01 % of the year in each rain zone, mm/h (ITU-R P.837-1, table 1, from memory). */
const ZONE_MM_PER_HOUR: Readonly<Record<string, number>> = {
  ...{ A: 8, B: 12, C: 15, D: 19, E: 22, F: 28, G: 30, H: 32 },
  ...{ J: 35, K: 42, L: 60, M: 63, N: 95, P: 145, Q: 115 },
}
/** Heaviest rain of a zone by its letter, mm/h; null where there is no such zone. */
export const rainOfZone = (letter: string): number | null => ZONE_MM_PER_HOUR[letter.toUpperCase()] ?? null
/** Between these the method holds, %. */
const [RAREST_PERCENT, COMMONEST_PERCENT] = [0.001, 1]
/** Gradient of refractivity in the lowest 65 m that is not exceeded for 1 % of the year, N units per km. */
const GRADIENT = -300

/** How much the law of a frequency is that of low latitudes: 0.12 up to 10 GHz, more above. */
const steepness = (mhz: number): number => 0.12 + 0.4 * Math.log10(Math.max(1, mhz / 10_000) ** 0.8)

/**
 * Loss by the rain that falls for so much of the year, as a share of that by the rain of 0.01 %.
 * At 1, 0.1, 0.01 and 0.001 %: 0.12, 0.39, 1 and 2.14 with a steepness of 0; 0.07, 0.36, 1 and 1.44 with 1.
 */
export function rainLossShare(percent: number, steep: number): number {
  const between = (low: number, high: number) => steep * low + (1 - steep) * high
  const first = 0.07 ** steep * 0.12 ** (1 - steep)
  return first * percent ** -(between(0.855, 0.546) + between(0.139, 0.043) * Math.log10(percent))
}

/**
 * Share of the year for which rain takes more than a margin, %; 0 where the rarest rain that the method knows does not,
 * 100 where there is no margin.
 * @param heaviestDb loss by the rain of 0.01 % of the year
 */
export function rainOutagePercent(marginDb: number, heaviestDb: number, mhz: number): number {
  if (marginDb <= 0) return 100
  const lossAt = (percent: number) => heaviestDb * rainLossShare(percent, steepness(mhz))
  if (lossAt(RAREST_PERCENT) <= marginDb) return 0
  if (lossAt(COMMONEST_PERCENT) >= marginDb) return COMMONEST_PERCENT
  let [low, high] = [Math.log10(RAREST_PERCENT), Math.log10(COMMONEST_PERCENT)]
  for (let round = 0; round < 40; round++) {
    const middle = (low + high) / 2
    if (lossAt(10 ** middle) > marginDb) low = middle
    else high = middle
  }
  return 10 ** high
}

/** Share of the worst month for which bent rays take more than a margin, %, over a path between two heights, m. */
export function fadingPercent(
  marginDb: number,
  km: number,
  mhz: number,
  [first, second]: readonly [number, number],
): number {
  if (marginDb <= 0) return 100
  const climate = 10 ** (-4.6 - 0.0027 * GRADIENT)
  const slope = Math.abs(first - second) / km
  const height = Math.max(0, Math.min(first, second))
  const percent =
    climate *
    km ** 3.1 *
    (1 + slope) ** -1.29 *
    (mhz / 1000) ** 0.8 *
    10 ** (-0.00089 * height - marginDb / 10)
  return Math.min(100, percent)
}

export interface Availability {
  /** Of a year, lost to rain; null where no rain is said. */
  readonly rainMinYear: number | null
  /** Of the worst month, lost to fading, at most. */
  readonly fadingMinMonth: number
  /** Of a year, as if every month were the worst; null where no rain is said. */
  readonly availablePct: number | null
}

/** Until its slowest rate is lost in either direction. */
export function availabilityOf({
  path,
  settings,
}: Pick<RadioLink, 'path' | 'settings'>): Availability | null {
  if (!path) return null
  const [first, second] = [spareDb(path, 0), spareDb(path, 1)]
  const marginDb = Math.min(first.clear, second.clear)
  const heaviestDb = first.clear - first.rain
  const rain = settings.rainMmPerHour === null ? null : rainOutagePercent(marginDb, heaviestDb, path.mhz)
  const fading = fadingPercent(marginDb, path.lengthM / 1000, path.mhz, path.antennasM)
  return {
    rainMinYear: rain === null ? null : (rain / 100) * YEAR_MIN,
    fadingMinMonth: (fading / 100) * (YEAR_MIN / 12),
    availablePct: rain === null ? null : Math.max(0, 100 - rain - fading),
  }
}

const linksLostInRain = defineStage(
  'radio links lost in rain',
  (index): ReadonlySet<LinkId> =>
    new Set(
      radioLinks(index).flatMap(({ id, path }) => {
        if (!path || path.rainMmPerHour === 0) return []
        return Math.min(spareDb(path, 0).rain, spareDb(path, 1).rain) < 0 ? [id] : []
      }),
    ),
  { equal: (one, other) => one.size === other.size && [...one].every((id) => other.has(id)) },
)
/** Radio links that are down in the heaviest rain that was said for each. */
export const lostInRain = (index: PlanIndex): ReadonlySet<LinkId> => index.get(linksLostInRain)

/** Whether any radio link can be held against rain. */
export const knowsRain = (index: PlanIndex): boolean =>
  radioLinks(index).some(({ path }) => (path?.rainMmPerHour ?? 0) > 0)
