import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import { freeSpaceLossDb, mcsOf, rateAt, rateMbps, slabTransmission, wallLossDb } from '#core/radio'
import type { Outline } from '#core/schema'
import { airShares, beaconShare, frameMs } from './airtime'
import { channelSpan, channelsOf, overlap, WIDTHS } from './channels'
import { levelAt, levelGrid, obstaclesOf, roomSignals } from './coverage'
import { wallsOf, type DrawnRoom, type Floor } from './floors'
import { limitOf, type ApRadio } from './radios'
import { hasRules, permissionFor, REGULATORY_DATE } from './regulatory'

const BRICKS = { top: 'brick', right: 'brick', bottom: 'brick', left: 'brick' } as const

describe('channels', () => {
  it.each([
    // IEEE 802.11-2020, 17.3.8.4.2: centre 5,000 + 5 n MHz; annex E, the blocks of 40, 80 and 160 MHz.
    ['5', 36, 20, 5170, 5190],
    ['5', 40, 40, 5170, 5210],
    ['5', 48, 80, 5170, 5250],
    ['5', 64, 160, 5170, 5330],
    ['5', 100, 160, 5490, 5650],
    ['5', 149, 80, 5735, 5815],
    ['5', 165, 20, 5815, 5835],
    ['2.4', 6, 20, 2427, 2447],
    ['2.4', 1, 40, 2402, 2442],
    ['2.4', 11, 40, 2432, 2472],
    // 802.11ax-2021, 27.3.23.2: centre 5,950 + 5 n MHz.
    ['6', 1, 20, 5945, 5965],
    ['6', 233, 20, 7105, 7125],
    ['6', 37, 160, 6105, 6265],
  ] as const)('%s GHz, channel %i in %i MHz is %i to %i', (band, channel, width, fromMhz, toMhz) => {
    expect(channelSpan(band, channel, width)).toEqual({ fromMhz, toMhz })
  })

  it.each([
    ['5', 37, 20],
    ['5', 34, 20],
    ['5', 144, 160],
    ['2.4', 14, 20],
    ['2.4', 6, 80],
    ['6', 2, 20],
    ['6', 233, 40],
  ] as const)('%s GHz has no channel %i in %i MHz', (band, channel, width) => {
    expect(channelSpan(band, channel, width)).toBeNull()
  })

  it('offered at a width do not overlap, and each is there', () => {
    for (const band of ['2.4', '5', '6'] as const)
      for (const width of WIDTHS[band]) {
        const spans = channelsOf(band, width).map((channel) => channelSpan(band, channel, width))
        expect(spans).not.toContain(null)
        if (band === '2.4' && width === 40) continue
        const pairs = spans.flatMap((one, i) =>
          spans.slice(i + 1).map((other) => one && other && overlap(one, other)),
        )
        expect(pairs.every((part) => part === 0)).toBe(true)
      }
    // 5 GHz: 8 channels from 36, 12 from 100, 8 from 149 (802.11-2020, annex E), and what fits of 40, 80, 160 MHz.
    expect([20, 40, 80, 160].map((w) => channelsOf('5', w as 20).length)).toEqual([28, 14, 7, 3])
    expect(channelsOf('6', 320)).toHaveLength(3)
  })

  it('overlap by the part that is taken', () => {
    expect(overlap({ fromMhz: 0, toMhz: 20 }, { fromMhz: 10, toMhz: 50 })).toBe(0.5)
    expect(overlap({ fromMhz: 10, toMhz: 50 }, { fromMhz: 0, toMhz: 20 })).toBe(0.25)
    expect(overlap({ fromMhz: 0, toMhz: 20 }, { fromMhz: 20, toMhz: 40 })).toBe(0)
  })
})

