import { describe, expect, it } from 'vitest'
import type { DeviceId } from '#core/schema'
import { device, draft } from '#server/demo/build'
import { base } from '../../tests/plans'
import { BLANK_RADIO, radioBetween } from '.'

const [NORTH, SOUTH] = ['north' as DeviceId, 'south' as DeviceId]
/** Settings between two bridges of these models. */
const between = (one: string, other: string) => {
  const plan = draft(base())
  const bridge = (id: string, model: string) =>
    device(id, id, 'bridge-radio', model, 'mast', 'management', [])
  plan.devices.push(bridge(NORTH, one), bridge(SOUTH, other))
  return radioBetween(plan, NORTH, SOUTH)
}

describe('a new radio link', () => {
  it('is set as both models are shipped; frequency and heights stay to be said', () => {
    expect(between('B60', 'B60')).toMatchObject({
      mhz: null,
      widthMhz: 2160,
      generation: 'ad',
      streams: 1,
      ends: { a: { antennaM: null, powerDbm: 10, gainDbi: 38, feederDb: 0 } },
    })
  })
  it('takes of models that differ what they agree on, and each end from its own', () => {
    const mixed = between('B5', 'B5P')
    expect(mixed).toMatchObject({ generation: 'ac', streams: 2, widthMhz: 40 })
    expect(mixed.ends.a.gainDbi).not.toBe(mixed.ends.b.gainDbi)
    expect(between('B5', 'B60')).toMatchObject({ generation: null, streams: null, widthMhz: null })
  })
  it('says nothing of a model that nobody knows', () => {
    expect(between('', 'no such model')).toEqual(BLANK_RADIO)
    expect(between('', 'B60').ends).toMatchObject({ a: BLANK_RADIO.ends.a, b: { gainDbi: 38 } })
  })
})
