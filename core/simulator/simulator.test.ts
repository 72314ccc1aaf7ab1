import { describe, expect, it } from 'vitest'
import { portOf, site, the } from '../../tests/plans'
import { gullhavenPlan } from '#server/demo/gullhaven'
import type { PortMode } from '#core/schema'
import { access, draft, off, trunk } from '#server/demo/build'
import { indexPlan } from '#core/queries'
import { plugIn, uplinkPeers } from '.'

const leaseOn = (mode: PortMode) =>
  plugIn(
    site((p) => void (portOf(p, 'sw', 'p4').mode = draft(mode))),
    { deviceId: 'sw', portId: 'p4' },
    0,
  )

// RFC 8572 section 5.1: a device in factory state uses DHCP, untagged, on its way to a bootstrap server.
describe('a device in factory state', () => {
  it('takes the lease of the untagged VLAN at its port', () => {
    expect(leaseOn(access(10))).toEqual({
      kind: 'lease',
      networkId: 'staff',
      address: '10.9.10.100',
      controller: true,
    })
    expect(leaseOn(trunk(10, 20))).toMatchObject({ kind: 'lease', networkId: 'staff' })
  })
  it('reaches a controller of the plan in its network alone, and one elsewhere wherever it has an address', () => {
    const reaches = (home: string | null) => {
      const plan = site(({ devices }) => {
        if (home !== null)
          devices.push({
            ...devices.find(({ id }) => id === 'box')!,
            id: 'c',
            kind: 'controller',
            homeNetworkId: home,
          })
      })
      const met = plugIn(plan, { deviceId: 'sw', portId: 'p2' }, 0)
      return met.kind === 'lease' && met.controller
    }
    expect([reaches(null), reaches('staff'), reaches('servers')]).toEqual([true, true, false])
  })
  it('gets no answer where nobody serves, the port is off or only tagged frames pass', () => {
    for (const mode of [access(20), off, trunk(null, 10)])
      expect(leaseOn(mode)).toEqual({ kind: 'no-answer' })
  })
  it('is not plugged where its cable ends nowhere', () => {
    expect(plugIn(site(), null, 0)).toEqual({ kind: 'not-plugged' })
    expect(plugIn(site(), { deviceId: 'nobody', portId: 'p1' }, 0)).toEqual({ kind: 'not-plugged' })
  })
  it('takes the nth address of the pool and starts over at its end', () => {
    const nth = (n: number) => plugIn(site(), { deviceId: 'sw', portId: 'p2' }, n)
    expect([nth(1), nth(99), nth(100)].map((l) => (l.kind === 'lease' ? l.address : l.kind))).toEqual([
      '10.9.10.101',
      '10.9.10.199',
      '10.9.10.100',
    ])
  })
  it('knows whether its controller is in that network', () => {
    const plan = gullhavenPlan()
    expect(plugIn(plan, uplinkPeers(indexPlan(plan)).get('skerry-switch') ?? null, 0)).toEqual({
      kind: 'lease',
      networkId: 'management',
      address: '10.61.0.100',
      controller: true,
    })
  })
})

describe('the port a device hangs on', () => {
  it('is the far end of its cable towards the gateway', () => {
    const peers = uplinkPeers(indexPlan(gullhavenPlan()))
    expect(peers.get('skerry-switch')).toEqual({ deviceId: 'bridge-b', portId: 'plan' })
    expect(peers.get('boat-ap')).toEqual({ deviceId: 'boat-switch', portId: 'p2' })
    expect(peers.has('gateway')).toBe(false)
    const alone = site(({ devices }) => void (the(devices, 'gate').kind = 'switch'))
    expect(uplinkPeers(indexPlan(alone)).size).toBe(0)
  })
})