describe('rates on the air', () => {
  it.each([
    // Worked from the standard's carriers and symbol times; 802.11-2020 tables 19-29 and 21-38, 802.11ax 27.5.
    ['n', 20, 1, 7, 65],
    ['ac', 80, 2, 9, 780],
    ['ax', 80, 2, 11, 1201],
    ['be', 320, 2, 13, 5764.7],
    ['ax', 20, 1, 0, 8.6],
  ] as const)(
    '802.11%s in %i MHz, %i streams, MCS %i: %d Mb/s',
    (generation, width, streams, index, mbps) => {
      const mcs = mcsOf(generation)[index]
      expect(mcs && rateMbps(generation, width, streams, mcs)).toBeCloseTo(mbps, 1)
    },
  )
  it('know no width beyond their generation, and fall to nothing below the least level', () => {
    const [slowest] = mcsOf('n')
    expect(slowest && rateMbps('n', 80, 1, slowest)).toBeNull()
    // Least sensitivity of MCS 0 at 20 MHz: -82 dBm; each doubling of the width needs 3 dB more (21.3.18.1).
    expect(rateAt(-82, 0, { generation: 'ax', widthMhz: 20, streams: 1 })).toBeCloseTo(8.6, 1)
    expect(rateAt(-82.1, 0, { generation: 'ax', widthMhz: 20, streams: 1 })).toBe(0)
    expect(rateAt(-79.1, 0, { generation: 'ax', widthMhz: 40, streams: 1 })).toBe(0)
    expect(rateAt(-72, 10, { generation: 'ax', widthMhz: 20, streams: 1 })).toBeCloseTo(8.6, 1)
  })
})

describe('walls', () => {
  const lossless = { a: 4, b: 0, c: 0, d: 0 }
  // A slab of index 2 at 1 GHz: the wave inside is 0.1499 m long.
  const insideM = 0.299792458 / 2
  it('half a wave thick let all through, a quarter as its closed form says', () => {
    expect(slabTransmission(lossless, insideM / 2, 1)).toBeCloseTo(1, 9)
    // 4 n^2 / (1 + n^2)^2 for a quarter-wave slab of index n in air (any textbook of optics).
    expect(slabTransmission(lossless, insideM / 4, 1)).toBeCloseTo(16 / 25, 9)
    expect(slabTransmission({ ...lossless, a: 1 }, 0.37, 5)).toBeCloseTo(1, 9)
  })
  it('that are thick lose by their conductivity: 1,636 c / sqrt(a) dB for each m (P.2040, low loss)', () => {
    const wet = { a: 9, b: 0, c: 0.02, d: 0 }
    const [thin, thick] = [2, 3].map((m) => -10 * Math.log10(slabTransmission(wet, m, 5)))
    expect((thick ?? 0) - (thin ?? 0)).toBeCloseTo((1636 * 0.02) / 3, 1)
  })
  it('are worse by what they are made of, and worse at 5 GHz than at 2.4', () => {
    const at = (mhz: number) =>
      (['open', 'plasterboard', 'brick', 'concrete', 'metal'] as const).map((k) => wallLossDb(k, mhz))
    expect(at(5200)).toEqual([...at(5200)].sort((a, b) => a - b))
    expect(wallLossDb('concrete', 5200)).toBeGreaterThan(wallLossDb('concrete', 2437) + 5)
    // Common practice: plasterboard some 1 to 3 dB, brick 3 to 8, concrete 15 to 25 at 5 GHz.
    expect(wallLossDb('plasterboard', 5200)).toBeLessThan(3)
    expect(wallLossDb('brick', 5200)).toBeLessThan(8)
    expect(wallLossDb('concrete', 5200)).toBeLessThan(25)
  })
})

const room = (id: string, outline: Partial<Outline>): DrawnRoom => ({
  id,
  name: id,
  buildingId: 'house' as DrawnRoom['buildingId'],
  people: 1,
  outline: { floor: 0, xM: 0, yM: 0, widthM: 10, depthM: 5, walls: BRICKS, ...outline },
  readDbm: null,
})
const floorWith = (...rooms: DrawnRoom[]): Floor => ({
  buildingId: 'house' as Floor['buildingId'],
  floor: 0,
  rooms,
  widthM: Math.max(...rooms.map(({ outline }) => outline.xM + outline.widthM)),
  depthM: Math.max(...rooms.map(({ outline }) => outline.yM + outline.depthM)),
})
const radio = (more: Partial<ApRadio> = {}): ApRadio => ({
  id: 'r',
  deviceId: 'ap' as ApRadio['deviceId'],
  deviceName: 'AP',
  follows: null,
  isSilent: false,
  band: '5',
  generation: 'ax',
  streams: 2,
  channel: 36,
  widthMhz: 20,
  powerDbm: 16,
  gainDbi: 4,
  isTyped: true,
  ...more,
})
const placement = (xM: number, yM: number, deviceId = 'ap', floor = 0) => ({
  deviceId: deviceId as ApRadio['deviceId'],
  buildingId: 'house' as Floor['buildingId'],
  floor,
  xM,
  yM,
  heightM: 1,
  outdoors: false,
  beam: null,
  isAssumed: false,
})
const emitter = (xM: number, yM: number, floor = 0) => ({
  radio: radio(),
  placement: placement(xM, yM, 'ap', floor),
  mhz: 5180,
})

