import { describe, expect, it } from 'vitest'
import { analyse } from '#core/findings'
import { indexPlan } from '#core/queries'
import { gullhavenClean } from '#server/demo/gullhaven'
import type { LoosePlan } from '../plans'
import { gridText, gridTyped, positionText, positionTyped } from '~/features/brief/position'
import { beamPath, floorScale, levelLines, nextPlace, snapped } from '~/features/wifi/floor-picture'
import {
  bandsTyped,
  beamText,
  beamTyped,
  hoursText,
  hoursTyped,
  placeTyped,
  sizeTyped,
  wallsText,
  wallsTyped,
} from '~/features/wifi/typed'
import {
  permittedWords,
  rateWords,
  reasonWords,
  rulesWords,
  servedWords,
  signalWords,
} from '~/features/wifi/words'
import { aimWords, distanceWords } from '~/features/bridges/words'
import { byRulesWords, onAirWords } from '~/features/wifi/kept-apart-words'
import { guessesOf } from '#contracts/guesses'
import { extenderWords, verdictWords } from '~/features/wifi/words'

const read = <Value>(
  result: { ok: true; value: Value } | { ok: false; problems: readonly { code: string }[] },
) => (result.ok ? result.value : result.problems.map(({ code }) => code))

describe('what is typed of a room', () => {
  it.each([
    ['12 x 7', { widthM: 12, depthM: 7 }],
    ['12×7.5', { widthM: 12, depthM: 7.5 }],
    ['4.25 by 3', { widthM: 4.25, depthM: 3 }],
    ['', null],
    ['0.4 x 3', ['not-a-size']],
    ['12 x 501', ['not-a-size']],
    ['12', ['not-a-size']],
    ['-3 x 4', ['not-a-size']],
    ['16 by 9 steps', { widthM: 12, depthM: 6.75 }],
    ['12 by 7', { widthM: 12, depthM: 7 }],
    ['16 steps', ['not-a-size']],
  ])('as a size, %s', (text, size) => {
    expect(read(sizeTyped(text))).toEqual(size)
  })
  it.each([
    ['4, 2.5', { xM: 4, yM: 2.5 }],
    ['0;0', { xM: 0, yM: 0 }],
    ['4 2', ['not-a-place']],
    ['-1, 2', ['not-a-place']],
  ])('as a place, %s', (text, place) => {
    expect(read(placeTyped(text))).toEqual(place)
  })
  it('one material is for all walls, four go round from the top', () => {
    expect(read(wallsTyped('Brick'))).toEqual({
      top: 'brick',
      right: 'brick',
      bottom: 'brick',
      left: 'brick',
    })
    const four = { top: 'brick', right: 'glass', bottom: 'open', left: 'wood' } as const
    expect(read(wallsTyped('brick, glass, open, wood'))).toEqual(four)
    expect(wallsText(four)).toBe('brick, glass, open, wood')
    expect(wallsText({ ...four, right: 'brick', bottom: 'brick', left: 'brick' })).toBe('brick')
    expect([read(wallsTyped('straw')), read(wallsTyped('brick, glass'))]).toEqual([
      ['not-walls'],
      ['not-walls'],
    ])
  })
  it('bands are those there are, each once', () => {
    expect(read(bandsTyped('5, 2.4'))).toEqual(['2.4', '5'])
    expect([read(bandsTyped('')), read(bandsTyped('60'))]).toEqual([['not-a-choice'], ['not-a-choice']])
  })
})

describe('a position', () => {
  it.each([
    ['57.1234, -2.5', { latDeg: 57.1234, lonDeg: -2.5 }],
    ['57.1234° N, 2.5° W', { latDeg: 57.1234, lonDeg: -2.5 }],
    ['33.5 S 151 E', { latDeg: -33.5, lonDeg: 151 }],
    ['−33.5, 151', { latDeg: -33.5, lonDeg: 151 }],
    ['91, 0', ['not-a-position']],
    ['0, 181', ['not-a-position']],
    ['57.1234', ['not-a-position']],
    ['here', ['not-a-position']],
    ['', null],
  ])('is read from %s', (text, position) => {
    expect(read(positionTyped(text))).toEqual(position)
  })
  it('is shown so that it can be typed again', () => {
    const position = { latDeg: -33.5, lonDeg: 151.25 }
    expect(read(positionTyped(positionText(position)))).toEqual(position)
    expect(positionText(null)).toBe('—')
  })
})

