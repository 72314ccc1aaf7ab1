import './globals'
import { describe, expect, it } from 'vitest'
import { indexPlan, MODELS } from '#core/queries'
import { gullhavenClean } from '#server/demo/gullhaven'
import {
  blankDevice,
  freePortNames,
  makeDevice,
  placesOf,
  roomsLeft,
  type NewDevice,
} from '~/features/topology/new-device'

const plan = gullhavenClean()
const [free = ''] = freePortNames(plan).filter((name) => name.startsWith('Laboratory switch'))
const add = (device: Partial<NewDevice>) => makeDevice(plan, { ...blankDevice(), ...device })

describe('a device more', () => {
  it('is laid with its cable, and the far port is no longer free', () => {
    const made = add({ name: 'Shed switch', far: free, lengthM: '12' })
    if (!made.ok) throw new Error(made.problems[0]?.code)
    const { plan: after, id } = made.value
    expect(after.links.at(-1)).toMatchObject({ b: { deviceId: id }, medium: { lengthM: 12 } })
    expect(freePortNames(after)).not.toContain(free)
    expect(freePortNames(plan)).toContain(free)
  })
  it('is not laid where its cable cannot be', () => {
    expect(add({ name: 'Shed switch', far: 'Laboratory switch 999' })).toMatchObject({ ok: false })
    expect(add({ name: 'Laboratory switch', far: free })).toMatchObject({ ok: false })
  })
  it('has no cable where it joins an SSID', () => {
    const [ssid] = plan.ssids
    const made = add({ name: 'Tablets', kind: 'hosts', count: '3', joins: ssid?.id ?? '', far: free })
    if (!made.ok) throw new Error(made.problems[0]?.code)
    const own = made.value.plan.links.filter((link) =>
      [link.a.deviceId, link.b.deviceId].includes(made.value.id as never),
    )
    expect(own.length).toBeGreaterThan(0)
    expect(own.every(({ medium }) => medium.kind === 'wifi')).toBe(true)
  })
  it('is told how many more of it fit, at the source that its cable comes from', () => {
    const index = indexPlan(plan)
    const model = MODELS.find(({ kind }) => kind === 'access-point')?.name ?? ''
    const all = roomsLeft(index, { ...blankDevice(), model }, MODELS)
    expect(all.length).toBeGreaterThan(1)
    const one = roomsLeft(index, { ...blankDevice(), model, far: 'Laboratory switch 1' }, MODELS)
    expect(one).toHaveLength(1)
    expect(one[0]).toMatch(/^Laboratory switch: /)
    expect(roomsLeft(index, blankDevice(), MODELS)).toEqual([])
  })
  it('stands in a place that the plan knows, never "outside"', () => {
    expect(placesOf(plan)).not.toContain('outside')
    expect(new Set(placesOf(plan)).size).toBe(placesOf(plan).length)
    expect(placesOf(plan).length).toBeGreaterThan(2)
  })
})
