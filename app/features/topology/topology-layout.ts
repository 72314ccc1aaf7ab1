import type { LinkBundle, TopologyGraph } from './topology-graph'

// Where the Loom's parts stand, and how its lines run between them.

export interface Point {
  readonly x: number
  readonly y: number
}
export interface Place extends Point {
  readonly width: number
  readonly height: number
}
export interface TopologyLayout {
  readonly width: number
  readonly height: number
  readonly nodes: ReadonlyMap<string, Place>
  /** Centre lines of bundles, from the internet's side on. */
  readonly lines: ReadonlyMap<string, readonly Point[]>
}

export const THREAD_GAP = 7
export const BAR_WIDTH = 18
export const thickness = (bundle: Pick<LinkBundle, 'threads'>): number =>
  Math.max(1, bundle.threads.length) * THREAD_GAP + 8

/** Of the worker that lays pictures out. */
export interface LayoutAnswer {
  readonly number: number
  /** Null where it could not be laid out. */
  readonly layout: TopologyLayout | null
  readonly reason: string
}
export interface LayoutRequest {
  readonly number: number
  readonly graph: TopologyGraph
}

/** One worker that lays out one picture after the other; the last one asked for is the one that is heard. */
export function useLayoutWorker(hear: (answer: LayoutAnswer) => void) {
  let worker: Worker | undefined
  let asked = 0
  onBeforeUnmount(() => worker?.terminate())
  return (graph: TopologyGraph): void => {
    worker ??= new Worker(new URL('../../workers/layout.worker.ts', import.meta.url), { type: 'module' })
    const start = performance.now()
    worker.onerror = ({ message }) => hear({ number: asked, layout: null, reason: message || 'unknown' })
    worker.onmessage = ({ data }: MessageEvent<LayoutAnswer>) => {
      if (data.number !== asked) return
      performance.measure('loom layout', { start, end: performance.now() })
      hear(data)
    }
    // What is reactive cannot be sent.
    worker.postMessage({ number: ++asked, graph: JSON.parse(JSON.stringify(graph)) } as LayoutRequest)
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