describe('a drawn floor', () => {
  const scale = floorScale(20, 10)
  it('is as large as fits, and a small one no larger than 60 units for a metre', () => {
    expect(scale.width).toBe(960)
    expect(scale.at(20) - scale.at(0)).toBeLessThanOrEqual(960 - 28)
    expect(scale.at(10)).toBeLessThanOrEqual(scale.height)
    expect(floorScale(1, 1).unit).toBe(60)
  })
  it('has a line around what is loud enough, at the squares where that ends', () => {
    // Four columns of two rows: -50, -50, -70, -70.
    const levelsDbm = [-50, -50, -70, -70, -50, -50, -70, -70]
    const lines = levelLines({ columns: 4, rows: 2, stepM: 5, levelsDbm }, scale)
    expect(lines.map(({ dBm }) => dBm)).toEqual([-75, -65, -55])
    const xs = (path: string) => [...path.matchAll(/[ML]([\d.]+) /g)].map(([, x]) => Number(x))
    // -55 is crossed a quarter of the way from the middle of the second column, 7.5 m, to that of the third.
    expect(Math.max(...xs(lines[2]?.path ?? ''))).toBeCloseTo(scale.at(7.5 + 5 / 4), 0)
    expect(Math.max(...xs(lines[1]?.path ?? ''))).toBeCloseTo(scale.at(7.5 + (5 * 3) / 4), 0)
    expect(levelLines({ columns: 1, rows: 1, stepM: 1, levelsDbm: [-Infinity] }, scale)[0]?.path).toBe('')
  })
  it('draws a beam as its axis and its edges, clockwise from the top', () => {
    const beam = { azimuthDeg: 90, widthDeg: 90, tiltDeg: 0 }
    const [axis, left, right] = beamPath({ xM: 5, yM: 5 }, beam, scale).split('M').slice(1)
    const point = (ray = '') => (ray.split('L')[1] ?? '').split(' ').map(Number)
    const at = (xM: number, yM: number) => [xM, yM].map((metres) => expect.closeTo(scale.at(metres), 0))
    // Eastwards 3 m; north-east and south-east half as far.
    expect(point(axis)).toEqual(at(8, 5))
    expect(point(left)).toEqual(at(5 + 1.5 * Math.SQRT1_2, 5 - 1.5 * Math.SQRT1_2))
    expect(point(right)).toEqual(at(5 + 1.5 * Math.SQRT1_2, 5 + 1.5 * Math.SQRT1_2))
  })
  it('takes the next room beside the last, and moves by half metres within the paper', () => {
    const walls = { top: 'brick', right: 'brick', bottom: 'brick', left: 'brick' } as const
    expect(nextPlace([])).toEqual({ xM: 0, yM: 0 })
    expect(nextPlace([{ floor: 0, xM: 3, yM: 2, widthM: 4, depthM: 2, walls }])).toEqual({ xM: 7, yM: 0 })
    expect([snapped(2.26), snapped(-1), snapped(0.2)]).toEqual([2.5, 0, 0])
  })
})

describe('words of Wi-Fi', () => {
  it('tell a level in dBm and percent: 70 % is −65 dBm, 50 % is −75 (common practice)', () => {
    expect(signalWords(-65)).toBe('−65 dBm, 70 %')
    expect(signalWords(-75)).toBe('−75 dBm, 50 %')
    expect([signalWords(-30), signalWords(-110), signalWords(null)]).toEqual([
      '−30 dBm, 100 %',
      '−110 dBm, 0 %',
      '—',
    ])
    expect([-65, -65.1, -75, -75.1, null].map(servedWords)).toEqual([
      'served well',
      'weak',
      'weak',
      'not served',
      'nothing sends',
    ])
    expect([rateWords(0), rateWords(143.4)]).toEqual(['none', '143 Mb/s'])
  })
  const radio = { channel: 36 } as Parameters<typeof permittedWords>[0]
  const permission = { eirpDbm: 23.01, dfs: true, indoorOnly: true }
  it('never call right what cannot be judged', () => {
    expect(permittedWords({ ...radio, channel: null }, null, 'GB', 20)).toBe('the device chooses')
    expect(permittedWords(radio, null, '', 20)).toBe('country not set')
    expect(permittedWords(radio, null, 'XG', 20)).toBe('not in the data')
    expect(rulesWords('')).toContain('nothing legal is computed')
    expect(rulesWords('XG')).toContain('nothing legal is computed')
    expect(rulesWords('GB')).toMatch(/^Permitted in GB as of .*Check the local rule\.$/)
  })
  it('tell what is permitted, and its cautions', () => {
    expect(permittedWords(radio, { trouble: null, permission }, 'GB', 20)).toBe(
      'up to 23 dBm EIRP, indoors only, looks for radar (DFS)',
    )
    expect(permittedWords(radio, { trouble: 'too-strong', permission }, 'GB', 24)).toBe(
      'too strong: 24 dBm EIRP, 23 permitted',
    )
  })
  it('tell who is heard on a channel, and where it would be quieter or louder', () => {
    expect(
      reasonWords(
        [
          [1, null],
          [6, -60],
        ],
        1,
      ),
    ).toBe('nobody heard')
    expect(
      reasonWords(
        [
          [1, -50],
          [6, null],
        ],
        1,
      ),
    ).toBe('one at −50 dBm; nobody on 6')
    expect(
      reasonWords(
        [
          [1, -80],
          [6, -60],
          [11, -70],
        ],
        1,
      ),
    ).toBe('one at −80 dBm; louder: 6 at −60 dBm, 11 at −70 dBm')
    expect(reasonWords([], null)).toBe('the device chooses, on site')
  })
})

