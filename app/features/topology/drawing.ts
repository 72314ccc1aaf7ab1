import { curve, THREAD_GAP, type TopologyLayout, type Point } from './topology-layout'
import type { TopologyGraph, LinkBundle, WalkPath, VlanThread } from './topology-graph'

// What is drawn where, of a picture that is laid out.

/** Pixels of a thread that stops at the port it comes from. */
const STUB = 30

export interface DrawnThread {
  readonly thread: VlanThread
  readonly d: string
  /** Where it stops short; null where it does not. */
  readonly gap: Point | null
}
export interface DrawnBundle {
  readonly bundle: LinkBundle
  readonly line: readonly Point[]
  readonly start: Point
  readonly end: Point
  readonly middle: Point
  readonly threads: readonly DrawnThread[]
}

function drawThread(bundle: LinkBundle, thread: VlanThread, i: number, line: readonly Point[]): DrawnThread {
  const dy = (i - (bundle.threads.length - 1) / 2) * THREAD_GAP
  const [start, end] = [line[0] as Point, line.at(-1) as Point]
  if (thread.gap?.at === 'from') {
    const gap = { x: start.x + STUB, y: start.y + dy }
    return { thread, d: `M${start.x} ${start.y + dy} h${STUB}`, gap }
  }
  return { thread, d: curve(line, dy), gap: thread.gap ? { x: end.x - 8, y: end.y + dy } : null }
}

/** Bundles of cables with their threads. */
export const drawnBundles = (graph: TopologyGraph, layout: TopologyLayout | null): DrawnBundle[] =>
  graph.bundles.flatMap((bundle) => {
    const line = layout?.lines.get(bundle.id)
    const [start, end] = [line?.[0], line?.at(-1)]
    if (!line || !start || !end) return []
    const middle = { x: (start.x + end.x) / 2, y: (start.y + end.y) / 2 }
    const threads = bundle.threads.map((t, i) => drawThread(bundle, t, i, line))
    return [{ bundle, line, start, end, middle, threads }]
  })

/** A VLAN that stops short, and where that is drawn. */
export interface DrawnGap {
  readonly at: Point
  readonly thread: VlanThread
  readonly stop: NonNullable<VlanThread['gap']>
}

/** Threads that stop short, each with where. */
export const gapsOf = (bundles: readonly DrawnBundle[]): DrawnGap[] =>
  bundles
    .flatMap((bundle) => bundle.threads)
    .flatMap(({ thread, gap }) => (gap && thread.gap ? [{ at: gap, thread, stop: thread.gap }] : []))

/** Pixels of a knot's label. */
export const LABEL = { width: 266, height: 38 }

/** Points that a label had better not cover: along the cables, and at the numbers of ports. */
export const crowdedPoints = (bundles: readonly DrawnBundle[]): Point[] =>
  bundles.flatMap(({ line, start, threads }) => {
    const along = line.flatMap((point, i) => {
      const next = line[i + 1]
      if (!next) return [point]
      const between = (k: number) => ({
        x: point.x + ((next.x - point.x) * k) / 6,
        y: point.y + ((next.y - point.y) * k) / 6,
      })
      return [0, 1, 2, 3, 4, 5].map(between)
    })
    return [...along, { x: start.x + 14, y: start.y - (threads.length * THREAD_GAP) / 2 - 6 }]
  })

type Placed = {
  readonly node: TopologyGraph['nodes'][number]
  readonly at: { readonly x: number; readonly y: number; readonly width: number; readonly height: number }
}
const covers = (corner: Point, { node, at }: Placed): boolean => {
  const above = node.kind === 'bar' ? 32 : 0
  return (
    corner.x < at.x + Math.max(at.width, node.name.length * 6.4) &&
    at.x < corner.x + LABEL.width &&
    corner.y < at.y + at.height &&
    at.y - above < corner.y + LABEL.height
  )
}
const holds = (corner: Point, { x, y }: Point): boolean =>
  corner.x <= x && x <= corner.x + LABEL.width && corner.y <= y && y <= corner.y + LABEL.height

/** Where a knot's label covers least: no device, and as few cables and port numbers as can be. */
export function labelAt(
  gap: Point,
  nodes: readonly Placed[],
  crowded: readonly Point[],
  size: { readonly width: number; readonly height: number },
): Point {
  const corners = [14, -14 - LABEL.height, 40, -40 - LABEL.height].flatMap((dy) =>
    [-20, 20 - LABEL.width, 26, -26 - LABEL.width].map((dx) => ({ x: gap.x + dx, y: gap.y + dy })),
  )
  const inside = corners.map(({ x, y }) => ({ x: Math.max(0, Math.min(x, size.width - LABEL.width)), y }))
  const cost = (corner: Point) =>
    nodes.filter((node) => covers(corner, node)).length * 20 +
    crowded.filter((point) => holds(corner, point)).length +
    (corner.y < 0 || corner.y + LABEL.height > size.height ? 100 : 0)
  return inside.reduce((best, corner) => (cost(corner) < cost(best) ? corner : best), inside[0] as Point)
}

/** Where a walk ends on the picture; null where it does not end there. */
export function stopPoint(
  stop: WalkPath['stop'] | undefined,
  bundles: readonly DrawnBundle[],
  place: (id: string) => Placed['at'] | undefined,
): Point | null {
  if (!stop) return null
  if ('deviceId' in stop) {
    const at = place(stop.deviceId)
    return at ? { x: at.x + at.width / 2, y: at.y + at.height / 2 } : null
  }
  const on = bundles.find((b) => b.bundle.id === stop.bundleId)
  if (!on) return null
  return stop.at === 'from' ? { x: on.start.x + 14, y: on.start.y } : { x: on.end.x - 14, y: on.end.y }
}
