// Question: how much power does a class stand for, and what of it arrives at the end of the cable?
// Method: the standard's class table; current from the quadratic of source voltage, cable resistance and
// constant load.
// Source:
// IEEE 802.3-2022 clause 33 (classes 0 to 4) and clause 145 (5 to 8): figures from memory, those at the
// powered device checked from first principles in the tests; copper 17.24 nOhm m at 20 C and 0.00393 per
// kelvin (IEC 60028).

export interface PoeClass {
  /** Reserved at the source, W. */
  readonly sourceW: number
  /** Least available to the powered device at the end of the longest channel, W. */
  readonly deviceW: number
  /** Pairs that carry the power. */
  readonly pairs: 2 | 4
  /** Least voltage at the source, V. */
  readonly volts: number
  /** Loop resistance of the worst channel the class is made for, ohm. */
  readonly loopOhm: number
}

const two = (sourceW: number, deviceW: number, volts: number, loopOhm: number): PoeClass => ({
  sourceW,
  deviceW,
  pairs: 2,
  volts,
  loopOhm,
})
const four = (sourceW: number, deviceW: number, volts: number): PoeClass => ({
  sourceW,
  deviceW,
  pairs: 4,
  volts,
  loopOhm: 6.25,
})

/** By class number, 0 to 8. */
export const POE_CLASSES: readonly PoeClass[] = [
  two(15.4, 12.95, 44, 20),
  two(4, 3.84, 44, 20),
  two(7, 6.49, 44, 20),
  two(15.4, 12.95, 44, 20),
  two(30, 25.5, 50, 12.5),
  four(45, 40, 50),
  four(60, 51, 50),
  four(75, 62, 52),
  four(90, 71.3, 52),
]

/**
 * Figures of a class; class 0 where the number is none of 0 to 8, as a source treats a load that does not
 * tell.
 */
export function poeClass(number: number): PoeClass {
  return POE_CLASSES[number] ?? (POE_CLASSES[0] as PoeClass)
}

/** Copper diameter by category, mm (common practice: 24 AWG in Cat5e, 23 AWG above). */
const DIAMETER_MM = { Cat5e: 0.511, Cat6: 0.574, Cat6A: 0.574 } as const
const RESISTIVITY_OHM_M = 1.724e-8
const PER_KELVIN = 0.00393

/**
 * Loop resistance of a run: there and back, with two conductors in parallel each way, or four.
 * Formula: rho (1 + a (T - 20)) L / (pi d^2 / 4), x 2 for the way back, / 2 for the pair's two wires, / 2
 * more on four pairs.
 * Worked: 100 m of Cat5e at 20 C on two pairs -> 8.41 ohm; of Cat6 -> 6.66 ohm.
 * @param lengthM 0 or more @param temperatureC of the copper
 */
export function loopOhm(
  category: keyof typeof DIAMETER_MM,
  lengthM: number,
  pairs: 2 | 4,
  temperatureC = 20,
): number {
  const areaM2 = (Math.PI * (DIAMETER_MM[category] / 1000) ** 2) / 4
  const wire = (RESISTIVITY_OHM_M * (1 + PER_KELVIN * (temperatureC - 20)) * lengthM) / areaM2
  return pairs === 2 ? wire : wire / 2
}

export interface Drop {
  readonly currentA: number
  readonly deviceV: number
  /** What the source gives: load and cable together, W. */
  readonly sourceW: number
  readonly lossW: number
}

/**
 * A constant-power load at the end of a cable.
 * Formula:
 * V = I R + P / I, so I = (V - sqrt(V^2 - 4 R P)) / (2 R).
 * Null where the cable cannot carry it: beyond V^2 / (4 R) no current does.
 * Worked: 50 V, 12.5 ohm, 25.5 W -> 0.6 A, 42.5 V, 30 W at the source, 4.5 W lost.
 * @param volts above 0 @param ohm 0 or more @param loadW 0 or more
 */
export function dropAlong(volts: number, ohm: number, loadW: number): Drop | null {
  const root = volts * volts - 4 * ohm * loadW
  if (root < 0) return null
  const currentA = ohm === 0 ? loadW / volts : (volts - Math.sqrt(root)) / (2 * ohm)
  const lossW = currentA * currentA * ohm
  return { currentA, deviceV: volts - currentA * ohm, sourceW: loadW + lossW, lossW }
}

/**
 * How many alike loads a budget carries with a share of it kept free.
 * Worked: 110 W, 13.4 W, 10 % -> 7; without headroom 8.
 */
export function loadsWithin(budgetW: number, eachW: number, headroomPct: number): number {
  return eachW <= 0 ? 0 : Math.floor((budgetW * (1 - headroomPct / 100)) / eachW + 1e-9)
}
