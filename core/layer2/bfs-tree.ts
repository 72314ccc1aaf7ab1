// Question: where do frames from one node arrive, and over which hops?
// Method: breadth first from the node; of each node reached the hop that first led there is kept.
// Source: breadth-first search, as in any textbook of graph algorithms.
import type { Link, PortRef } from '#core/schema'
import type { Layer2Node } from './tagging'

/** One hop: out of `out`, over the link, into `into`, as it looked on the wire. */
export interface Hop {
  readonly out: PortRef
  readonly into: PortRef
  readonly link: Link
  /** Tag on the wire, UNTAGGED for none. */
  readonly tag: number
  /** Where the frame is then. */
  readonly node: Layer2Node
}

interface Step {
  readonly node: Layer2Node
  /** Null at the start. */
  readonly came: { readonly from: Layer2Node; readonly hop: Hop } | null
}

export class BfsTree {
  private readonly steps = new Map<string, Step>()

  /** @param start null where its device is gone: then nothing is reached */
  constructor(start: Layer2Node | null, egress: (node: Layer2Node) => readonly Hop[]) {
    if (start) this.steps.set(start.key, { node: start, came: null })
    for (const { node } of this.steps.values()) {
      for (const hop of egress(node)) {
        if (!this.has(hop.node)) this.steps.set(hop.node.key, { node: hop.node, came: { from: node, hop } })
      }
    }
  }

  has(node: Layer2Node): boolean {
    return this.steps.has(node.key)
  }

  /** All nodes reached, the nearest first; the start is the first. */
  get nodes(): Layer2Node[] {
    return [...this.steps.values()].map((step) => step.node)
  }

  /** The hops that first led somewhere, the nearest first. */
  get hops(): Hop[] {
    return [...this.steps.values()].flatMap((step) => step.came?.hop ?? [])
  }

  /** The hops from the start to a node, in order; empty where it is not reached. */
  hopsTo(node: Layer2Node): Hop[] {
    const hops: Hop[] = []
    for (let came = this.steps.get(node.key)?.came; came; came = this.steps.get(came.from.key)?.came)
      hops.unshift(came.hop)
    return hops
  }
}
