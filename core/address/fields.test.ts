import { describe, expect, it } from 'vitest'
import { fieldsFault } from './fields'

const fields = (address: string, mask: string, gateway: string) => ({ address, mask, gateway })

describe('address, mask and gateway of a device’s own page', () => {
  it.each([
    ['as they should be', '10.0.0.2', '255.255.255.0', '10.0.0.1', null],
    ['nothing filled in', '', '', '', null],
    ['no gateway', '10.0.0.2', '255.255.255.0', '0.0.0.0', null],
    ['an address alone', '10.0.0.2', '', '', null],
    ['mask and gateway in each other’s field', '10.0.0.2', '10.0.0.1', '255.255.255.0', 'swapped'],
    ['the mask twice', '10.0.0.2', '255.255.255.0', '255.255.255.0', 'swapped'],
    ['the gateway twice', '10.0.0.2', '10.0.0.1', '10.0.0.1', 'swapped'],
    ['the mask as address', '255.255.0.0', '', '', 'swapped'],
    ['a length for the mask', '10.0.0.2', '24', '10.0.0.1', 'not-a-mask'],
    ['a name for the gateway', '10.0.0.2', '255.255.255.0', 'router', 'not-an-address'],
    ['a gateway in the next subnet', '10.0.0.2', '255.255.255.0', '10.0.1.1', 'outside'],
    ['a mask that just takes it in', '10.0.0.2', '255.255.254.0', '10.0.1.1', null],
    ['itself as its gateway', '10.0.0.2', '255.255.255.0', '10.0.0.2', 'itself'],
  ])('%s', (_, address, mask, gateway, fault) => {
    expect(fieldsFault(fields(address, mask, gateway))).toBe(fault)
  })
})
