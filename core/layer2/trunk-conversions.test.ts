import { describe, expect, it } from 'vitest'
import { applyChanges } from '#core/edit'
import { findWired } from '#core/findings'
import { indexPlan } from '#core/queries'
import type { Plan } from '#core/schema'
import { access, cat6, device, hosts, link, off, ports, radio, trunk, wifi, ssid } from '#server/demo/build'
import { portOf, site, the, type LoosePlan } from '../../tests/plans'
import { trunkConversions, trunkProposals } from '.'

type Change = (plan: LoosePlan) => void
const conversions = (plan: Plan) => trunkConversions(indexPlan(plan), new Set())
const told = (change: Change) =>
  conversions(site(change)).map(({ port, after }) => [`${port.deviceId}:${port.portId}`, after])

/** The plan with every conversion made. */
function converted(plan: Plan): Plan {
  const changes = conversions(plan).map(({ port, before, after }) => ({
    kind: 'set' as const,
    path: ['devices', port.deviceId, 'ports', port.portId, 'mode'],
    before,
    after,
  }))
  const made = applyChanges(plan, changes as unknown as Parameters<typeof applyChanges>[1])
  if (!made.ok) throw new Error(JSON.stringify(made.problems))
  return made.value
}
const blockers = (plan: Plan) => findWired(indexPlan(plan)).filter(({ severity }) => severity === 'blocker')

/** An access point as it comes, on a switch port as that comes, with somebody on its SSID. */
const freshAccessPoint: Change = (plan) => {
  const own = ports({ 1: access(99), radio })
  plan.devices.push(device('ap', 'AP', 'access-point', 'A2', '', 'management', own))
  plan.devices.push(hosts('phones', 'Phones', '', 'staff', 2))
  plan.ssids.push(ssid({ id: 'air', name: 'Air', networkId: 'staff', isolation: false, apIds: ['ap'] }))
  portOf(plan, 'sw', 'p4').mode = access(99)
  plan.links.push(link('sw:4', 'ap:1', cat6(9)), link('ap:radio', 'phones:1', wifi('air')))
}

it('pruning leaves a native VLAN tagged where it was', () => {
  const unused: Change = (plan) => {
    plan.devices = plan.devices.filter(({ id }) => id !== 'box')
    plan.links = plan.links.filter(({ b: end }) => end.deviceId !== 'box')
    portOf(plan, 'sw', 'p1').mode = { mode: 'trunk', native: 10, tagged: [10, 20, 99] }
  }
  const after = trunkProposals(indexPlan(site(unused)), new Set()).find(
    ({ port }) => port.deviceId === 'sw',
  )?.after
  expect(after).toEqual({ mode: 'trunk', native: 10, tagged: [10, 99] })
})

describe('access ports between devices that sort VLANs', () => {
  it('become trunks at both ends, and keep what is untagged', () => {
    const both: Change = (plan) => {
      portOf(plan, 'gate', 'p2').mode = access(99)
      portOf(plan, 'sw', 'p1').mode = access(99)
    }
    expect(told(both)).toEqual([
      ['gate:p2', trunk(99, 10, 20)],
      ['sw:p1', trunk(99, 10, 20)],
    ])
    expect([blockers(site(both)).length > 0, blockers(converted(site(both)))]).toEqual([true, []])
  })
  it('take the native VLAN of a trunk at the other end', () => {
    expect(told((plan) => void (portOf(plan, 'gate', 'p2').mode = access(10)))).toEqual([
      ['gate:p2', trunk(99, 10, 20)],
    ])
    expect(told((plan) => void (portOf(plan, 'gate', 'p2').mode = off))).toEqual([
      ['gate:p2', trunk(99, 10, 20)],
    ])
  })
  it('agree where they differ: on what a device is managed in, else on what the first end has', () => {
    const apart: Change = (plan) => {
      portOf(plan, 'gate', 'p2').mode = access(10)
      portOf(plan, 'sw', 'p1').mode = access(99)
    }
    expect(told(apart)).toEqual([
      ['gate:p2', trunk(99, 10, 20)],
      ['sw:p1', trunk(99, 10, 20)],
    ])
    const unmanaged: Change = (plan) => {
      apart(plan)
      for (const { id, homeNetworkId } of plan.devices)
        if (homeNetworkId === 'management') the(plan.devices, id).homeNetworkId = null
    }
    expect(told(unmanaged)).toEqual([
      ['gate:p2', trunk(10, 20)],
      ['sw:p1', trunk(10, 20)],
    ])
    expect(blockers(converted(site(apart)))).toEqual([])
  })
  it('of a new access point carry its SSIDs then', () => {
    expect(told(freshAccessPoint)).toEqual([
      ['sw:p4', trunk(99, 10)],
      ['ap:p1', trunk(99, 10)],
    ])
    expect([
      blockers(site(freshAccessPoint)).length > 0,
      blockers(converted(site(freshAccessPoint))),
    ]).toEqual([true, []])
  })
  it('are left where their own VLAN is all that is needed, and where hosts are', () => {
    expect(told(() => undefined)).toEqual([])
    const one: Change = (plan) => {
      plan.devices.push(
        device('s2', 'Second', 'switch', '', '', null, ports({ 1: access(10), 2: access(10) })),
      )
      plan.devices.push(hosts('far', 'Far', '', 'staff', 1))
      portOf(plan, 'sw', 'p4').mode = access(10)
      plan.links.push(link('sw:4', 's2:1', cat6(9)), link('s2:2', 'far:1', cat6(2)))
    }
    expect(told(one)).toEqual([])
  })
})
