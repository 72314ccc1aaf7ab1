import { describe, expect, it } from 'vitest'
import { reservationFor } from '.'
import { hosts } from '#server/demo/build'
import { site, the } from '../../tests/plans'

// Staff is 10.9.10.0/24; servers keep 10.9.20.x; a till stands alone, a crowd does not.
const plan = site(({ devices }) => {
  devices.push(hosts('till', 'Till', 'Hall', 'staff', 1), hosts('crowd', 'Crowd', 'Hall', 'staff', 9))
})

describe('a host that is to be named by its address', () => {
  it('gets the first free one of its network, outside the pool', () => {
    const made = reservationFor(plan, the(plan.devices, 'till').id)
    const home = the(plan.networks, 'staff')
    expect(made?.home).toBe('staff')
    expect(made?.made).toMatchObject({ deviceId: 'till', how: 'reserved', name: 'Till' })
    const taken = plan.networks.flatMap((n) => [n.gateway, ...n.fixed.map(({ ip }) => ip)])
    expect(taken).not.toContain(made?.made.ip)
    expect(made?.made.ip.startsWith(home.subnet.split('.').slice(0, 3).join('.'))).toBe(true)
  })

  it('gets none where it has one, stands for many, is in no network, or none is free', () => {
    const idOf = (id: string) => the(plan.devices, id).id
    const known = plan.networks.flatMap(({ fixed }) => fixed.flatMap(({ deviceId }) => deviceId ?? []))
    expect(known.length).toBeGreaterThan(0)
    for (const id of known) expect(reservationFor(plan, id)).toBeNull()
    expect(reservationFor(plan, idOf('crowd'))).toBeNull()
    const nowhere = site(({ devices }) => {
      devices.push({ ...hosts('till', 'Till', 'Hall', 'staff', 1), homeNetworkId: null })
    })
    expect(reservationFor(nowhere, idOf('till'))).toBeNull()
    const full = site(({ devices, networks }) => {
      devices.push(hosts('till', 'Till', 'Hall', 'staff', 1))
      Object.assign(the(networks, 'staff'), {
        subnet: '10.9.10.0/30',
        gateway: '10.9.10.1',
        pool: { from: '10.9.10.2', to: '10.9.10.2' },
      })
    })
    expect(reservationFor(full, idOf('till'))).toBeNull()
  })
})
