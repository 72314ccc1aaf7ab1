// Question: what does a radio read while its antenna is turned, and what does a reading say of where it looks?
// Method: the pattern of an evenly lit round aperture, lobe by lobe, nowhere above the envelope for planning; what both
// ends lose by looking aside adds up in dB. A reading that stays too low is a first side lobe, or something in the way.
// Source: Balanis, Antenna Theory, 12.5.2 (first side lobe 17.6 dB down); ITU-R F.699-8 recommends 2 (envelope) and
// Abramowitz and Stegun 9.4.4 and 9.4.6 (J1), from memory.

const RAD = Math.PI / 180
/** A beam is about 70 wavelengths per diameter wide, degrees (common practice, without a source). */
const BEAM_DEG = 70
/** Where the first side lobe stands, in wavelengths per diameter, and how far below the peak. */
const LOBE_AT = 1.635
const LOBE_DB = 17.6
/** Between lobes some power is left, since no dish is even. */
const DEEPEST_DB = 40
/** Loss of a bare edge in the line of sight (ITU-R P.526, J(0)). */
const EDGE_DB = 6

/** Wavelengths across an aperture of this gain; 29.7 dBi: 12.6. */
const wavelengthsAcross = (gainDbi: number): number => 10 ** ((gainDbi - 7.7) / 20)

/** Width of the beam between its half-power points, degrees. 29.7 dBi: 5.6. */
export const beamWidthDeg = (gainDbi: number): number => BEAM_DEG / wavelengthsAcross(gainDbi)

/** How far beside the beam its first side lobe stands, degrees; null of an antenna that has none in front of it. */
export function sideLobeDeg(gainDbi: number): number | null {
  const sine = LOBE_AT / wavelengthsAcross(gainDbi)
  return sine < 1 ? Math.asin(sine) / RAD : null
}

/** Bessel function of the first kind and first order, of x >= 0, to 1e-7. J1(1) = 0.44005; J1(3.8317) = 0. */
export function besselJ1(x: number): number {
  const horner = (coefficients: readonly number[], at: number) =>
    coefficients.reduceRight((sum, coefficient) => sum * at + coefficient, 0)
  if (x <= 3)
    return (
      x *
      horner([0.5, -0.56249985, 0.21093573, -0.03954289, 0.00443319, -0.00031761, 0.00001109], (x / 3) ** 2)
    )
  const size = [0.79788456, 0.00000156, 0.01659667, 0.00017105, -0.00249511, 0.00113653, -0.00020033]
  const phase = [-2.35619449, 0.12499612, 0.0000565, -0.00637879, 0.00074348, 0.00079824, -0.00029166]
  return (horner(size, 3 / x) * Math.cos(x + horner(phase, 3 / x))) / Math.sqrt(x)
}

/** Most gain to plan with in a direction off the axis, dBi, of an aperture of less than a hundred wavelengths. */
export function envelopeDbi(gainDbi: number, offDeg: number): number {
  const across = wavelengthsAcross(gainDbi)
  const lobeDbi = 2 + 15 * Math.log10(across)
  const shoulderDeg = (20 / across) * Math.sqrt(Math.max(0, gainDbi - lobeDbi))
  if (offDeg < shoulderDeg) return gainDbi - 2.5e-3 * (across * offDeg) ** 2
  if (offDeg < 100 / across) return lobeDbi
  if (offDeg < 48) return 52 - 10 * Math.log10(across) - 25 * Math.log10(offDeg)
  return 10 - 10 * Math.log10(across)
}

/** What an antenna of this gain loses in a direction off its axis, dB; 0 on it, and never less. */
export function offAxisLossDb(gainDbi: number, offDeg: number): number {
  const x = Math.PI * wavelengthsAcross(gainDbi) * Math.sin(Math.min(offDeg, 90) * RAD)
  const field = x === 0 ? 1 : (2 * besselJ1(x)) / x
  const lobesDb = Math.min(DEEPEST_DB, -20 * Math.log10(Math.max(Math.abs(field), 1e-9)))
  return Math.max(0, lobesDb, gainDbi - envelopeDbi(gainDbi, offDeg))
}

/** Where an antenna looks: from north over east, and above the horizon, degrees. */
export interface Aim {
  readonly azimuthDeg: number
  readonly tiltDeg: number
}

/** Where both ends of a link look in the lab while nobody has said where they stand: due north, and due south. */
export const UNKNOWN_BEARINGS_DEG: readonly [number, number] = [0, 180]

/** Angle between two directions, degrees. */
export function betweenDeg(first: Aim, second: Aim): number {
  const turn = (first.azimuthDeg - second.azimuthDeg) * RAD
  const [low, high] = [first.tiltDeg * RAD, second.tiltDeg * RAD]
  const cosine = Math.sin(low) * Math.sin(high) + Math.cos(low) * Math.cos(high) * Math.cos(turn)
  return Math.acos(Math.max(-1, Math.min(1, cosine))) / RAD
}

/** An end of a link while it is aimed. */
export interface AimedEnd {
  readonly gainDbi: number
  /** Where the other end stands, and where the antenna looks. */
  readonly wanted: Aim
  readonly aim: Aim
}

/** What both ends read with their antennas as they look, dBm. @param clearDbm with both well aimed */
export const aimedDbm = (clearDbm: number, ends: readonly AimedEnd[]): number =>
  ends.reduce(
    (dBm, { gainDbi, wanted, aim }) => dBm - offAxisLossDb(gainDbi, betweenDeg(wanted, aim)),
    clearDbm,
  )

/** What a highest reading says; `missingDb`: below what is computed. */
export interface AimVerdict {
  readonly kind: 'as-computed' | 'side-lobe' | 'obstructed'
  readonly missingDb: number
}

/**
 * What the highest reading of a sweep says of where an antenna looks. Nearer to a side lobe's 17.6 dB than to an
 * edge's 6 it is likelier a side lobe, of this antenna or the far one.
 * @param toleranceDb what an estimate may miss
 */
export function judgePeak(readDbm: number, expectedDbm: number, toleranceDb: number): AimVerdict {
  const missingDb = expectedDbm - readDbm
  if (missingDb <= toleranceDb) return { kind: 'as-computed', missingDb }
  return { kind: missingDb > (LOBE_DB + EDGE_DB) / 2 ? 'side-lobe' : 'obstructed', missingDb }
}
