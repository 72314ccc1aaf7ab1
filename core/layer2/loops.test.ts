import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { indexPlan } from '#core/queries'
import type { Plan, PortMode } from '#core/schema'
import { access, cat6, device, link, plain, row, trunk } from '#server/demo/build'
import { base } from '../../tests/plans'
import { bridgeNode, layer2Of, UNTAGGED } from '.'

const [NAMES, PORTS] = [['a', 'b', 'c', 'd', 'e'] as const, [1, 2, 3, 4, 5, 6] as const]
const VIDS = [UNTAGGED, 1, 2, 9]
/** One cable between two of five bridges, with the modes of its ports, and the bundle that it may be of. */
const joint = fc.record({
  ends: fc
    .tuple(fc.constantFrom(...NAMES), fc.constantFrom(...NAMES))
    .filter(([one, other]) => one !== other),
  modes: fc.tuple(
    ...[0, 1].map(() => fc.constantFrom<PortMode>(access(1), access(2), trunk(1, 2), trunk(9, 1, 2))),
  ),
  lag: fc.constantFrom(null, null, 'x'),
})
type Joint = typeof joint extends fc.Arbitrary<infer Value> ? Value : never

/** Cables use up the ports of their bridges in turn; `managed` bridges speak spanning tree, the others do not. */
function planOf(joints: readonly Joint[], managed: readonly string[]): Plan {
  const plan = base()
  const modes = new Map<string, Record<string, PortMode>>(NAMES.map((name) => [name, {}]))
  const links = joints.flatMap(({ ends, modes: both, lag }) => {
    const ports = ends.map((name, i) => {
      const taken = modes.get(name) ?? {}
      const port = PORTS[Object.keys(taken).length]
      if (port === undefined) return null
      taken[port] = both[i] ?? plain
      return `${name}:${port}`
    })
    const [from, to] = ports
    return from && to ? [{ ...link(from, to, cat6(5)), lag }] : []
  })
  const devices = NAMES.map((name) => {
    const isManaged = managed.includes(name)
    const of = (port: number) => (isManaged ? (modes.get(name)?.[port] ?? access(1)) : plain)
    const ports = row(PORTS.length, Object.fromEntries(PORTS.map((port) => [port, of(port)])))
    return device(name, name, isManaged ? 'switch' : 'unmanaged', '', 'Room', null, ports)
  })
  return { ...plan, devices, links, ssids: [], uplinks: [] } as Plan
}

/** Whether two vertices stay together without one of the joins. */
function staysTogether(joins: readonly (readonly [string, string])[], without: number): boolean {
  const [from = '', to = ''] = joins[without] ?? []
  const reached = new Set([from])
  for (let size = 0; size !== reached.size;) {
    size = reached.size
    for (const [i, [one, other]] of joins.entries()) {
      if (i === without) continue
      if (reached.has(one)) reached.add(other)
      if (reached.has(other)) reached.add(one)
    }
  }
  return reached.has(to)
}

/** Bridges on rings, hop by hop: a cable is of a ring where its ends stay together without it. */
function onRings(plan: Plan): string[] {
  const layer2 = layer2Of(indexPlan(plan), [])
  const steps = new Map<string, readonly [string, string]>()
  const deviceAt = new Map<string, string>()
  for (const { id } of plan.devices)
    for (const vid of VIDS) {
      const node = bridgeNode(id, vid)
      deviceAt.set(node.key, id)
      for (const hop of layer2.egress(node))
        steps.set(`${hop.link.id} ${node.key} ${hop.node.key}`, [node.key, hop.node.key])
    }
  const joins = new Map<string, readonly [string, string]>()
  for (const [step, [one, other]] of steps) {
    const [linkId = ''] = step.split(' ')
    if (!steps.has(`${linkId} ${other} ${one}`)) continue
    const { lag = null } = plan.links.find(({ id }) => id === linkId) ?? {}
    const pair = [one, other].toSorted()
    const devices = pair.map((key) => deviceAt.get(key)).join()
    joins.set(`${lag === null ? linkId : `${lag} ${devices}`} ${pair.join()}`, [one, other])
  }
  const list = [...joins.values()]
  const ring = list.filter((_, i) => staysTogether(list, i)).flat()
  return [...new Set(ring.flatMap((key) => deviceAt.get(key) ?? []))].toSorted()
}

describe('rings that spanning tree leaves', () => {
  it('hold whom they hold hop by hop, on bridges joined by chance, and nobody twice', () => {
    fc.assert(
      fc.property(
        fc.array(joint, { minLength: 2, maxLength: 9 }),
        fc.subarray([...NAMES]),
        (joints, managed) => {
          const plan = planOf(joints, managed)
          const loops = layer2Of(indexPlan(plan), []).loops()
          expect([...new Set(loops.flat())].toSorted()).toEqual(onRings(plan))
          for (const ring of loops) expect(ring).toEqual([...new Set(ring)].toSorted())
          expect(new Set(loops.map((ring) => ring.join())).size).toBe(loops.length)
        },
      ),
      { numRuns: 200 },
    )
  })
})
