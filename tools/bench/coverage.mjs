// Signal on a floor, as the worker computes it.
import { line, median, time } from './measure.mjs'
import { say } from '../say.mjs'

const [ACROSS, DOWN] = [50, 40]
const BRICK = { top: 'brick', right: 'brick', bottom: 'brick', left: 'brick' }

/** 2,000 m2 in twenty rooms, and twelve access points. */
function floorOf() {
  const [columns, rows] = [5, 4]
  const [widthM, depthM] = [ACROSS / columns, DOWN / rows]
  const rooms = Array.from({ length: columns * rows }, (_, i) => ({
    id: `room${i}`,
    name: `Room ${i}`,
    buildingId: 'house',
    people: 1,
    readDbm: null,
    outline: {
      floor: 0,
      xM: (i % columns) * widthM,
      yM: Math.floor(i / columns) * depthM,
      widthM,
      depthM,
      walls: BRICK,
    },
  }))
  const ids = Array.from({ length: 12 }, (_, i) => `ap${i}`)
  const placements = ids.map((deviceId, i) => ({
    deviceId,
    buildingId: 'house',
    floor: 0,
    xM: 6 + (i % 4) * 12,
    yM: 7 + Math.floor(i / 4) * 12,
    heightM: 2.6,
    outdoors: false,
    beam: null,
    isAssumed: false,
  }))
  const radios = ids.map((deviceId, i) => ({
    id: `r${i}`,
    deviceId,
    deviceName: deviceId,
    band: '5',
    generation: 'ax',
    streams: 2,
    channel: 36 + 4 * (i % 4),
    widthMhz: 20,
    powerDbm: 17,
    gainDbi: 4,
    isTyped: true,
    follows: null,
    isSilent: false,
  }))
  return { floor: { buildingId: 'house', floor: 0, rooms, widthM: ACROSS, depthM: DOWN }, placements, radios }
}

export function benchCoverage({ emittersOf, levelGrid, roomSignals }) {
  const { floor, placements, radios } = floorOf()
  const emitters = emittersOf(radios, placements, floor)
  const passes = (stepM) =>
    median(
      Array.from({ length: 9 }, () =>
        time(() => (levelGrid(floor, emitters, stepM), roomSignals(floor, emitters, stepM))),
      ),
    )
  say(`\nsignal on ${ACROSS * DOWN} m2, ${floor.rooms.length} rooms, ${emitters.length} access points`)
  const fine = passes(0.5)
  line('squares of 0.5 m, with the rooms', fine, 'ms', '< 300', fine < 300)
  const coarse = passes(1.5)
  line('squares of 1.5 m, as while something is dragged', coarse, 'ms', '< 100', coarse < 100)
}
