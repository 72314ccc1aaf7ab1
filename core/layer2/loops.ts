// Question: does any frame run in a ring, although spanning tree has blocked what it can?
// Method: per VLAN, over cables that carry it both ways and are not blocked: a cable that joins what is joined already
// closes a ring.
// A bundle is one cable.
// Source: IEEE 802.1D-2004 clause 17; IEEE 802.1Q-2022 clause 8.6: a frame never leaves by the port it came in by.
import { byText } from '#core/util'
import type { PlanIndex } from '#core/queries'
import type { DeviceId, Link } from '#core/schema'
import { bundleName } from './spanning-tree'
import type { VlanGraph } from './vlan-graph'

/** A cable, or a bundle, as it joins two vertices. */
interface Join {
  readonly from: number
  readonly to: number
}

/** The first link of each bundle stands for all; others for themselves. */
function standIns(links: readonly Link[]): readonly number[] {
  const firstOf = new Map<string, number>()
  return links.map((link, place) => {
    const name = bundleName(link)
    const first = firstOf.get(name) ?? place
    firstOf.set(name, first)
    return first
  })
}

/** What joins two vertices both ways. */
function joinsOf(index: PlanIndex, { first, target, link, fromA }: VlanGraph): Join[] {
  const size = first.length - 1
  const standIn = standIns(index.plan.links)
  const keyOf = (place: number, from: number, to: number) => (place * size + from) * size + to
  const there = new Map<number, Join>()
  const found = new Map<number, Join>()
  const each = (side: 0 | 1, visit: (place: number, from: number, to: number) => void) => {
    for (let from = 0; from < size; from++)
      for (let edge = first[from] as number; edge < (first[from + 1] as number); edge++)
        if (fromA[edge] === side) visit(link[edge] as number, from, target[edge] as number)
  }
  each(1, (place, from, to) => there.set(keyOf(place, from, to), { from, to }))
  each(0, (place, from, to) => {
    const join = there.get(keyOf(place, to, from))
    if (join) found.set(keyOf(standIn[place] as number, Math.min(from, to), Math.max(from, to)), join)
  })
  return [...found.values()]
}

/** Vertices from one to another over joins; both included. */
function pathBetween(known: ReadonlyMap<number, readonly number[]>, from: number, to: number): number[] {
  const came = new Map<number, number | null>([[from, null]])
  for (const [at] of came) for (const next of known.get(at) ?? []) if (!came.has(next)) came.set(next, at)
  const path: number[] = []
  for (let at: number | null | undefined = to; at !== null && at !== undefined; at = came.get(at))
    path.push(at)
  return path
}

/** Devices of each ring, by id; a ring of several VLANs is told once. */
export function loopsOf(index: PlanIndex, graph: VlanGraph): readonly (readonly DeviceId[])[] {
  const parent = new Map<number, number>()
  const find = (vertex: number): number => {
    let at = vertex
    for (let up = parent.get(at); up !== undefined; up = parent.get(at)) at = up
    return at
  }
  const known = new Map<number, number[]>()
  const loops = new Map<string, readonly DeviceId[]>()
  for (const { from, to } of joinsOf(index, graph)) {
    const [root, other] = [find(from), find(to)]
    if (root === other) {
      const ring = pathBetween(known, from, to).flatMap((vertex) => graph.deviceOf(vertex) ?? [])
      const devices = [...new Set(ring)].sort(byText)
      loops.set(devices.join(' '), devices)
      continue
    }
    parent.set(root, other)
    known.set(from, [...(known.get(from) ?? []), to])
    known.set(to, [...(known.get(to) ?? []), from])
  }
  return [...loops.values()]
}
