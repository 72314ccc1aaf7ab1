import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { parseApn, parseSim, luhn } from '.'
import { signalOf } from '#core/queries'

describe('numbers of SIMs', () => {
  // The worked example of the usual descriptions of the formula of ISO/IEC 7812-1 annex B, from memory.
  it('check by the last digit', () => {
    expect(luhn('79927398713')).toBe(0)
    expect([0, 1, 2, 4, 5, 6, 7, 8, 9].map((d) => luhn(`7992739871${d}`))).not.toContain(0)
  })
  it('are refused with one digit mistyped, and with two neighbours swapped unless they are 0 and 9', () => {
    const sim = fc.array(fc.nat(9), { minLength: 16, maxLength: 16 }).map((digits) => {
      const body = `89${digits.join('')}`
      return [...Array(10).keys()].map((c) => `${body}${c}`).find((whole) => luhn(whole) === 0) as string
    })
    fc.assert(
      fc.property(sim, fc.nat(15), fc.integer({ min: 1, max: 9 }), (whole, at, by) => {
        const i = at + 2
        expect(parseSim(whole)).toEqual({ ok: true, value: whole })
        const typed = `${whole.slice(0, i)}${(Number(whole[i]) + by) % 10}${whole.slice(i + 1)}`
        expect(parseSim(typed)).toMatchObject({ ok: false, problems: [{ code: 'wrong-check' }] })
        const [first = '', second = ''] = [whole[i], whole[i + 1]]
        const blind = first === second || [first, second].sort().join('') === '09'
        expect(parseSim(`${whole.slice(0, i)}${second}${first}${whole.slice(i + 2)}`).ok).toBe(blind)
      }),
    )
  })
  it('are read with spaces, and are 18 to 20 digits that begin with 89', () => {
    expect(parseSim('8999 9010 0000 0004 213')).toEqual({ ok: true, value: '8999901000000004213' })
    for (const text of ['', '8999', '7999901000000004213', '899990100000000421300', '89999o1000000004213'])
      expect(parseSim(text), text).toMatchObject({ ok: false, problems: [{ code: 'not-a-sim' }] })
  })
})

describe('access point names', () => {
  // 3GPP TS 23.003 section 9.1.1: labels as of RFC 1035; not beginning with rac, lac, sgsn or rnc, not ending
  // in .gprs; 100 octets in all.
  it('are labels that networks do not keep for themselves', () => {
    for (const text of ['internet', 'fixed.fairweather.example', 'a1-b', 'internet.mnc012.mcc345.gprs'])
      expect(parseApn(text), text).toEqual({ ok: true, value: text })
    for (const text of [
      '',
      'a b',
      '-a',
      'a-',
      'a..b',
      'rac1.example',
      'LAC',
      'sgsn',
      'rnc.x',
      'internet.gprs',
      `${'a'.repeat(64)}`,
      Array(21).fill('abcde').join('.'),
    ])
      expect(parseApn(text).ok, text).toBe(false)
  })
  // 3GPP TS 23.003 section 9.1.1: a network identifier has 63 octets at most, with the length before each label.
  it.each([
    [62, '', true],
    [63, '', false],
    [62, '.mnc012.mcc345.gprs', true],
    [63, '.mnc012.mcc345.gprs', false],
  ])('of %i characters before %j: %s', (length, rest, fits) => {
    const labels = `${'a'.repeat(30)}.${'b'.repeat(length - 31)}`
    expect(parseApn(`${labels}${rest}`).ok).toBe(fits)
  })
})

describe('the signal', () => {
  it('is as good as its worse half', () => {
    expect(signalOf({ rsrpDbm: null, sinrDb: null })).toBeNull()
    expect(signalOf({ rsrpDbm: -95, sinrDb: 15 })).toBe('fair')
    expect(signalOf({ rsrpDbm: -80, sinrDb: 20 })).toBe('strong')
    expect(signalOf({ rsrpDbm: -81, sinrDb: null })).toBe('good')
    expect(signalOf({ rsrpDbm: null, sinrDb: -1 })).toBe('weak')
    expect(signalOf({ rsrpDbm: -101, sinrDb: 25 })).toBe('weak')
  })
})
