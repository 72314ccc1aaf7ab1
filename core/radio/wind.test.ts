import { describe, expect, it } from 'vitest'
import { windLoad } from '.'

const dish = { dishM: 0.65, mastM: 2, footM: 1 }

describe('wind on a dish', () => {
  it('is the pressure of the gust on a disc', () => {
    // EN 1991-1-4: 0.5 x 1.25 kg/m3 x (40 m/s)^2 = 1,000 Pa. On 0.3318 m2 with a drag of 1.17: 388.2 N.
    const load = windLoad(dish, 40)
    expect(load?.forceN).toBeCloseTo(388.2, 1)
    expect(load?.momentNm).toBeCloseTo(776.5, 1)
    // 1.5 x 776.5 N m over 1 m and 9.81 m/s2.
    expect(load?.ballastKg).toBeCloseTo(118.7, 1)
  })

  it('grows by the square of the gust and of the dish', () => {
    const force = (dishM: number, gust: number) => windLoad({ ...dish, dishM }, gust)?.forceN ?? NaN
    expect(force(1.3, 40) / force(0.65, 40)).toBeCloseTo(4)
    expect(force(0.65, 20) / force(0.65, 40)).toBeCloseTo(0.25)
  })

  it('is not told while something is not said, and asks for no ballast on a stand that is fixed', () => {
    expect(windLoad({ ...dish, dishM: null }, 40)).toBeNull()
    expect(windLoad(dish, null)).toBeNull()
    expect(windLoad({ ...dish, mastM: null }, 40)).toMatchObject({ momentNm: null, ballastKg: null })
    expect(windLoad({ ...dish, footM: null }, 40)?.ballastKg).toBeNull()
  })
})
