import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { earthBulgeM, fresnelRadiusM, K_USUAL, radioLinks, raisesM, type RadioLink } from '#core/radio'
import { indexPlan } from '#core/queries'
import { gullhavenPlan } from '#server/demo/gullhaven'
import { gainTyped, rainTyped } from '~/features/bridges/typed'
import { profileShape, VIEW } from '~/features/bridges/profile-shape'
import { verdictsOf } from '~/features/bridges/verdict-words'
import { tiltWords, unsaidWords } from '~/features/bridges/words'

/** Of no end it is known how fast its wire is. */
const UNWIRED = [null, null]
type Computed = NonNullable<RadioLink['path']>
const skerry = (): { link: RadioLink; path: Computed } => {
  const [link] = radioLinks(indexPlan(gullhavenPlan()))
  if (!link?.path) throw new Error('the demo has a radio link')
  return { link, path: link.path }
}
const zoneOf = (change: Partial<Computed>) => {
  const { link, path } = skerry()
  return verdictsOf(link, { ...path, ...change }, 'GB', UNWIRED).find(({ key }) => key === 'zone')
}

describe('what is said of a radio link', () => {
  it('is how much of the zone is free, and how high an antenna would have to be', () => {
    const zone = zoneOf({})
    expect(zone?.isFine).toBe(false)
    const [, free, , higherA, higherB] =
      /^(\d+) % free at ([\d,]+) m, 60 % is wanted: .* end A ([\d.]+) m higher, or .* end B ([\d.]+) m\.$/.exec(
        zone?.text ?? '',
      ) ?? []
    // From first principles: the line at 2,350 m, less the earth, the rock and the beacon on it.
    const lineM = 14 - (5 * 2350) / 3400
    const radiusM = fresnelRadiusM(5600, 2.35, 1.05)
    const freeM = lineM - earthBulgeM(2.35, 1.05, K_USUAL) - 7.5
    expect(Number(free)).toBe(Math.round((100 * freeM) / radiusM))
    const lacksM = 0.6 * radiusM - freeM
    expect(Number(higherA)).toBe(Math.ceil((10 * lacksM * 3400) / 1050) / 10)
    expect(Number(higherB)).toBe(Math.ceil((10 * lacksM * 3400) / 2350) / 10)
  })
  it('is fine once either antenna is as much higher as was said, whatever was surveyed', () => {
    const point = fc.record({
      atM: fc.integer({ min: 1, max: 3399 }),
      groundM: fc.integer({ min: 0, max: 6 }),
      obstacleM: fc.nat(20),
      growsM: fc.constant(0),
    })
    fc.assert(
      fc.property(fc.array(point, { minLength: 1, maxLength: 6 }), (points) => {
        const [first, second] = raisesM({ ...skerry().path, points })
        for (const antennasM of [[14 + first, 9] as const, [14, 9 + second] as const])
          expect(zoneOf({ points, antennasM })?.text).not.toContain('is wanted')
      }),
    )
    const said = Number(/end B ([\d.]+) m\.$/.exec(zoneOf({})?.text ?? '')?.[1])
    expect(zoneOf({ antennasM: [14, 9 + said] })).toMatchObject({ isFine: true })
  })
  it('is not called fine where nothing was surveyed, nor without a word on rain', () => {
    expect(zoneOf({ points: [] })).toMatchObject({
      isFine: false,
      text: expect.stringContaining('Not judged'),
    })
    const { link, path } = skerry()
    expect(verdictsOf(link, path, 'GB', UNWIRED).filter(({ isFine }) => isFine)).toHaveLength(4)
    expect(verdictsOf(link, { ...path, points: [] }, 'GB', UNWIRED).filter(({ isFine }) => isFine)).toEqual(
      [],
    )
    const dry = { ...link, settings: { ...link.settings, rainMmPerHour: null } }
    expect(verdictsOf(dry, path, 'GB', UNWIRED).filter(({ key }) => key.startsWith('level'))).toMatchObject([
      { isFine: false, text: expect.stringContaining('Rain is not said') },
      { isFine: false },
    ])
    const strict = { ...link, settings: { ...link.settings, marginDb: 60 } }
    expect(verdictsOf(strict, path, 'GB', UNWIRED)[0]).toMatchObject({
      isFine: false,
      text: expect.stringContaining('less than 60 dB to spare even for the slowest rate'),
    })
  })
  it('is how much of the year it stands, with what is not known told', () => {
    const { link, path } = skerry()
    const stands = (change: Partial<typeof path>, rainMmPerHour = link.settings.rainMmPerHour) =>
      verdictsOf(
        { ...link, settings: { ...link.settings, rainMmPerHour } },
        { ...path, ...change },
        'GB',
        UNWIRED,
      ).find(({ key }) => key === 'availability')
    expect(stands({})).toMatchObject({
      isFine: true,
      text: expect.stringMatching(/^100\.000 % of the year\. Rain takes less than a minute a year\./),
    })
    expect(stands({ mhz: 60_000, rainMmPerHour: 60 })).toMatchObject({
      isFine: false,
      text: expect.stringMatching(/Rain takes about \d+ h a year/),
    })
    expect(stands({ rainMmPerHour: 0 }, null)).toMatchObject({
      isFine: false,
      text: expect.stringMatching(/^Rain is not said\. Not judged in rain\./),
    })
  })
  it('is what it carries, against what is needed, and nothing is fine of radios that are not said', () => {
    const { link, path } = skerry()
    const rate = (change: Partial<RadioLink['settings']>) =>
      verdictsOf({ ...link, settings: { ...link.settings, ...change } }, path, 'GB', UNWIRED).find(
        ({ key }) => key === 'rate',
      )
    expect(rate({})).toMatchObject({ isFine: true, text: expect.stringMatching(/^about \d+ Mb\/s for both/) })
    expect(rate({ neededMbps: 1000 })).toMatchObject({
      isFine: false,
      text: expect.stringContaining('1,000 Mb/s needed'),
    })
    expect(rate({ streams: null })).toMatchObject({ isFine: false, text: 'Not computed, not said: streams.' })
    expect(rate({ streams: null, generation: null })?.text).toContain('not said: 802.11 and streams')
    expect(rate({ streams: 2, generation: 'ad', widthMhz: 2160 })?.text).toContain(
      '802.11ad sends 1 stream at most',
    )
    expect(rate({ streams: 1, generation: 'ad', widthMhz: 2160 })?.text).toMatch(/ for both|^nothing/)
    expect(rate({ marginDb: 60 })).toMatchObject({ isFine: false, text: expect.stringMatching(/^nothing/) })
  })
  it('is what its wires take of it, and that an older radio knows no channel so wide', () => {
    const { link, path } = skerry()
    const rate = (wires: Parameters<typeof verdictsOf>[3], settings = link.settings) =>
      verdictsOf({ ...link, settings }, path, 'GB', wires).find(({ key }) => key === 'rate')
    expect(rate(UNWIRED)?.text).toContain('The wires behind it are not known.')
    expect(rate([{ mbps: 1000, byOwnPort: false }, null])).toMatchObject({
      isFine: true,
      text: expect.stringContaining(`By wire 1,000 Mb/s at ${link.names[0]}.`),
    })
    expect(rate([null, { mbps: 10, byOwnPort: true }])).toMatchObject({
      isFine: false,
      text: expect.stringContaining(`By wire 10 Mb/s at ${link.names[1]}, as fast as its own port.`),
    })
    expect(rate(UNWIRED, { ...link.settings, generation: 'ad' })).toMatchObject({
      isFine: false,
      text: 'Not computed, 802.11ad knows no channel of 40 MHz.',
    })
  })
  it('is permitted as its country says, and not judged without one', () => {
    const { link, path } = skerry()
    const rule = (country: string, power = 13) => {
      const ends = [
        { ...path.ends[0], powerDbm: power },
        { ...path.ends[1], powerDbm: power },
      ] as const
      return verdictsOf(link, { ...path, ends }, country, UNWIRED).find(({ key }) => key === 'rule')
    }
    // 13 dBm, 23 dBi and 0.5 dB of cable; wireless-regdb permits 26.98 dBm on 5,580 to 5,620 MHz in Great Britain.
    expect(rule('GB')).toMatchObject({
      isFine: false,
      text: expect.stringMatching(/^35\.5 dBm EIRP, 27\.0 at most, looks for radar \(DFS\), in GB as of/),
    })
    expect(rule('GB', 4)).toMatchObject({ isFine: true })
    for (const country of ['', 'XG'])
      expect(rule(country, 4)).toMatchObject({ isFine: false, text: expect.stringContaining('Not judged') })
  })
  it('takes a dish by its diameter once the frequency is said', () => {
    expect(gainTyped('23', null)).toEqual({ ok: true, value: 23 })
    // 0.65 m at 5.8 GHz with 0.6 of its area: 29.7 dBi, from the aperture's formula.
    for (const text of ['0.65 m', '0.65m']) expect(gainTyped(text, 5800)).toEqual({ ok: true, value: 29.7 })
    expect(gainTyped('0.65 m', null)).toMatchObject({ problems: [{ code: 'no-frequency' }] })
    for (const text of ['65 cm', '9.99 m2', '61']) expect(gainTyped(text, 5800).ok).toBe(false)
  })
  it('takes rain by the letter of a zone (ITU-R P.837-1, from memory)', () => {
    for (const text of ['K', 'k', 'zone K']) expect(rainTyped(text)).toEqual({ ok: true, value: 42 })
    expect([rainTyped('A'), rainTyped('Q'), rainTyped('32.5')]).toMatchObject([
      { value: 8 },
      { value: 115 },
      { value: 32.5 },
    ])
    for (const text of ['I', 'O', 'R'])
      expect(rainTyped(text)).toMatchObject({ problems: [{ code: 'no-rain-zone' }] })
    expect(rainTyped('KK').ok).toBe(false)
  })
  it('names what is still to be said, and where to aim', () => {
    const words = unsaidWords([{ what: 'distance' }, { what: 'gain', end: 'b' }], ['North', 'South'])
    expect(words).toBe('Not computed yet. Still to be said: the distance, gain of the antenna at South.')
    expect([tiltWords(0.04), tiltWords(-0.26), tiltWords(1)]).toEqual(['level', '0.3° down', '1.0° up'])
  })
})

describe('the drawing of a path', () => {
  it('holds everything within its frame, and the line over what stands below it', () => {
    const { path } = skerry()
    const shape = profileShape(path)
    const points = [shape.ground, shape.zone, shape.line]
      .flatMap((outline) => outline.split(' '))
      .map((pair) => pair.split(',').map(Number) as [number, number])
    for (const [x, y] of points) {
      expect(x).toBeGreaterThanOrEqual(VIEW.left - 0.1)
      expect(x).toBeLessThanOrEqual(VIEW.width - VIEW.right + 0.1)
      expect(y).toBeGreaterThanOrEqual(0)
      expect(y).toBeLessThanOrEqual(VIEW.height - VIEW.bottom + 0.1)
    }
    const beacon = shape.obstacles.find(({ x }) => Math.abs(x - shape.across(2350)) < 0.01)
    // Its top is drawn where ground, earth and beacon end.
    expect(beacon?.y).toBeCloseTo(shape.up(7.5 + earthBulgeM(2.35, 1.05, K_USUAL)), 6)
    expect(shape.ends.map(({ topY }) => topY)).toEqual([shape.up(14), shape.up(9)])
  })
})
