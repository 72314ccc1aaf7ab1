import { expect, it } from 'vitest'
import { indexPlan } from '#core/queries'
import { gullhavenPlan } from '#server/demo/gullhaven'
import { checkWifi } from './index'

it('findings of Wi-Fi stay while cables, addresses and rules are edited', () => {
  const plan = gullhavenPlan()
  const index = indexPlan(plan)
  const before = checkWifi(index)
  const links = plan.links.map((link) =>
    link.medium.kind === 'copper' ? { ...link, medium: { ...link.medium, lengthM: 7 } } : link,
  )
  expect(
    checkWifi(index.of({ ...plan, links, networks: [...plan.networks], policies: [...plan.policies] })),
  ).toBe(before)
  const moved = plan.devices.map((device) =>
    device.id === 'lab-ap-2' ? { ...device, place: 'Offices' } : device,
  )
  expect(checkWifi(index.of({ ...plan, devices: moved }))).not.toBe(before)
})
