import { describe, expect, it } from 'vitest'
import { EVERYTHING, NOTHING } from '#core/filter'
import { gridOf } from '../../tests/fixtures/reachability'
import { the, type LoosePlan } from '../../tests/plans'

const withoutDesk = (plan: LoosePlan) => {
  plan.devices = plan.devices.filter(({ id }) => id !== 'desk')
  plan.links = plan.links.filter(({ b }) => b.deviceId !== 'desk')
}

describe('a cell at whose end nobody stands', () => {
  it('is empty, whichever end it is', () => {
    const { cell } = gridOf(withoutDesk)
    expect([cell('staff', 'servers').isEmpty, cell('servers', 'staff').isEmpty]).toEqual([true, true])
    expect(cell('staff', 'internet').isEmpty).toBe(true)
    expect(cell('servers', 'internet').isEmpty).toBe(false)
  })

  it('is not where somebody stands, also without an address', () => {
    const { cell } = gridOf((plan) => void (the(plan.networks, 'staff').dhcp = 'none'))
    expect(cell('staff', 'servers').isEmpty).toBe(false)
  })

  it('of one network says what its hosts say to each other, and of one host nothing', () => {
    const alone = gridOf().cell('staff', 'staff')
    expect([alone.allPairs, alone.example]).toEqual([NOTHING, null])
    const group = gridOf((plan) => void (the(plan.devices, 'desk').count = 3)).cell('staff', 'staff')
    expect(group.allPairs).toEqual(EVERYTHING)
    // Who has no address meets nobody.
    const lost = gridOf((plan) => {
      the(plan.devices, 'desk').count = 3
      the(plan.networks, 'staff').dhcp = 'none'
    }).cell('staff', 'staff')
    expect(lost.allPairs).toEqual(NOTHING)
  })
})
