import { describe, expect, it } from 'vitest'
import { addDevice, connect, firstPlan, setPorts, setSent } from '#core/edit'
import { analyse } from '#core/findings'
import { indexPlan } from '#core/queries'
import type { Plan } from '#core/schema'
import { fitPorts } from '.'

function office(): Plan {
  const first = firstPlan({
    name: 'Office',
    supernet: '10.40.0.0/16',
    country: 'NO',
    desks: 4,
    rooms: 1,
    accessPoints: 1,
    guests: 10,
    uplinks: 1,
    behindRouter: false,
  })
  if (!first.ok) throw new Error('no first plan')
  return first.value
}
const switchOf = (plan: Plan) => plan.devices.find(({ kind }) => kind === 'switch')!
const told = (plan: Plan) =>
  analyse(indexPlan(plan), []).findings.filter(({ severity }) => severity === 'blocker').length

/** One access point more at a socket of the switch that serves desks. */
function withAccessPoint(plan: Plan): { readonly plan: Plan; readonly id: string; readonly socket: string } {
  const management = plan.networks.find(({ vlan }) => vlan === 99)!
  const made = addDevice(plan, {
    name: 'Yard AP',
    kind: 'access-point',
    model: 'A2',
    place: '',
    homeNetworkId: management.id,
    count: 1,
  })
  if (!made.ok) throw new Error('not added')
  const { id } = made.value
  const sent = setSent(
    made.value.plan,
    id,
    plan.ssids.map((ssid) => ssid.id),
  )
  if (!sent.ok) throw new Error('not sent')
  const ap = sent.value.devices.find((device) => device.id === id)!
  const taken = new Set(
    plan.links.flatMap(({ a, b }) => [a, b]).map((end) => `${end.deviceId} ${end.portId}`),
  )
  const { id: switchId, ports } = switchOf(plan)
  const socket = ports.find((port) => !taken.has(`${switchId} ${port.id}`))!
  const medium = { kind: 'copper', category: 'Cat6', run: 'indoor', lengthM: 20 } as const
  const cabled = connect(
    sent.value,
    { deviceId: switchId, portId: socket.id },
    { deviceId: id, portId: ap.ports[0]!.id },
    medium,
  )
  if (!cabled.ok) throw new Error('not cabled')
  return { plan: cabled.value, id, socket: socket.id }
}
const modeAt = (plan: Plan, deviceId: string, portId: string) =>
  plan.devices.find(({ id }) => id === deviceId)?.ports.find(({ id }) => id === portId)?.mode

describe('the sockets of a new device', () => {
  it('become trunks of what it sends, managed untagged, and nothing is left to find', () => {
    const before = office()
    const { plan, id, socket } = withAccessPoint(before)
    expect(told(before)).toBe(0)
    expect(told(plan)).toBeGreaterThan(0)
    const fitted = fitPorts(plan, id)
    const trunk = { mode: 'trunk', native: 99, tagged: [10, 20] }
    expect(modeAt(fitted, switchOf(fitted).id, socket)).toEqual(trunk)
    expect(told(fitted)).toBe(0)
  })
  it('keep what a trunk carries, and leave every other cable alone', () => {
    const { plan, id, socket } = withAccessPoint(office())
    const name = switchOf(plan).ports.find((port) => port.id === socket)!.name
    const wide = { mode: 'trunk', native: 99, tagged: [10, 77] } as const
    const typed = setPorts(plan, switchOf(plan).id, name, { mode: wide })
    if (!typed.ok) throw new Error('no such port')
    const fitted = fitPorts(typed.value, id)
    expect(modeAt(fitted, switchOf(fitted).id, socket)).toEqual({ ...wide, tagged: [10, 20, 77] })
    const others = (of: Plan) => switchOf(of).ports.filter((port) => port.id !== socket)
    expect(others(fitted)).toEqual(others(plan))
  })
  it('stay where a host is plugged in', () => {
    const plan = office()
    const desks = plan.devices.find(({ kind }) => kind === 'hosts')!
    expect(fitPorts(plan, desks.id)).toEqual(plan)
  })
})
