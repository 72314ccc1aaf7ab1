import { expect, it } from 'vitest'
import { site } from '../../tests/plans'
import type { DeviceId, LinkId } from '.'

// The compiler is the judge: where it refuses nothing, the note that expects a refusal is an error itself.
it('an id of one kind is not taken for one of another', () => {
  const plan = site()
  const device = plan.devices[0]!
  const takesLink = (id: LinkId): string => id
  const takesDevice = (id: DeviceId): string => id
  // @ts-expect-error a device is no link
  expect(takesLink(device.id)).toBe(takesDevice(device.id))
  // @ts-expect-error a network is no device
  expect(takesDevice(plan.networks[0]!.id)).not.toBe(device.id)
  expect(takesDevice('typed-by-hand')).toBe('typed-by-hand')
})