describe('levels', () => {
  const two = floorWith(room('west', {}), room('east', { xM: 10 }))
  const obstacles = obstaclesOf(two, 5180)
  it('in the same room are those of free space', () => {
    // EIRP 20 dBm, 8 m at 5,180 MHz: 32.45 + 20 log 0.008 + 20 log 5,180 = 64.80 dB (P.525).
    expect(levelAt(obstacles, emitter(1, 2), { xM: 9, yM: 2, heightM: 1 })).toBeCloseTo(20 - 64.8, 1)
  })
  it('behind a wall that two rooms share lose it once', () => {
    const free = 20 - freeSpaceLossDb(5180, 0.01)
    expect(levelAt(obstacles, emitter(5, 2), { xM: 15, yM: 2, heightM: 1 })).toBeCloseTo(
      free - wallLossDb('brick', 5180),
      6,
    )
  })
  it('beside the beam of an antenna are less, seen from the top of the drawing clockwise', () => {
    const open = obstaclesOf(floorWith(room('yard', {})), 5180)
    const EAST = { xM: 8, yM: 4, heightM: 1 }
    const towards = (azimuthDeg: number, tiltDeg = 0, place = EAST) => {
      const sender = emitter(5, 4)
      const beam = { azimuthDeg, tiltDeg, widthDeg: 60 }
      return levelAt(open, { ...sender, placement: { ...sender.placement, beam } }, place)
    }
    const around = levelAt(open, emitter(5, 4), EAST)
    // East of it, at its own height.
    expect(towards(90)).toBeCloseTo(around, 6)
    expect(towards(120)).toBeCloseTo(around - 3, 6)
    expect(towards(60)).toBeCloseTo(around - 3, 6)
    expect(towards(270)).toBeCloseTo(around - 25, 6)
    // As far above it on the drawing, which is 0 degrees, and below.
    expect(towards(0, 0, { ...EAST, xM: 5, yM: 1 })).toBeCloseTo(around, 6)
    expect(towards(180, 0, { ...EAST, xM: 5, yM: 1 })).toBeCloseTo(around - 25, 6)
    // 3 dB half of the beam's height above the place: 31,000 / (10^0.4 60) = 206 degrees, 180 at most.
    expect(towards(90, 90)).toBeCloseTo(around - 3, 6)
  })
  it('on the floor below lose one floor, 16 dB at 5 GHz (P.1238-11, table 4, from memory)', () => {
    expect(levelAt(obstacles, emitter(5, 2, 1), { xM: 5, yM: 2, heightM: 1 })).toBeCloseTo(
      20 - freeSpaceLossDb(5180, 0.003) - 16,
      6,
    )
  })
  it('are as a slow second way finds them, on drawn floors', () => {
    // Walls by small steps along the line: a wall is passed where the room changes.
    const slow = (floor: Floor, from: [number, number], to: [number, number]): number => {
      const inside = ([x, y]: readonly [number, number]) =>
        floor.rooms.findIndex(
          ({ outline }) =>
            x > outline.xM &&
            x < outline.xM + outline.widthM &&
            y > outline.yM &&
            y < outline.yM + outline.depthM,
        )
      const steps = 20_000
      let [walls, last] = [0, inside(from)]
      for (let i = 1; i <= steps; i++) {
        const now = inside([
          from[0] + ((to[0] - from[0]) * i) / steps,
          from[1] + ((to[1] - from[1]) * i) / steps,
        ])
        if (now === -1) continue
        if (now !== last) walls++
        last = now
      }
      const metres = Math.max(0.5, Math.hypot(to[0] - from[0], to[1] - from[1]))
      return 20 - freeSpaceLossDb(5180, metres / 1000) - walls * wallLossDb('brick', 5180)
    }
    const row = floorWith(...[0, 1, 2, 3].map((i) => room(`r${i}`, { xM: 4 * i, widthM: 4, depthM: 6 })))
    const inRow = fc.tuple(
      fc.double({ min: 0.1, max: 15.9, noNaN: true }),
      fc.double({ min: 0.1, max: 5.9, noNaN: true }),
    )
    fc.assert(
      fc.property(inRow, inRow, (from, to) => {
        // Along a wall a step more or less decides.
        fc.pre([from, to].every(([x]) => Math.abs((x % 4) - 2) < 1.9) && Math.abs(from[0] - to[0]) > 0.5)
        const level = levelAt(obstaclesOf(row, 5180), emitter(...from), { xM: to[0], yM: to[1], heightM: 1 })
        expect(level).toBeCloseTo(slow(row, from, to), 6)
      }),
      { numRuns: 60 },
    )
  })
})

