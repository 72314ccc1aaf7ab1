// Question: how hard does the wind take hold of an antenna, and what keeps its stand from tipping?
// Method: pressure of the gust on the disc; its moment at the foot of the mast; the weight on the stand that answers it
// with a safety factor. A first figure: whether wall, roof and mast bear it, an engineer decides.
// Source: EN 1991-1-4, 4.5 (pressure, air of 1.25 kg/m3); Hoerner, Fluid-Dynamic Drag, 3 (flat disc across the flow:
// 1.17; from memory); safety factor 1.5 against tipping, common practice without a source.
import type { Mounting } from '#core/schema'

const AIR_KG_PER_M3 = 1.25
const DISC_DRAG = 1.17
const AGAINST_TIPPING = 1.5
const GRAVITY_M_PER_S2 = 9.81

export interface WindLoad {
  readonly forceN: number
  /** At the foot of the mast, N m; null while its length is not said. */
  readonly momentNm: number | null
  /** On a stand that is not fixed, kg, its own weight counted; null where it is fixed, or not said. */
  readonly ballastKg: number | null
}

/**
 * Null while antenna or gust is not said.
 * Worked: 0.65 m in 40 m/s: 388 N; 2 m up a mast 776 N m; on a stand 1 m to its edge 119 kg.
 */
export function windLoad({ dishM, mastM, footM }: Mounting, gustMps: number | null): WindLoad | null {
  if (dishM === null || gustMps === null) return null
  const areaM2 = (Math.PI * dishM ** 2) / 4
  const forceN = 0.5 * AIR_KG_PER_M3 * gustMps ** 2 * DISC_DRAG * areaM2
  const momentNm = mastM === null ? null : forceN * mastM
  const ballastKg =
    momentNm === null || footM === null ? null : (AGAINST_TIPPING * momentNm) / (GRAVITY_M_PER_S2 * footM)
  return { forceN, momentNm, ballastKg }
}