describe('words of aiming', () => {
  const names = ['Shore', 'Rock'] as const
  it('have bearings where positions are known, and the compass where a model says', () => {
    expect(aimWords(names, [0, -0.51], null)).toBe(
      'Shore level from the horizon; Rock 0.5° down from the horizon.',
    )
    expect(aimWords(names, [0, 0], { trueDeg: [235.04, 55], compassDeg: [241, 61.2] })).toBe(
      'Shore 235.0° true, 241.0° by the compass today, level from the horizon; ' +
        'Rock 55.0° true, 61.2° by the compass today, level from the horizon.',
    )
    expect(aimWords(names, [0, 0], { trueDeg: [1, 2], compassDeg: null })).not.toContain('compass')
  })
  it('tell of a distance that is another than between the positions', () => {
    expect([distanceWords(3400, 3401), distanceWords(3400, 3434), distanceWords(100, 119)]).toEqual([
      '',
      '',
      '',
    ])
    expect(distanceWords(3400, 3500)).toBe('By their positions the ends are 3,500 m apart; 3,400 m is typed.')
    expect(distanceWords(0, 3500)).toContain('no distance is typed')
  })
})

describe('how hard a passphrase is to guess', () => {
  it('is told as a time, and what stands on the air is known to all', () => {
    const told = (guessedAfterS: number) => verdictWords({ isFine: false, isShort: false, guessedAfterS })
    expect(told(59)).toBe('At a million tries a second it is guessed within a minute.')
    expect(told(60)).toContain('after about 1 minute.')
    expect(told(86_400 * 12.6)).toContain('after about 12 days.')
    expect(told(31_557_600 * 2e6)).toContain('after more than a million years.')
    expect(verdictWords({ isFine: false, isShort: true, guessedAfterS: 1 })).toContain('Shorter than 14')
    const known = ['Gullhaven Tidal Observatory', 'Tidewater']
    expect(guessesOf('gullhaven1', known)).toBeLessThan(guessesOf('gullhaven1', []))
    expect(guessesOf('password', [])).toBeLessThan(1000)
    expect(guessesOf('k7mq-3xwp-9hdc-vt2n', known)).toBeGreaterThan(1e15)
  })
})

describe('what is said of an extender', () => {
  const EXTENDER = {
    deviceId: 'e' as never,
    name: 'E',
    radios: null,
    mode: 'repeater',
    isExtender: true,
    ssidId: null,
    linkId: null,
  } as const
  const from = { id: 'ap' as never, name: 'Hall AP', isExtender: false }
  const hears = (levelDbm: number) => ({
    levelDbm,
    oneRadioMbps: 50,
    twoRadiosMbps: 100,
    cabledMbps: 300,
    powerLineMbps: 100,
  })
  const said = (change: object, isPlaced = true) =>
    extenderWords({ ...EXTENDER, from, heard: hears(-60), better: null, ...change }, isPlaced)
  it('is how it hangs, and never that it hangs well where that is not known', () => {
    expect(said({})).toBe('hears enough')
    expect(said({ heard: hears(-67.5) })).toBe('hears enough')
    expect(said({ heard: hears(-67.6) })).toBe('too little')
    expect(said({ heard: null })).toContain('not judged')
    expect(said({ heard: null }, false)).toContain('no drawn room')
    expect(said({ from: null })).toContain('joined to nothing')
    expect(said({ from: { ...from, isExtender: true } })).toContain('behind another extender')
  })
})

