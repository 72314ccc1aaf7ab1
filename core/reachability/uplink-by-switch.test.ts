import { describe, expect, it } from 'vitest'
import { analyse } from '#core/findings'
import { indexPlan } from '#core/queries'
import { HARD, uplinkByVlan } from '../../tests/twin/cases-hard'
import { access, trunk } from '#server/demo/build'
import { passes } from '../../tests/fixtures/reachability'
import { site } from '../../tests/plans'

// IEEE 802.1Q-2022 clause 8.6; the kernel twin builds the same sites.

describe('an uplink that comes in through the site’s own switch', () => {
  it.each([
    ['uplink by a switch, access ports both sides', 'all'],
    ['uplink by a switch, on two VLANs', 'nothing'],
    ['uplink by a switch, tagged towards the gateway', 'all'],
    ['uplink by a switch that drops its tag', 'nothing'],
    ['uplink by a switch, tagged all the way', 'all'],
    ['uplink by a switch, tagged by the switch alone', 'all'],
  ])('%s: %s', (what, services) => {
    const found = HARD.find(([name]) => name === what)!
    expect(passes('staff', 'internet', found[1])).toBe(services)
  })

  const strange = (change: Parameters<typeof site>[0]) =>
    analyse(indexPlan(site(change)), [])
      .findings.filter(({ code }) => code === 'E01')
      .map(({ place }) => place.join('.'))

  it('needs no network for its VLAN, at either end', () => {
    expect(strange(uplinkByVlan(access(700), access(700)))).toEqual([])
    expect(strange(uplinkByVlan(trunk(null, 700), access(700), 700))).toEqual([])
    // Where the two sides do not fit, both are of some line.
    expect(strange(uplinkByVlan(access(700), access(701)))).toEqual([])
  })

  it('and what carries none is still strange', () => {
    const stray = (plan: Parameters<ReturnType<typeof uplinkByVlan>>[0]) => {
      uplinkByVlan(trunk(null, 700, 702), access(700), 700)(plan)
    }
    expect(strange(stray)).toEqual(['devices.sw.ports.p5'])
  })
})
