import { describe, expect, it } from 'vitest'
import { openSite } from '#core/reachability'
import { inOldWords } from '../../../tests/fixtures/old-words'
import { site } from '../../../tests/plans'
import { addDevice, addUplink } from '#core/edit'
import { indexPlan, down } from '#core/queries'
import { upgradePlan, type Plan } from '..'

/** A plan of version 7 in which a switch and an uplink have one id, as two things called LTE had. */
const shared = (): Record<string, unknown> => {
  const plan = site((plan) => {
    plan.devices.find((d) => d.id === 'sw')!.id = 'line'
    for (const link of plan.links)
      for (const end of [link.a, link.b]) if (end.deviceId === 'sw') end.deviceId = 'line'
    plan.intents[1]!.survives = ['line']
    plan.forwards.push({
      id: 'f',
      deviceId: 'gate',
      uplinkId: 'line',
      proto: 'tcp',
      from: 443,
      to: 443,
      toAddress: '10.9.20.10',
      toPort: 443,
      note: '',
      hairpin: false,
    })
    plan.policyRoutes.push({
      id: 'r',
      deviceId: 'gate',
      from: { kind: 'any' },
      services: [],
      out: { kind: 'uplink', id: 'line' },
      orElse: 'next',
      note: '',
    })
  })
  return { ...plan, version: 7 }
}

describe('a plan of version 7 in which a device and an uplink have one id', () => {
  const raised = upgradePlan(shared()) as unknown as Plan
  it('gives the uplink one of its own, and what names it follows', () => {
    expect(raised.devices.map((d) => d.id)).toContain('line')
    expect(raised.uplinks.map((u) => u.id)).toEqual(['line-2'])
    expect(raised.forwards[0]?.uplinkId).toBe('line-2')
    expect(raised.policyRoutes[0]?.out).toEqual({ kind: 'uplink', id: 'line-2' })
    expect(raised.intents[1]?.survives).toEqual(['line', 'line-2'])
  })
  it('lets each fail by itself', () => {
    expect(openSite(indexPlan(raised), [down('line')]).uplinks.map((u) => u.id)).toEqual(['line-2'])
    const lost = openSite(indexPlan(raised), [down('line-2')])
    expect([lost.uplinks, lost.failed.has('line')]).toEqual([[], false])
  })
  it('is left as it is where nothing is shared', () => {
    const plan = { ...inOldWords(site()), version: 7 }
    expect(upgradePlan(plan)).toEqual(site())
  })
})

it('a device and an uplink of one name get ids that differ', () => {
  const empty = site((plan) => {
    plan.uplinks = []
    plan.links = plan.links.filter((l) => l.a.deviceId !== 'ont' && l.b.deviceId !== 'ont')
  })
  const withDevice = addDevice(empty, {
    name: 'LTE',
    kind: 'modem',
    model: '',
    place: '',
    homeNetworkId: null,
    count: 1,
  })
  if (!withDevice.ok) throw new Error('refused')
  const withBoth = addUplink(withDevice.value.plan, 'LTE')
  if (!withBoth.ok) throw new Error('refused')
  expect(withDevice.value.id).toBe('lte')
  expect(withBoth.value.uplinks.map((u) => u.id)).toEqual(['lte-2'])
})
