import './globals'
import { describe, expect, it } from 'vitest'
import { typedMode, type TypedMode } from '~/features/topology/typed-mode'

const of = (typed: Partial<TypedMode>) =>
  typedMode({ mode: 'access', vlan: '', tagged: '', address: '', address6: '', ...typed })

describe('the mode of a port as it is typed', () => {
  it('has a VLAN of IEEE 802.1Q on an access port: 1 to 4094', () => {
    expect(of({ vlan: '1' })).toEqual({ mode: 'access', vlan: 1 })
    expect(of({ vlan: '4094' })).toEqual({ mode: 'access', vlan: 4094 })
    for (const vlan of ['', '0', '4095', '10.5', 'ten']) expect(of({ vlan }), vlan).toBeNull()
  })
  it('has a native VLAN on a trunk or none, and the tagged ones', () => {
    expect(of({ mode: 'trunk', tagged: '10-12, 20' })).toEqual({
      mode: 'trunk',
      native: null,
      tagged: [10, 11, 12, 20],
    })
    expect(of({ mode: 'trunk', vlan: '99', tagged: '10' })).toMatchObject({ native: 99 })
    expect(of({ mode: 'trunk', vlan: '5000', tagged: '10' })).toBeNull()
    expect(of({ mode: 'trunk', tagged: '12-' })).toBeNull()
    expect(of({ mode: 'trunk', tagged: '4090-4095' })).toBeNull()
    // One span written a hundred thousand times is refused, not written out.
    expect(of({ mode: 'trunk', tagged: '1-4094,'.repeat(100_000) })).toBeNull()
  })
  it('has an address with its length on a routed port, and one of IPv6 or none', () => {
    expect(of({ mode: 'routed', address: '10.0.0.1/30' })).toMatchObject({ address6: null })
    expect(of({ mode: 'routed', address: '10.0.0.1/30', address6: 'fd00::1/64' })).toMatchObject({
      address6: 'fd00::1/64',
    })
    expect(of({ mode: 'routed', address: '10.0.0.1' })).toBeNull()
    expect(of({ mode: 'routed', address: '10.0.0.1/30', address6: 'fd00::1' })).toBeNull()
  })
  it('has nothing more on a port to a provider, or one that is off', () => {
    expect(of({ mode: 'wan', vlan: 'x' })).toEqual({ mode: 'wan' })
    expect(of({ mode: 'off' })).toEqual({ mode: 'off' })
  })
})
