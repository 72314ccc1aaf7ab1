import { Graph, layout } from '@dagrejs/dagre'
import { groupBy } from '#core/util'
import type { LinkBundle, TopologyGraph, TopologyNode } from './topology-graph'
import { BAR_WIDTH, thickness, type Place, type Point, type TopologyLayout } from './topology-layout'

// The Loom in layers from the internet's side on.
// The library finds layers, order and places; where each bundle meets a bar is found here, since it knows no ports.

const CHARACTER = 6.4
const PORT_CHARACTER = 6.6
const BETWEEN_BUNDLES = 6
const MARGIN = 6
const SPACING = { rankdir: 'LR', rankalign: 'top', nodesep: 10, edgesep: 12, ranksep: 48 } as const

interface Sides {
  readonly into: readonly LinkBundle[]
  readonly out: readonly LinkBundle[]
}
interface Size {
  readonly width: number
  /** Of the bar or the hosts' label. */
  readonly height: number
  /** Of what is written above it. */
  readonly above: number
}

const stackOf = (bundles: readonly LinkBundle[]): number =>
  bundles.reduce((sum, bundle) => sum + thickness(bundle) + BETWEEN_BUNDLES, 0)

function sizeOf({ kind, name, detail }: TopologyNode, { into, out }: Sides): Size {
  if (kind === 'hosts') return { width: name.length * CHARACTER + 12, height: 18, above: 0 }
  const beside = Math.max(0, ...out.map(({ label, fromPorts }) => (label || fromPorts).length))
  const width = Math.max(
    BAR_WIDTH + (beside === 0 ? 0 : beside * PORT_CHARACTER + 8),
    Math.max(name.length, detail.length) * CHARACTER + 4,
  )
  return { width, height: Math.max(26, stackOf(out), stackOf(into)), above: detail === '' ? 18 : 32 }
}

/** Middles of bundles that meet one side of a bar, each as thick as it is, in the order of where they lead. */
function meetings(
  bundles: readonly LinkBundle[],
  place: Place,
  towards: (bundle: LinkBundle) => number,
): ReadonlyMap<string, number> {
  let y = place.y + (place.height - stackOf(bundles) + BETWEEN_BUNDLES) / 2
  const ordered = [...bundles].sort((a, b) => towards(a) - towards(b))
  return new Map(
    ordered.map((bundle) => {
      const middle = y + thickness(bundle) / 2
      y += thickness(bundle) + BETWEEN_BUNDLES
      return [bundle.id, middle]
    }),
  )
}

const BESIDE = 8
/** A bundle goes level past the devices of a layer that it crosses. */
function pastLayer({ x, y }: Point, boxes: readonly Place[]): Point[] {
  const crossed = boxes.filter((box) => box.x <= x && x <= box.x + box.width)
  if (crossed.length === 0) return [{ x, y }]
  const left = Math.min(...crossed.map((box) => box.x))
  const right = Math.max(...crossed.map((box) => box.x + box.width))
  return [
    { x: left - BESIDE, y },
    { x: right + BESIDE, y },
  ]
}

function laidOut(graph: TopologyGraph, sizes: ReadonlyMap<string, Size>) {
  const drawn = new Graph({ multigraph: true })
  drawn.setGraph({ ...SPACING, marginx: MARGIN, marginy: MARGIN })
  for (const [id, { width, height, above }] of sizes) drawn.setNode(id, { width, height: height + above })
  for (const bundle of graph.bundles)
    drawn.setEdge(bundle.from, bundle.to, { width: 1, height: thickness(bundle) }, bundle.id)
  layout(drawn)
  return drawn
}

/** Lays the picture out. The same parts give the same places. */
export function layOut(graph: TopologyGraph): TopologyLayout {
  // Of nothing the library says that it is endlessly small.
  if (graph.nodes.length === 0) return { width: 0, height: 0, nodes: new Map(), lines: new Map() }
  const [outOf, into] = [groupBy(graph.bundles, ({ from }) => from), groupBy(graph.bundles, ({ to }) => to)]
  const sidesOf = (id: string): Sides => ({ into: into.get(id) ?? [], out: outOf.get(id) ?? [] })
  const sizes = new Map(graph.nodes.map((node) => [node.id, sizeOf(node, sidesOf(node.id))]))
  const drawn = laidOut(graph, sizes)
  const boxes: Place[] = []
  const nodes = new Map<string, Place>()
  for (const [id, { width, height, above }] of sizes) {
    const { x, y } = drawn.node(id) as Point
    const corner = { x: x - width / 2, y: y - (height + above) / 2 }
    boxes.push({ ...corner, width, height: height + above })
    nodes.set(id, { ...corner, y: corner.y + above, width: above > 0 ? BAR_WIDTH : width, height })
  }
  // Of every second point: the others stand between two layers.
  const between = (bundle: LinkBundle): readonly Point[] =>
    (drawn.edge(bundle.from, bundle.to, bundle.id) as { points: Point[] }).points.slice(1, -1)
  const starts = new Map<string, number>()
  const ends = new Map<string, number>()
  for (const [id, place] of nodes) {
    const { into: arriving, out } = sidesOf(id)
    for (const [key, y] of meetings(out, place, (bundle) => between(bundle)[0]?.y ?? 0)) starts.set(key, y)
    for (const [key, y] of meetings(arriving, place, (bundle) => between(bundle).at(-1)?.y ?? 0))
      ends.set(key, y)
  }
  const lineOf = (bundle: LinkBundle): readonly Point[] => {
    const [from, to] = [nodes.get(bundle.from), nodes.get(bundle.to)]
    if (!from || !to) return []
    const crossings = between(bundle).filter((_, i) => i % 2 === 1)
    const y = starts.get(bundle.id) ?? from.y
    // Level below the name that stands over the bar, so that nothing is drawn through it.
    const pastName = from.x + (sizes.get(bundle.from)?.width ?? 0)
    return [
      { x: from.x + from.width, y },
      ...(pastName > from.x + from.width ? [{ x: pastName, y }] : []),
      ...crossings.flatMap((point) => pastLayer(point, boxes)),
      { x: to.x, y: ends.get(bundle.id) ?? to.y },
    ]
  }
  const { width = 0, height = 0 } = drawn.graph() as { width?: number; height?: number }
  return { width, height, nodes, lines: new Map(graph.bundles.map((bundle) => [bundle.id, lineOf(bundle)])) }
}