describe('a floor', () => {
  const floor = floorWith(room('west', {}), room('east', { xM: 10, widthM: 20 }))
  const one = [emitter(2, 2)]
  it('has four walls for each room, and reaches as far as they do', () => {
    expect(wallsOf(room('x', { xM: 3, yM: 1 })).map(({ isAlongX, atM }) => [isAlongX, atM])).toEqual([
      [true, 1],
      [false, 13],
      [true, 6],
      [false, 3],
    ])
    expect([floor.widthM, floor.depthM]).toEqual([30, 5])
  })
  it('is squares of the level in their middle', () => {
    const grid = levelGrid(floor, one, 1)
    expect([grid.columns, grid.rows, grid.levelsDbm.length]).toEqual([30, 5, 150])
    const [first] = one
    const expected = first && levelAt(obstaclesOf(floor, 5180), first, { xM: 3.5, yM: 1.5, heightM: 1 })
    expect(grid.levelsDbm[30 + 3]).toBeCloseTo(expected ?? 0, 9)
    expect(levelGrid(floor, [], 1).levelsDbm.every((level) => level === -Infinity)).toBe(true)
  })
  it('is judged by the worst tenth of each room; without a second access point there is nothing to roam to', () => {
    const [west, east] = roomSignals(floor, one, 0.5)
    expect(west?.worstTenthDbm).toBeGreaterThan(east?.worstTenthDbm ?? 0)
    expect([west?.bestId, west?.secondDbm]).toEqual(['ap', null])
    const far = roomSignals(
      floor,
      [
        ...one,
        { ...emitter(28, 2), radio: radio({ deviceId: 'b' as never }), placement: placement(28, 2, 'b') },
      ],
      0.5,
    )
    expect(far[1]?.bestId).toBe('b')
    expect(far[1]?.secondDbm).toBeLessThan(far[1]?.worstTenthDbm ?? 0)
    expect(roomSignals(floor, [], 0.5)[0]).toMatchObject({
      worstTenthDbm: null,
      secondDbm: null,
      bestId: null,
    })
  })
  it('nine tenths of a room have more than its worst tenth', () => {
    const signal = roomSignals(floor, one, 0.5)[1]
    const levels: number[] = []
    const [source] = one
    for (let x = 0.25; x < 20; x += 0.5)
      for (let y = 0.25; y < 5; y += 0.5)
        if (source) levels.push(levelAt(obstaclesOf(floor, 5180), source, { xM: 10 + x, yM: y, heightM: 1 }))
    const above = levels.filter((level) => level > (signal?.worstTenthDbm ?? 0)).length / levels.length
    expect(above).toBeGreaterThan(0.88)
    expect(above).toBeLessThan(0.91)
  })
})

