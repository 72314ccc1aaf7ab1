import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { isPassphrase } from '#core/format'
import type { Ssid } from '#core/schema'
import { gullhavenPlan } from '#server/demo/gullhaven'
import { hasPassphrase, joinText, judgedPassphrase } from './passphrase'

const ssid = (name: string, settings: Partial<Ssid['settings']>): Ssid => {
  const [first] = gullhavenPlan().ssids
  if (!first) throw new Error('the demo has SSIDs')
  return { ...first, name, settings: { ...first.settings, ...settings } }
}

/** As a telephone reads it: fields between semicolons that no backslash stands before. */
function readBack(text: string): Record<string, string> {
  const body = text.replace(/^WIFI:/, '').replace(/;;$/, ';')
  const fields = [...body.matchAll(/([A-Z]):((?:\\.|[^\\;])*);/g)]
  return Object.fromEntries(fields.map(([, key = '', value = '']) => [key, value.replaceAll(/\\(.)/g, '$1')]))
}

describe('a passphrase', () => {
  it('has 8 to 63 characters of ASCII (IEEE 802.11, J.4.1)', () => {
    expect(['1234567', 'a'.repeat(64), 'pässphrase', 'two\nlines', ''].filter(isPassphrase)).toEqual([])
    const right = ['12345678', 'a'.repeat(63), ' ~~~~~~ ']
    expect(right.filter(isPassphrase)).toEqual(right)
  })
  it('is fine from 14 characters on, where a million tries a second take a year', () => {
    // A year has 31,557,600 s of 365.25 days.
    expect(judgedPassphrase('a'.repeat(14), 31_557_600e6)).toMatchObject({ isFine: true, isShort: false })
    expect(judgedPassphrase('a'.repeat(14), 31_557_599e6)).toMatchObject({ isFine: false, isShort: false })
    expect(judgedPassphrase('a'.repeat(13), 1e30)).toMatchObject({ isFine: false, isShort: true })
    expect(judgedPassphrase('harbour', 5e6).guessedAfterS).toBe(5)
  })
  it('is asked for where stations share one', () => {
    const has = (security: Ssid['settings']['security']) => hasPassphrase(ssid('Net', { security }))
    expect((['wpa2', 'wpa2-wpa3', 'wpa3'] as const).map(has)).toEqual([true, true, true])
    expect(([null, 'open', 'owe', 'enterprise'] as const).map(has)).toEqual([false, false, false, false])
  })
})

describe('the code by which a telephone joins', () => {
  it('names network, passphrase and that it is hidden', () => {
    expect(joinText(ssid('Quay', { security: 'wpa2' }), 'salt and rope')).toBe(
      'WIFI:T:WPA;S:Quay;P:salt and rope;;',
    )
    expect(joinText(ssid('Quay', { security: 'open', hidden: true }), '')).toBe(
      'WIFI:T:nopass;S:Quay;H:true;;',
    )
  })
  it('is none where a certificate or a name of one’s own is asked for, or nothing is known', () => {
    expect(joinText(ssid('Quay', { security: 'enterprise' }), 'whatever')).toBeNull()
    expect(joinText(ssid('Quay', { security: null }), 'whatever')).toBeNull()
    expect(joinText(ssid('Quay', { security: 'wpa3' }), '')).toBeNull()
  })
  it('reads back as it was, whatever letters stand in it', () => {
    const letters = fc.string({ minLength: 1, maxLength: 32, unit: fc.constantFrom(...'ab\\;,:"S P{}') })
    fc.assert(
      fc.property(letters, letters, fc.boolean(), (name, passphrase, hidden) => {
        const text = joinText(ssid(name, { security: 'wpa2-wpa3', hidden }), passphrase)
        expect(readBack(text ?? '')).toEqual({
          T: 'WPA',
          S: name,
          P: passphrase,
          ...(hidden ? { H: 'true' } : {}),
        })
      }),
    )
  })
})
