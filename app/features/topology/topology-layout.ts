import type { ELK as Elk, ElkNode } from 'elkjs/lib/elk-api.js'
import type { TopologyGraph, LinkBundle, TopologyNode } from './topology-graph'

// Where the Loom's parts stand: a layered layout, computed in its own worker, which is loaded when first
// needed.

export interface Point {
  readonly x: number
  readonly y: number
}
export interface TopologyLayout {
  readonly width: number
  readonly height: number
  readonly nodes: ReadonlyMap<string, Point & { readonly width: number; readonly height: number }>
  /** Centre lines of bundles, from the internet's side on. */
  readonly lines: ReadonlyMap<string, readonly Point[]>
}

export const THREAD_GAP = 7
export const BAR_WIDTH = 18
const CHARACTER = 6.4
export const thickness = (bundle: Pick<LinkBundle, 'threads'>): number =>
  Math.max(1, bundle.threads.length) * THREAD_GAP + 8

let elk: Promise<Elk> | undefined
async function engine(): Promise<Elk> {
  const [{ default: Engine }, { default: workerUrl }] = await Promise.all([
    import('elkjs/lib/elk-api.js'),
    import('elkjs/lib/elk-worker.min.js?url'),
  ])
  return new Engine({ workerUrl })
}

/**
 * A ladder to lay out before anyone asks, so that the first real picture does not wait for the engine to load
 * and settle.
 */
const LADDER = {
  id: 'ladder',
  children: Array.from({ length: 40 }, (_, n) => ({ id: `n${n}`, width: 90, height: 30 })),
  edges: Array.from({ length: 39 }, (_, nth) => ({
    id: `e${nth}`,
    sources: [`n${Math.floor(nth / 3)}`],
    targets: [`n${nth + 1}`],
  })),
}

/** Loads the engine and lets it lay something out; without effect where it is there already. */
export async function warmLayout(): Promise<void> {
  if (elk) return
  elk = engine()
  const ready = await elk
  for (const options of [OPTIONS, { ...OPTIONS, ...QUICKER }])
    await ready.layout({ ...structuredClone(LADDER), layoutOptions: options })
  performance.mark('loom warm')
}

/**
 * Nodes from which a quicker way of placing is taken: 50 devices then take about half the time (measured with
 * elkjs 0.12).
 */
const MANY_NODES = 40
const QUICKER = { 'elk.layered.nodePlacement.strategy': 'BRANDES_KOEPF', 'elk.layered.thoroughness': '2' }

const OPTIONS = {
  'elk.algorithm': 'layered',
  'elk.direction': 'RIGHT',
  'elk.edgeRouting': 'POLYLINE',
  'elk.layered.spacing.nodeNodeBetweenLayers': '44',
  'elk.layered.spacing.edgeNodeBetweenLayers': '12',
  'elk.spacing.nodeNode': '8',
  'elk.spacing.edgeNode': '10',
  'elk.spacing.edgeEdge': '10',
  'elk.layered.nodePlacement.strategy': 'NETWORK_SIMPLEX',
  'elk.padding': '[top=4,left=4,bottom=8,right=4]',
}

function child(node: TopologyNode, graph: TopologyGraph): ElkNode {
  const out = graph.bundles.filter((b) => b.from === node.id)
  const into = graph.bundles.filter((b) => b.to === node.id)
  const tall = (list: readonly LinkBundle[]) => list.reduce((sum, b) => sum + thickness(b) + 6, 0)
  if (node.kind === 'hosts') {
    return {
      id: node.id,
      width: node.name.length * CHARACTER + 12,
      height: 18,
      layoutOptions: { 'elk.portConstraints': 'FIXED_SIDE' },
      ports: into.map((bundle) => ({
        id: `${bundle.id}#to`,
        width: 0,
        height: 4,
        layoutOptions: { 'elk.port.side': 'WEST' },
      })),
    }
  }
  const width = Math.max(node.name.length, node.detail.length) * CHARACTER + 4
  return {
    id: node.id,
    width: BAR_WIDTH,
    height: Math.max(26, tall(out), tall(into)),
    labels: [{ text: node.name, width, height: node.detail === '' ? 18 : 32 }],
    layoutOptions: {
      'elk.nodeLabels.placement': 'OUTSIDE V_TOP H_LEFT',
      'elk.portConstraints': 'FIXED_SIDE',
      'elk.spacing.portPort': '3',
    },
    ports: [
      ...out.map((bundle) => ({
        id: `${bundle.id}#from`,
        width: 0,
        height: thickness(bundle),
        layoutOptions: { 'elk.port.side': 'EAST' },
      })),
      ...into.map((bundle) => ({
        id: `${bundle.id}#to`,
        width: 0,
        height: thickness(bundle),
        layoutOptions: { 'elk.port.side': 'WEST' },
      })),
    ],
  }
}

/** Lays the picture out. The same parts give the same places. */
export async function layOutTopology(graph: TopologyGraph): Promise<TopologyLayout> {
  elk ??= engine()
  const elkGraph: ElkNode = {
    id: 'loom',
    layoutOptions: graph.nodes.length > MANY_NODES ? { ...OPTIONS, ...QUICKER } : OPTIONS,
    children: graph.nodes.map((n) => child(n, graph)),
    edges: graph.bundles.map((b) => ({ id: b.id, sources: [`${b.id}#from`], targets: [`${b.id}#to`] })),
  }
  const ready = await elk
  const start = performance.now()
  const laid: ElkNode = await ready.layout(elkGraph)
  performance.measure('loom layout', { start, end: performance.now() })
  return {
    width: laid.width ?? 0,
    height: laid.height ?? 0,
    nodes: new Map(
      (laid.children ?? []).map((nth) => [
        nth.id,
        { x: nth.x ?? 0, y: nth.y ?? 0, width: nth.width ?? 0, height: nth.height ?? 0 },
      ]),
    ),
    lines: new Map(
      (laid.edges ?? []).flatMap((edge) => {
        const section = edge.sections?.[0]
        return section
          ? [[edge.id, [section.startPoint, ...(section.bendPoints ?? []), section.endPoint]] as const]
          : []
      }),
    ),
  }
}

/** A smooth line through points, moved down by `dy`; it leaves and arrives level. */
export function curve(points: readonly Point[], dy: number): string {
  return points
    .map((point, i) => {
      const before = points[i - 1]
      if (!before) return `M${point.x} ${point.y + dy}`
      const half = (point.x - before.x) / 2
      return `C${before.x + half} ${before.y + dy} ${point.x - half} ${point.y + dy} ${point.x} ${point.y + dy}`
    })
    .join(' ')
}
