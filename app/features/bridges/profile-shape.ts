import { earthBulgeM, fresnelRadiusM, K_USUAL, lineAt, type RadioLink } from '#core/radio'

type Computed = NonNullable<RadioLink['path']>

export const VIEW = { width: 760, height: 240, left: 44, right: 12, top: 14, bottom: 26 } as const
const STEPS = 60

interface Scale {
  readonly across: (metres: number) => number
  readonly up: (metres: number) => number
  readonly lowM: number
  readonly highM: number
}

/** What the drawing is made of, in its own units. */
export interface ProfileShape extends Scale {
  /** Closed outlines. */
  readonly ground: string
  readonly zone: string
  readonly line: string
  readonly obstacles: readonly {
    readonly x: number
    readonly y: number
    readonly height: number
  }[]
  readonly ends: readonly { readonly x: number; readonly footY: number; readonly topY: number }[]
}

const bulgeAt = ({ lengthM }: Computed, atM: number): number =>
  earthBulgeM(atM / 1000, (lengthM - atM) / 1000, K_USUAL)

/** Ground heights along the way: between two points as a straight line, beyond them as the next one. */
function groundAt({ points }: Computed, atM: number): number {
  const sorted = points.toSorted((one, other) => one.atM - other.atM)
  const after = sorted.find((point) => point.atM >= atM)
  const before = sorted.findLast((point) => point.atM <= atM)
  if (!before || !after) return (before ?? after)?.groundM ?? 0
  const span = after.atM - before.atM
  return span === 0
    ? after.groundM
    : before.groundM + ((after.groundM - before.groundM) * (atM - before.atM)) / span
}

function scaleOf(path: Computed): Scale {
  const tops = path.points.map((point) => point.groundM + point.obstacleM)
  const zoneM = fresnelRadiusM(path.mhz, path.lengthM / 2000, path.lengthM / 2000)
  const heights = [...path.antennasM, ...tops, ...path.points.map(({ groundM }) => groundM), 0]
  const highM = Math.max(...heights) + zoneM
  const lowM = Math.min(...heights, (path.antennasM[0] + path.antennasM[1]) / 2 - zoneM)
  const { width, height, left, right, top, bottom } = VIEW
  return {
    lowM,
    highM,
    across: (metres) => left + (metres / path.lengthM) * (width - left - right),
    up: (metres) => height - bottom - ((metres - lowM) / Math.max(1, highM - lowM)) * (height - top - bottom),
  }
}

const outline = (points: readonly (readonly [number, number])[]): string =>
  points.map(([x, y]) => `${x.toFixed(1)},${y.toFixed(1)}`).join(' ')

export function profileShape(path: Computed): ProfileShape {
  const scale = scaleOf(path)
  const { across, up } = scale
  const own = path.points.map(({ atM }) => atM)
  const grid = Array.from({ length: STEPS + 1 }, (_, i) => (path.lengthM * i) / STEPS)
  const along = [...new Set([...grid, ...own])].toSorted((one, other) => one - other)
  const topOf = (atM: number) => groundAt(path, atM) + bulgeAt(path, atM)
  const lineM = (atM: number) => lineAt(path, atM)
  const zoneM = (atM: number) => fresnelRadiusM(path.mhz, atM / 1000, (path.lengthM - atM) / 1000)
  const edge = (sign: number) => grid.map((atM) => [across(atM), up(lineM(atM) + sign * zoneM(atM))] as const)
  const floor = VIEW.height - VIEW.bottom
  return {
    ...scale,
    ground: outline([
      [across(0), floor],
      ...along.map((atM) => [across(atM), up(topOf(atM))] as const),
      [across(path.lengthM), floor],
    ]),
    zone: outline([...edge(1), ...edge(-1).toReversed()]),
    line: outline([0, path.lengthM].map((atM) => [across(atM), up(lineM(atM))] as const)),
    obstacles: path.points
      .filter(({ obstacleM }) => obstacleM > 0)
      .map(({ atM, obstacleM }) => {
        const y = up(topOf(atM) + obstacleM)
        return { x: across(atM), y, height: up(topOf(atM)) - y }
      }),
    ends: [0, 1].map((end) => {
      const atM = end * path.lengthM
      return { x: across(atM), footY: up(groundAt(path, atM)), topY: up(path.antennasM[end] ?? 0) }
    }),
  }
}
