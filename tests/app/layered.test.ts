import './globals'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { analyse } from '#core/findings'
import { indexPlan } from '#core/queries'
import { gullhavenPlan } from '#server/demo/gullhaven'
import { carrowPlan, quaysidePlan } from '#server/demo/fleet'
import type { Plan } from '#core/schema'
import { layOut } from '~/features/topology/layered'
import { thickness, type Place, type TopologyLayout } from '~/features/topology/topology-layout'
import { topologyGraphOf, type LinkBundle, type TopologyGraph } from '~/features/topology/topology-graph'

const graphOf = (plan: Plan): TopologyGraph => {
  const { carriedVlans, gaps } = analyse(indexPlan(plan), [])
  return topologyGraphOf(plan, new Set(), carriedVlans, gaps)
}

const bundle = (from: string, to: string, threads: number): LinkBundle =>
  ({
    id: `${from}>${to}`,
    from,
    to,
    label: '',
    fromPorts: '1–4',
    threads: Array.from({ length: threads }, (_, vlan) => ({ vlan })),
  }) as unknown as LinkBundle

/** Devices that hang below earlier ones, some of them below two. */
const drawn: fc.Arbitrary<TopologyGraph> = fc
  .array(
    fc.record({
      name: fc.integer({ min: 0, max: 30 }),
      kind: fc.constantFrom('bar' as const, 'hosts' as const),
      above: fc.nat(),
      second: fc.option(fc.nat(), { freq: 4 }),
      threads: fc.integer({ min: 0, max: 9 }),
    }),
    { maxLength: 40 },
  )
  .map((devices) => ({
    nodes: devices.map(({ name, kind }, i) => ({
      id: `n${i}`,
      name: 'x'.repeat(name),
      detail: '',
      kind,
      failed: false,
    })),
    bundles: devices.flatMap(({ above, second, threads }, i) => {
      const first = i > 0 ? above % i : null
      const other = i > 0 && second !== null ? second % i : null
      return [
        ...(first === null ? [] : [bundle(`n${first}`, `n${i}`, threads)]),
        ...(other === null || other === first ? [] : [bundle(`n${other}`, `n${i}`, threads)]),
      ]
    }),
  }))

const overlap = (one: Place, other: Place): boolean =>
  one.x < other.x + other.width &&
  other.x < one.x + one.width &&
  one.y < other.y + other.height &&
  other.y < one.y + one.height

function overlapping({ nodes }: TopologyLayout): string[] {
  const placed = [...nodes]
  return placed.flatMap(([id, place], i) =>
    placed.slice(i + 1).flatMap(([other, there]) => (overlap(place, there) ? [`${id} and ${other}`] : [])),
  )
}

/** Bundles that do not meet their devices at the sides, or share a place there with another. */
function badlyMet({ bundles }: TopologyGraph, { nodes, lines }: TopologyLayout): string[] {
  const at = (side: 'from' | 'to') => (one: LinkBundle) => {
    const [place, line] = [nodes.get(one[side]), lines.get(one.id)]
    const point = side === 'from' ? line?.[0] : line?.at(-1)
    if (!place || !point) return `${one.id} is not drawn`
    const isAtSide = Math.abs(point.x - (side === 'from' ? place.x + place.width : place.x)) < 0.001
    const half = place.height <= 18 ? 0 : thickness(one) / 2
    const isWithin = point.y - half >= place.y - 0.001 && point.y + half <= place.y + place.height + 0.001
    const crowding = bundles.filter((other) => {
      const second = other[side] === one[side] && other.id < one.id ? lines.get(other.id) : undefined
      const there = side === 'from' ? second?.[0] : second?.at(-1)
      return there && Math.abs(there.y - point.y) < (thickness(one) + thickness(other)) / 2
    })
    return isAtSide && isWithin && crowding.length === 0 ? '' : `${one.id} at its ${side} end`
  }
  const isOnBar = (id: string) => (nodes.get(id)?.height ?? 0) > 18
  return bundles
    .flatMap((one) => [
      ...(isOnBar(one.from) ? [at('from')(one)] : []),
      ...(isOnBar(one.to) ? [at('to')(one)] : []),
    ])
    .filter((words) => words !== '')
}

describe('the picture in layers', () => {
  it.each([
    ['Gullhaven', gullhavenPlan()],
    ['Carrow', carrowPlan()],
    ['Quayside', quaysidePlan()],
  ])('%s: nothing lies on anything else, and each bundle has its own place at a bar', (_, plan) => {
    const graph = graphOf(plan)
    const laid = layOut(graph)
    expect(laid.nodes.size).toBe(graph.nodes.length)
    expect(laid.lines.size).toBe(graph.bundles.length)
    expect(overlapping(laid)).toEqual([])
    expect(badlyMet(graph, laid)).toEqual([])
  })
  it('so do any devices that hang below others', () => {
    fc.assert(
      fc.property(drawn, (graph) => {
        const laid = layOut(graph)
        expect(overlapping(laid)).toEqual([])
        expect(badlyMet(graph, laid)).toEqual([])
        expect(Math.min(laid.width, laid.height)).toBeGreaterThanOrEqual(0)
        const isInside = ({ x, y, width, height }: Place) =>
          x >= 0 && y >= 0 && x + width <= laid.width && y + height <= laid.height
        expect([...laid.nodes.values()].every(isInside)).toBe(true)
      }),
      { numRuns: 100 },
    )
  })
  it('a device is drawn right of all that it hangs below', () => {
    fc.assert(
      fc.property(drawn, (graph) => {
        const { nodes } = layOut(graph)
        expect(
          graph.bundles.filter(({ from, to }) => (nodes.get(from)?.x ?? 0) >= (nodes.get(to)?.x ?? 0)),
        ).toEqual([])
      }),
      { numRuns: 100 },
    )
  })
  it('nothing takes no place', () => {
    const { width, height, nodes } = layOut({ nodes: [], bundles: [] })
    expect([width, height, nodes.size]).toEqual([0, 0, 0])
  })
  it('the same parts give the same places', () => {
    const graph = graphOf(gullhavenPlan())
    expect(layOut(structuredClone(graph))).toEqual(layOut(graph))
  })
})
