// Question: how much of a signal is lost on its way through the air?
// Method: free space, one edge in the way, rain.
// Source: ITU-R P.525-4 (free space), P.526-15 (knife edge), P.530-18 (Fresnel zone), P.838-3 (rain).

/** Radius of the earth that P.530 reckons with, km. */
const EARTH_KM = 6370

/** Usual refraction, and the least that a path is to stand (ITU-R P.530-18, 2.2.2.1, for short paths from memory). */
export const K_USUAL = 4 / 3
export const K_WORST = 2 / 3

/** Loss between isotropic antennas in free space, dB (P.525-4, equation 4). 3.4 km at 5,600 MHz: 118.04. */
export const freeSpaceLossDb = (mhz: number, km: number): number =>
  32.45 + 20 * Math.log10(km) + 20 * Math.log10(mhz)

/**
 * How far the earth stands up into the straight line between two points, m; both distances in km.
 * In the middle of 3.4 km: 0.17 m at k = 4/3, 0.34 m at 2/3.
 */
export const earthBulgeM = (fromKm: number, toKm: number, k: number): number =>
  ((fromKm * toKm) / (2 * k * EARTH_KM)) * 1000

/**
 * Radius of the first Fresnel zone, m, at a point so far from both ends, km (P.530-18, 2.2.1).
 * In the middle of 3.4 km at 5,600 MHz: 6.78 m.
 */
export const fresnelRadiusM = (mhz: number, fromKm: number, toKm: number): number =>
  550 * Math.sqrt((fromKm * toKm) / ((fromKm + toKm) * mhz))

/**
 * Loss behind a single edge, dB (P.526-15, equation 31, whose v is `edge`); nothing below -0.78.
 * J(0) 6.03, J(1) 13.93, J(2.4) 20.54.
 */
export const knifeEdgeLossDb = (edge: number): number =>
  edge <= -0.78 ? 0 : 6.9 + 20 * Math.log10(Math.sqrt((edge - 0.1) ** 2 + 1) + edge - 0.1)

/** What is lost in oxygen at 54, 58, 60, 62, 64 and 66 GHz, dB/km, between which the logarithm is bent. */
const OXYGEN_DB = { 54: 2.192, 58: 12.59, 60: 15, 62: 14.28, 64: 6.819, 66: 1.908 } as const
type OxygenGhz = keyof typeof OXYGEN_DB
/** A parabola through the logarithms at three frequencies (Lagrange). */
function bent(ghz: number, through: readonly [OxygenGhz, OxygenGhz, OxygenGhz]): number {
  const terms = through.map((own) => {
    const others = through.filter((other) => other !== own)
    return others.reduce((part, other) => (part * (ghz - other)) / (own - other), Math.log(OXYGEN_DB[own]))
  })
  return Math.exp(terms.reduce((sum, term) => sum + term, 0))
}

/**
 * Loss by the oxygen of the air at 15 degrees and 1,013 hPa, dB/km, up to 120 GHz (P.676-6, annex 2, equation 22, from
 * memory; about 15 dB/km at 60 GHz). Water vapour, 0.2 dB/km at most below 90 GHz, is left out.
 * 5,600 MHz: 0.007; 57 GHz: 9.7; 60 GHz: 15.0; 70 GHz: 0.27.
 */
export function oxygenLossDbPerKm(mhz: number): number {
  const ghz = mhz / 1000
  if (ghz <= 54) return (7.2 / (ghz ** 2 + 0.34) + 0.62 / ((54 - ghz) ** 1.16 + 0.83)) * ghz ** 2 * 1e-3
  if (ghz <= 60) return bent(ghz, [54, 58, 60])
  if (ghz <= 62) return OXYGEN_DB[60] + ((OXYGEN_DB[62] - OXYGEN_DB[60]) * (ghz - 60)) / 2
  if (ghz <= 66) return bent(ghz, [62, 64, 66])
  const far = 0.502 * (1 - 0.0163 * (ghz - 66))
  const lines = 3.02e-4 + 0.283 / ((ghz - 118.75) ** 2 + 2.91) + far / ((ghz - 66) ** 1.4346 + 1.15)
  return lines * ghz ** 2 * 1e-3
}

export type Polarization = 'horizontal' | 'vertical'

interface Curve {
  readonly terms: readonly (readonly [a: number, b: number, c: number])[]
  readonly slope: number
  readonly offset: number
}
/** P.838-3, tables 1 to 4. */
const CURVES: Readonly<Record<'k' | 'alpha', Readonly<Record<Polarization, Curve>>>> = {
  k: {
    horizontal: {
      terms: [
        [-5.3398, -0.10008, 1.13098],
        [-0.35351, 1.2697, 0.454],
        [-0.23789, 0.86036, 0.15354],
        [-0.94158, 0.64552, 0.16817],
      ],
      slope: -0.18961,
      offset: 0.71147,
    },
    vertical: {
      terms: [
        [-3.80595, 0.56934, 0.81061],
        [-3.44965, -0.22911, 0.51059],
        [-0.39902, 0.73042, 0.11899],
        [0.50167, 1.07319, 0.27195],
      ],
      slope: -0.16398,
      offset: 0.63297,
    },
  },
  alpha: {
    horizontal: {
      terms: [
        [-0.14318, 1.82442, -0.55187],
        [0.29591, 0.77564, 0.19822],
        [0.32177, 0.63773, 0.13164],
        [-5.3761, -0.9623, 1.47828],
        [16.1721, -3.2998, 3.4399],
      ],
      slope: 0.67849,
      offset: -1.95537,
    },
    vertical: {
      terms: [
        [-0.07771, 2.3384, -0.76284],
        [0.56727, 0.95545, 0.54039],
        [-0.20238, 1.1452, 0.26809],
        [-48.2991, 0.791669, 0.116226],
        [48.5833, 0.791459, 0.116479],
      ],
      slope: -0.053739,
      offset: 0.83433,
    },
  },
}

function valueOf({ terms, slope, offset }: Curve, logGhz: number): number {
  const bells = terms.map(([a, b, c]) => a * Math.exp(-(((logGhz - b) / c) ** 2)))
  return bells.reduce((sum, bell) => sum + bell, 0) + slope * logGhz + offset
}

/** Coefficients of rain at a frequency of 1 to 1,000 GHz (P.838-3, equations 2 and 3). */
export function rainCoefficients(ghz: number, polarization: Polarization) {
  const logGhz = Math.log10(ghz)
  return {
    k: 10 ** valueOf(CURVES.k[polarization], logGhz),
    alpha: valueOf(CURVES.alpha[polarization], logGhz),
  }
}

/** Loss by rain, dB for each km, at so many mm in an hour (P.838-3, equation 1). */
export function rainLossDbPerKm(mhz: number, mmPerHour: number, polarization: Polarization): number {
  const { k, alpha } = rainCoefficients(mhz / 1000, polarization)
  return mmPerHour === 0 ? 0 : k * mmPerHour ** alpha
}

/**
 * The part of a path that is in rain at once, km (P.530-18, 2.4.1, equation 34).
 * A cell of rain is smaller than a long path.
 */
export function rainyKm(km: number, mhz: number, mmPerHour: number, alpha: number): number {
  const ghz = mhz / 1000
  const share =
    0.477 * km ** 0.633 * mmPerHour ** (0.073 * alpha) * ghz ** 0.123 - 10.579 * (1 - Math.exp(-0.024 * km))
  return km * Math.min(2.5, share > 0.4 ? 1 / share : 2.5)
}
