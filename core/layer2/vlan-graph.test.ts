import { draft } from '#server/demo/build'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { gullhavenPlan } from '#server/demo/gullhaven'
import { indexPlan, isHost, down } from '#core/queries'
import type { Plan, PortMode } from '#core/schema'
import { site, type LoosePlan } from '../../tests/plans'
import { bothWays, bridgeNode, vlansOnLinks, endNode, layer2Of, type Layer2Node } from '.'

// The VLAN graph is the fast form of the hops of layer2.ts, which goes hop by hop and is tested by hand: both
// must agree.

/** VIDs that the plan names; of others nothing is asked. */
const named = (plan: Plan) => [0, ...new Set(plan.networks.map((n) => n.vlan))]
function nodesOf(plan: Plan): Layer2Node[] {
  return plan.devices.flatMap((device) =>
    isHost(device)
      ? device.ports.map((p) => endNode(device.id, p.id))
      : named(plan).map((vid) => bridgeNode(device.id, vid)),
  )
}
function agree(plan: Plan, failed: readonly string[]): void {
  const index = indexPlan(plan)
  const scenario = failed.map(down)
  const layer2 = layer2Of(index, scenario)
  const nodes = nodesOf(plan)
  for (const node of nodes)
    for (const second of nodes) {
      const slow = layer2.bfsTree(node).has(second) && layer2.bfsTree(second).has(node)
      if (bothWays(layer2, node, second) !== slow)
        throw new Error(`${node.key} and ${second.key}: ${slow} by hops, ${!slow} by the graph`)
    }
  const slow = new Set<string>()
  for (const network of plan.networks) {
    for (const node of layer2.bfsTree(bridgeNode(network.routerId, network.vlan)).nodes) {
      for (const hop of layer2.egress(node))
        slow.add(
          `${hop.link.id} ${network.vlan} ` +
            `${hop.out.deviceId === hop.link.a.deviceId && hop.out.portId === hop.link.a.portId ? 'a' : 'b'}`,
        )
    }
  }
  const fast = vlansOnLinks(index, scenario).flatMap((vlanOnLink) => [
    ...(vlanOnLink.fromA ? [`${vlanOnLink.linkId} ${vlanOnLink.vlan} a`] : []),
    ...(vlanOnLink.fromB ? [`${vlanOnLink.linkId} ${vlanOnLink.vlan} b`] : []),
  ])
  expect(new Set(fast)).toEqual(slow)
}

describe('the VLAN graph and hops', () => {
  it('agree on the demo, under all well and under failures', () => {
    for (const scenario of [[], ['lab-switch'], ['bridge-a'], ['gateway'], ['lab-switch.22-bridge-a.lan']])
      agree(gullhavenPlan(), scenario)
  })
  const mode: fc.Arbitrary<PortMode> = fc.oneof(
    fc.constantFrom(10, 20, 99).map((vlan): PortMode => ({ mode: 'access', vlan })),
    fc
      .tuple(
        fc.option(fc.constantFrom(10, 20, 99)),
        fc.oneof(fc.constant('all' as const), fc.subarray([10, 20, 99])),
      )
      .map(([native, tagged]): PortMode => ({ mode: 'trunk', native, tagged })),
    fc.constant<PortMode>({ mode: 'off' }),
  )
  it('agree on plans made by chance: native mismatches, tagged natives, everything tagged', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.constantFrom('gate', 'sw'), fc.nat(3), mode), { maxLength: 5 }),
        fc.subarray(['sw', 'gate.2-sw.1', 'desk']),
        (edits, scenario) => {
          agree(
            site((plan: LoosePlan) => {
              for (const [id, edit, mode] of edits) {
                const port = plan.devices.find((d) => d.id === id)?.ports[edit]
                if (port) port.mode = draft(mode)
              }
            }),
            scenario,
          )
        },
      ),
      { numRuns: 200 },
    )
  })
})
