// Question: when does the sun rise and set at a place?
// Method: the low-precision equations of the sun's place, with 0.833 degrees for refraction and the sun's radius.
// Source: J. Meeus, Astronomical Algorithms (2nd edition, 1998), chapters 15, 25 and 28, in the shortened form that
// NOAA's solar calculator publishes; within about two minutes between 60 degrees south and north.

const RAD = Math.PI / 180
const DAY_MS = 86_400_000
/** Julian day of 1970-01-01T00:00Z. */
const EPOCH_JD = 2_440_587.5
const J2000_JD = 2_451_545
/** The upper limb on the horizon. */
const ZENITH_DEG = 90.833

export type SunTimes =
  | { readonly kind: 'rises'; readonly riseUtcMin: number; readonly setUtcMin: number }
  | { readonly kind: 'always-up' | 'never-up' }

interface SunPlace {
  readonly declinationDeg: number
  /** Apparent time less mean time, minutes. */
  readonly equationMin: number
}

/** The sun's place at a moment, in Julian centuries since 2000. */
function sunPlace(centuries: number): SunPlace {
  const meanLongitude = (280.46646 + centuries * (36_000.76983 + centuries * 0.0003032)) % 360
  const anomaly = 357.52911 + centuries * (35_999.05029 - 0.0001537 * centuries)
  const eccentricity = 0.016708634 - centuries * (0.000042037 + 0.0000001267 * centuries)
  const centre =
    Math.sin(anomaly * RAD) * (1.914602 - centuries * (0.004817 + 0.000014 * centuries)) +
    Math.sin(2 * anomaly * RAD) * (0.019993 - 0.000101 * centuries) +
    Math.sin(3 * anomaly * RAD) * 0.000289
  const node = 125.04 - 1934.136 * centuries
  const longitude = meanLongitude + centre - 0.00569 - 0.00478 * Math.sin(node * RAD)
  const seconds = 21.448 - centuries * (46.815 + centuries * (0.00059 - centuries * 0.001813))
  const obliquity = 23 + (26 + seconds / 60) / 60 + 0.00256 * Math.cos(node * RAD)
  const half = Math.tan((obliquity / 2) * RAD) ** 2
  const equation =
    half * Math.sin(2 * meanLongitude * RAD) -
    2 * eccentricity * Math.sin(anomaly * RAD) +
    4 * eccentricity * half * Math.sin(anomaly * RAD) * Math.cos(2 * meanLongitude * RAD) -
    0.5 * half * half * Math.sin(4 * meanLongitude * RAD) -
    1.25 * eccentricity * eccentricity * Math.sin(2 * anomaly * RAD)
  return {
    declinationDeg: Math.asin(Math.sin(obliquity * RAD) * Math.sin(longitude * RAD)) / RAD,
    equationMin: (4 * equation) / RAD,
  }
}

/**
 * Sunrise and sunset of a day, minutes from 00:00 UTC of that date; they may lie outside of it.
 * @param date ISO 8601, of the local calendar
 */
export function sunTimes(
  date: string,
  { latDeg, lonDeg }: { readonly latDeg: number; readonly lonDeg: number },
): SunTimes {
  const noonMs = Date.parse(`${date}T12:00:00Z`) - lonDeg * 240_000
  const { declinationDeg, equationMin } = sunPlace((noonMs / DAY_MS + EPOCH_JD - J2000_JD) / 36_525)
  const cosine =
    Math.cos(ZENITH_DEG * RAD) / (Math.cos(latDeg * RAD) * Math.cos(declinationDeg * RAD)) -
    Math.tan(latDeg * RAD) * Math.tan(declinationDeg * RAD)
  if (cosine < -1) return { kind: 'always-up' }
  if (cosine > 1) return { kind: 'never-up' }
  const hourAngleDeg = Math.acos(cosine) / RAD
  const noonMin = 720 - 4 * lonDeg - equationMin
  return { kind: 'rises', riseUtcMin: noonMin - 4 * hourAngleDeg, setUtcMin: noonMin + 4 * hourAngleDeg }
}