describe('beacons', () => {
  it('take 2.592 ms at 1 Mb/s with a long preamble, 0.424 at 6; twelve 30.4 % of the air', () => {
    expect(frameMs(300, 1)).toBeCloseTo(2.592, 6)
    // 20 us and 101 symbols of 4 us: 300 octets and 22 bits at 24 bits a symbol.
    expect(frameMs(300, 6)).toBeCloseTo(0.424, 6)
    expect(beaconShare(12, 1)).toBeCloseTo(0.304, 3)
  })
})

describe('permission', () => {
  const span = (band: '2.4' | '5' | '6', channel: number, width: 20 | 40 | 80 | 160) => {
    const one = channelSpan(band, channel, width)
    if (!one) throw new Error('no such channel')
    return one
  }
  it('is what wireless-regdb says', () => {
    expect(REGULATORY_DATE).toMatch(/^20\d\d\.\d\d\.\d\d$/)
    expect(permissionFor('GB', span('5', 36, 80))).toMatchObject({
      eirpDbm: 23.01,
      indoorOnly: true,
      dfs: false,
    })
    expect(permissionFor('GB', span('5', 100, 80))).toMatchObject({ eirpDbm: 26.98, dfs: true })
    expect(permissionFor('US', span('5', 149, 80))).toMatchObject({ eirpDbm: 30, indoorOnly: false })
  })
  it('ends where the channel goes beyond it: 12 and 13 are none in the United States', () => {
    expect(permissionFor('US', span('2.4', 11, 20))).toMatchObject({ eirpDbm: 30 })
    expect(permissionFor('US', span('2.4', 13, 20))).toBe('no')
    expect(permissionFor('GB', span('2.4', 13, 20))).toMatchObject({ eirpDbm: 20 })
  })
  it('over two neighbours that may be joined is the less of both, with the cautions of both', () => {
    expect(permissionFor('GB', span('5', 36, 160))).toMatchObject({
      eirpDbm: 20,
      indoorOnly: true,
      dfs: true,
    })
  })
  it('of a country that is not in the data is not known, and nothing is computed', () => {
    expect([hasRules('XG'), hasRules(''), hasRules('toString'), hasRules('GB')]).toEqual([
      false,
      false,
      false,
      true,
    ])
    expect(permissionFor('XG', span('5', 36, 20))).toBeNull()
    expect(limitOf(radio(), 'XG', false)).toBeNull()
  })
  it.each([
    [{}, false, null],
    [{ powerDbm: 19.1 }, false, 'too-strong'],
    [{ powerDbm: 19.01 }, false, null],
    [{}, true, 'indoor-only'],
    [{ channel: 37 }, false, 'no-channel'],
    [{ channel: 165, widthMhz: 40 }, false, 'forbidden'],
    [{ channel: 144, widthMhz: 160 }, false, 'no-width'],
    [{ band: '2.4', channel: 6, widthMhz: 80 }, false, 'no-width'],
    [{ channel: 177 }, false, 'forbidden'],
  ] as const)('of %o, outdoors %s, in Great Britain: %s', (change, isOutdoors, trouble) => {
    expect(limitOf(radio(change), 'GB', isOutdoors)?.trouble).toBe(trouble)
  })
  it('of a radio that may only answer is none for an access point', () => {
    expect(limitOf(radio({ band: '6', channel: 37, powerDbm: 0 }), 'US', false)?.trouble).toBe('listen-only')
    expect(limitOf(radio({ channel: null }), 'GB', false)).toBeNull()
  })
})

describe('the air between stations that are served alike', () => {
  it('goes mostly to who is slow (Heusse et al., INFOCOM 2003)', () => {
    // One octet takes 1, 1 and 10 units: of twelve.
    expect(airShares([100, 100, 10]).map(({ share }) => share)).toEqual([
      expect.closeTo(1 / 12),
      expect.closeTo(1 / 12),
      expect.closeTo(10 / 12),
    ])
    // Without it two units carry what twelve did.
    expect(airShares([100, 100, 10])[2]?.othersGain).toBeCloseTo(6)
  })
  it('is all of one that is alone, which takes it from nobody', () => {
    expect(airShares([54])).toEqual([{ share: 1, othersGain: 1 }])
    expect(airShares([])).toEqual([])
  })
})
