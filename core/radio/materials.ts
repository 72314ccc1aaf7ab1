// Question: how much of a signal is lost in a wall?
// Method: a slab of one material, hit at a right angle; averaged over 10 % of its thickness, which nobody knows better.
// Source: ITU-R P.2040-3, table 3 (materials, from memory), equations 25 to 27 (complex permittivity), 43 (slab).
import type { WallKind } from '#core/schema'

interface Material {
  /** Permittivity a f^b and conductivity c f^d, f in GHz. */
  readonly a: number
  readonly b: number
  readonly c: number
  readonly d: number
}

const MATERIALS = {
  concrete: { a: 5.24, b: 0, c: 0.0462, d: 0.7822 },
  brick: { a: 3.91, b: 0, c: 0.0238, d: 0.16 },
  plasterboard: { a: 2.73, b: 0, c: 0.0085, d: 0.9395 },
  wood: { a: 1.99, b: 0, c: 0.0047, d: 1.0718 },
  glass: { a: 6.31, b: 0, c: 0.0036, d: 1.3394 },
} as const

/** Usual thickness, m (common practice, without a source). */
const THICKNESS_M: Readonly<Record<keyof typeof MATERIALS, number>> = {
  concrete: 0.15,
  brick: 0.11,
  plasterboard: 0.026,
  wood: 0.04,
  glass: 0.01,
}
/** Metal reflects all; what comes around it is some 30 dB less (common practice, without a source). */
const METAL_DB = 30

interface Complex {
  readonly re: number
  readonly im: number
}
const times = (x: Complex, y: Complex): Complex => ({
  re: x.re * y.re - x.im * y.im,
  im: x.re * y.im + x.im * y.re,
})
const plus = (x: Complex, y: Complex): Complex => ({ re: x.re + y.re, im: x.im + y.im })
const minus = (x: Complex, y: Complex): Complex => ({ re: x.re - y.re, im: x.im - y.im })
const squared = (x: Complex): number => x.re ** 2 + x.im ** 2
const over = (x: Complex, y: Complex): Complex => {
  const top = times(x, { re: y.re, im: -y.im })
  return { re: top.re / squared(y), im: top.im / squared(y) }
}
function rootOf({ re, im }: Complex): Complex {
  const size = Math.hypot(re, im)
  return { re: Math.sqrt((size + re) / 2), im: Math.sign(im) * Math.sqrt((size - re) / 2) }
}
/** e to the power of -i times so much. */
const turned = ({ re, im }: Complex): Complex => ({
  re: Math.exp(im) * Math.cos(re),
  im: -Math.exp(im) * Math.sin(re),
})
const ONE: Complex = { re: 1, im: 0 }
/** Speed of light, m and GHz to each other. */
const LIGHT_M_GHZ = 0.299_792_458
/** 1 / (2 pi epsilon0), for conductivity in S/m and frequency in GHz. */
const LOSS_FACTOR = 17.98

/** Power that passes a slab, 0 to 1. Without loss and half a wave thick all of it passes. */
export function slabTransmission(material: Material, thicknessM: number, ghz: number): number {
  const conductivity = material.c * ghz ** material.d
  const permittivity = { re: material.a * ghz ** material.b, im: (-LOSS_FACTOR * conductivity) / ghz }
  const index = rootOf(permittivity)
  const face = over(minus(ONE, index), plus(ONE, index))
  const phase = times({ re: (2 * Math.PI * thicknessM * ghz) / LIGHT_M_GHZ, im: 0 }, index)
  const twice = times(face, face)
  const through = over(
    times(minus(ONE, twice), turned(phase)),
    minus(ONE, times(twice, turned({ re: 2 * phase.re, im: 2 * phase.im }))),
  )
  return squared(through)
}

const TRIES = 21
const UNSURE = 0.1

/** Loss in a wall, dB, at a frequency of 1 to 10 GHz. */
export function wallLossDb(kind: WallKind, mhz: number): number {
  if (kind === 'open') return 0
  if (kind === 'metal') return METAL_DB
  const usual = THICKNESS_M[kind]
  const passes = Array.from({ length: TRIES }, (_, i) => {
    const part = 1 - UNSURE / 2 + (UNSURE * i) / (TRIES - 1)
    return slabTransmission(MATERIALS[kind], usual * part, mhz / 1000)
  })
  return -10 * Math.log10(passes.reduce((sum, one) => sum + one, 0) / TRIES)
}