describe('a place on a grid', () => {
  it('is metres to the east and to the north, written back as it is read', () => {
    for (const text of ['120, -40', '120; −40', '120 -40', '+120, -40.00'])
      expect(gridTyped(text)).toEqual({ ok: true, value: { eastM: 120, northM: -40 } })
    expect(gridText({ eastM: 120, northM: -40 })).toBe('120, −40')
    for (const text of ['', '—', gridText(null)]) expect(gridTyped(text)).toEqual({ ok: true, value: null })
    for (const text of ['120', '120,', 'a, b', '200001, 0', '1, 2, 3'])
      expect(gridTyped(text)).toMatchObject({ ok: false, problems: [{ code: 'not-on-grid' }] })
  })
})

describe('what is typed of how something is sent', () => {
  it('is a beam as azimuth, width and tilt, or all around', () => {
    const beam = { azimuthDeg: 90, widthDeg: 70, tiltDeg: -10 }
    for (const text of ['90, 70, -10', '90°, 70°, −10°', beamText(beam)])
      expect(beamTyped(text)).toEqual({ ok: true, value: beam })
    expect(beamTyped('0; 5')).toEqual({ ok: true, value: { azimuthDeg: 0, widthDeg: 5, tiltDeg: 0 } })
    for (const text of ['', '—', beamText(null)]) expect(beamTyped(text)).toEqual({ ok: true, value: null })
    for (const text of ['360, 70', '90, 4', '90, 181', '90, 70, 91', '90', 'north, 70', '-1, 70'])
      expect(beamTyped(text)).toMatchObject({ ok: false, problems: [{ code: 'not-a-beam' }] })
  })
  it('are hours, or always', () => {
    const hours = { from: '07:00', to: '22:30' }
    for (const text of ['7:00-22:30', '07:00 to 22:30', hoursText(hours)])
      expect(hoursTyped(text)).toEqual({ ok: true, value: hours })
    for (const text of ['', 'always', hoursText(null)])
      expect(hoursTyped(text)).toEqual({ ok: true, value: null })
    for (const text of ['7-22', '25:00 to 26:00', '07:00 to 07:00', 'mornings'])
      expect(hoursTyped(text)).toMatchObject({ ok: false, problems: [{ code: 'not-hours' }] })
  })
})

describe('what is kept apart', () => {
  const demo = gullhavenClean()
  const { grid } = analyse(indexPlan(demo), [])
  const said = (change: (plan: LoosePlan) => void, name: string): readonly string[] => {
    const plan = structuredClone(demo) as LoosePlan
    change(plan)
    const index = indexPlan(plan)
    const one = plan.ssids.find((ssid) => ssid.name === name)
    if (!one) throw new Error(`no SSID ${name}`)
    return [onAirWords(one, index), byRulesWords(one, index, grid)]
  }
  const guests = demo.ssids.find(({ isolation }) => isolation)?.name ?? ''
  it('is told of the air and of the rules, each by itself', () => {
    const [air = '', rules = ''] = said(() => undefined, guests)
    expect(air).toMatch(/^kept apart/)
    expect(rules).toMatch(/^kept out of every other network/)
    const [open] = said(({ ssids }) => ssids.forEach((ssid) => void (ssid.isolation = false)), guests)
    expect(open).toBe('open: stations reach each other')
    const [none] = said(({ ssids }) => ssids.forEach((ssid) => void (ssid.apIds = [])), guests)
    expect(none).toBe('nothing sends it')
  })
  it('names the networks that a station gets into, and says nothing of those without hosts', () => {
    const others = demo.ssids
      .filter(({ name }) => name !== guests)
      .map(({ name }) => said(() => undefined, name)[1])
    expect(others.some((words) => words?.startsWith('open: '))).toBe(true)
    const empty = { ...grid, cells: grid.cells.map((cell) => ({ ...cell, isEmpty: true })) }
    const [one] = demo.ssids
    expect(one && byRulesWords(one, indexPlan(demo), empty)).toBe('nobody there yet')
  })
})
