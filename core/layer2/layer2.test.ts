import { describe, expect, it } from 'vitest'
import { switchOnAir } from '../../tests/twin/switch-on-air'
import { portOf, site, the, type LoosePlan } from '../../tests/plans'
import { access, device, hosts, link, plain, ports, trunk, cat6, draft, ssid } from '#server/demo/build'
import { indexPlan, down } from '#core/queries'
import type { PortMode } from '#core/schema'
import {
  bothWays,
  bridgeNode,
  cablePath,
  vlansOnLinks,
  egressTag,
  endNode,
  vlanGaps,
  ingressVid,
  layer2Of,
  vlanDemands,
  UNTAGGED,
} from '.'

const indexOf = (change: (plan: LoosePlan) => void = () => undefined) => indexPlan(site(change))
const layer2 = (change?: (plan: LoosePlan) => void, failed: readonly string[] = []) =>
  layer2Of(indexOf(change), failed.map(down))

describe('one port, by IEEE 802.1Q-2022 clauses 6.9 and 8.6', () => {
  const modes: readonly (readonly [
    string,
    PortMode,
    Readonly<Record<number, number | null>>,
    Readonly<Record<number, number | null>>,
  ])[] = [
    // name, mode, VID -> tag on the wire, tag on the wire -> VID
    ['access 10', { mode: 'access', vlan: 10 }, { 10: UNTAGGED, 20: null }, { 0: 10, 10: null, 20: null }],
    [
      'trunk native 99 tagged 10 20',
      { mode: 'trunk', native: 99, tagged: [10, 20] },
      { 99: UNTAGGED, 10: 10, 20: 20, 30: null },
      { 0: 99, 10: 10, 30: null, 99: null },
    ],
    [
      'trunk without native',
      { mode: 'trunk', native: null, tagged: [10] },
      { 10: 10, 99: null },
      { 0: null, 10: 10 },
    ],
    ['off', { mode: 'off' }, { 10: null }, { 0: null, 10: null }],
  ]
  it.each(modes)('%s', (_, mode, egress, ingress) => {
    for (const [vid, tag] of Object.entries(egress)) expect(egressTag(mode, Number(vid))).toBe(tag)
    for (const [tag, vid] of Object.entries(ingress)) expect(ingressVid(mode, Number(tag))).toBe(vid)
  })
})

describe('frames', () => {
  it('reach the access ports of their VLAN and no other', () => {
    const spread = layer2().bfsTree(bridgeNode('gate', 10))
    expect(spread.has(endNode('desk', 'p1'))).toBe(true)
    expect(spread.has(endNode('box', 'p1'))).toBe(false)
  })

  it('carry the tag of the trunk and leave untagged at the edge', () => {
    const graph = layer2()
    expect(
      graph
        .bfsTree(bridgeNode('gate', 10))
        .hopsTo(endNode('desk', 'p1'))
        .map((h) => h.tag),
    ).toEqual([10, UNTAGGED])
    expect(
      graph
        .bfsTree(bridgeNode('gate', 99))
        .hopsTo(bridgeNode('sw', 99))
        .map((h) => h.tag),
    ).toEqual([UNTAGGED])
  })

  it('change network over a native mismatch, and only where each end says so', () => {
    const graph = layer2((p) => void (portOf(p, 'sw', 'p1').mode = trunk(20, 10)))
    // Gateway sends 99 untagged; the switch takes untagged as 20.
    // Back, 20 leaves untagged and the gateway takes it as 99.
    expect(graph.bfsTree(bridgeNode('gate', 99)).has(endNode('box', 'p1'))).toBe(true)
    expect(graph.bfsTree(bridgeNode('gate', 20)).has(bridgeNode('sw', 20))).toBe(false)
    expect(bothWays(graph, bridgeNode('gate', 99), endNode('box', 'p1'))).toBe(true)
  })

  it('go one way only where one end drops what the other sends', () => {
    // The gateway tags 10; the switch has 10 as native, so it drops tagged 10 coming in but sends 10
    // untagged, which lands in 99.
    const graph = layer2((p) => void (portOf(p, 'sw', 'p1').mode = trunk(10, 20)))
    expect(graph.bfsTree(bridgeNode('gate', 10)).has(endNode('desk', 'p1'))).toBe(false)
    expect(graph.bfsTree(endNode('desk', 'p1')).has(bridgeNode('gate', 99))).toBe(true)
    expect(graph.bfsTree(endNode('desk', 'p1')).has(bridgeNode('gate', 10))).toBe(false)
  })

  it('pass an unmanaged switch with their tags as they are, and end hosts drop tagged ones', () => {
    const strip = (plan: LoosePlan) => {
      plan.devices.push(
        device('strip', 'Strip', 'unmanaged', '', 'Room', null, ports({ 1: plain, 2: plain })),
        hosts('late', 'Late', 'Room', 'staff', 1),
      )
      plan.links.push(link('sw:4', 'strip:1', cat6(2)), link('strip:2', 'late:1', cat6(2)))
    }
    const untagged = layer2((p) => (strip(p), void (portOf(p, 'sw', 'p4').mode = access(10))))
    expect(bothWays(untagged, bridgeNode('gate', 10), endNode('late', 'p1'))).toBe(true)
    const tagged = layer2((p) => (strip(p), void (portOf(p, 'sw', 'p4').mode = trunk(99, 10))))
    expect(tagged.bfsTree(bridgeNode('gate', 10)).has(bridgeNode('strip', 10))).toBe(true)
    expect(tagged.bfsTree(bridgeNode('gate', 10)).has(endNode('late', 'p1'))).toBe(false)
    expect(tagged.bfsTree(bridgeNode('gate', 99)).has(endNode('late', 'p1'))).toBe(true)
  })

  it('of an SSID leave the access points that send it, and no other', () => {
    const air = (apIds: string[]) =>
      layer2((plan) => {
        plan.devices.push(
          device(
            'ap',
            'AP',
            'access-point',
            'A2',
            'Room',
            null,
            ports({ 1: trunk(10), r: { mode: 'radio' } }),
          ),
          hosts('guest', 'Guest', 'Room', 'staff', 1),
        )
        plan.ssids.push(ssid({ id: 's', name: 'Air', networkId: 'staff', isolation: false, apIds }))
        portOf(plan, 'sw', 'p4').mode = trunk(10)
        plan.links.push(
          link('sw:4', 'ap:1', cat6(5)),
          link('ap:r', 'guest:1', { kind: 'wifi', ssidId: 's', fourAddress: false, suffix: '' }),
        )
      })
    expect(bothWays(air(['ap']), bridgeNode('gate', 10), endNode('guest', 'p1'))).toBe(true)
    expect(air([]).bfsTree(bridgeNode('gate', 10)).has(endNode('guest', 'p1'))).toBe(false)
    expect(air([]).bfsTree(endNode('guest', 'p1')).has(bridgeNode('gate', 10))).toBe(false)
  })

  it('with tags pass to a bridge that has joined with four-address frames, and to no other', () => {
    const desk = endNode('far', 'p1')
    expect(bothWays(layer2(switchOnAir(true)), bridgeNode('gate', 10), desk)).toBe(true)
    expect(layer2(switchOnAir(false)).bfsTree(bridgeNode('gate', 10)).has(desk)).toBe(false)
  })

  it('of a VLAN do not leave by a routed port, and a routed port takes untagged ones alone', () => {
    const joined = (mode: PortMode) =>
      layer2((plan) => {
        plan.devices.push(
          device(
            'far',
            'Far',
            'gateway',
            '',
            'Room',
            null,
            ports({ 1: { mode: 'routed', address: '10.9.255.2/30', address6: null } }),
          ),
        )
        the(plan.devices, 'gate').ports.push({
          ...structuredClone(portOf(plan, 'gate', 'p2')),
          id: 'p5',
          name: '5',
          mode: draft(mode),
        })
        plan.links.push(link('gate:5', 'far:1', cat6(2)))
      })
    const routed = joined({ mode: 'routed', address: '10.9.255.1/30', address6: null })
    expect(bothWays(routed, endNode('gate', 'p5'), endNode('far', 'p1'))).toBe(true)
    expect(routed.bfsTree(endNode('gate', 'p5')).nodes).toEqual([endNode('gate', 'p5'), endNode('far', 'p1')])
    expect(routed.bfsTree(bridgeNode('gate', 10)).has(endNode('far', 'p1'))).toBe(false)
    // An access port sends its VLAN untagged, and that is taken; what a trunk tags is not.
    expect(joined(access(10)).bfsTree(bridgeNode('gate', 10)).has(endNode('far', 'p1'))).toBe(true)
    expect(joined(trunk(null, 10)).bfsTree(bridgeNode('gate', 10)).has(endNode('far', 'p1'))).toBe(false)
  })

  it('do not cross what has failed', () => {
    for (const failed of ['sw', 'desk', 'gate.2-sw.1'])
      expect(layer2(undefined, [failed]).bfsTree(bridgeNode('gate', 10)).has(endNode('desk', 'p1'))).toBe(
        false,
      )
    expect(layer2(undefined, ['sw.3-box.1']).bfsTree(bridgeNode('gate', 10)).has(endNode('desk', 'p1'))).toBe(
      true,
    )
  })
})

describe('threads and knots', () => {
  it('a right plan has no knot and carries each VLAN both ways', () => {
    const index = indexOf()
    expect(vlanGaps(index, [])).toEqual([])
    const trunkThreads = vlansOnLinks(index, []).filter((c) => c.linkId === 'gate.2-sw.1')
    expect(trunkThreads.map((c) => [c.vlan, c.tag, c.fromA && c.fromB])).toEqual([
      [10, 10, true],
      [20, 20, true],
      [99, UNTAGGED, true],
    ])
  })

  it('a VLAN left off one port of a trunk is a knot at that port', () => {
    const gaps = vlanGaps(
      indexOf((p) => void (portOf(p, 'gate', 'p2').mode = trunk(99, 10))),
      [],
    )
    expect(gaps).toEqual([
      {
        networkId: 'servers',
        vlan: 20,
        port: { deviceId: 'gate', portId: 'p2' },
        linkId: 'gate.2-sw.1',
        affected: ['box'],
        mend: 'tag',
      },
    ])
  })

  it('left off both ports it is two knots; a port that is off cannot be mended by a tag', () => {
    const both = vlanGaps(
      indexOf((plan) => {
        portOf(plan, 'gate', 'p2').mode = trunk(99, 10)
        portOf(plan, 'sw', 'p1').mode = trunk(99, 10)
      }),
      [],
    )
    expect(both.map((k) => k.port.deviceId)).toEqual(['gate', 'sw'])
    const off = vlanGaps(
      indexOf((p) => void (portOf(p, 'sw', 'p3').mode = { mode: 'off' })),
      [],
    )
    expect(off.map((k) => [k.port.portId, k.mend])).toEqual([['p3', null]])
  })

  it('over Wi-Fi are told of once, where the device has joined, and not with four-address frames', () => {
    const told = (fourAddress: boolean) =>
      vlanGaps(indexPlan(site(switchOnAir(fourAddress, 'access-point'))), []).map(
        ({ port, vlan }) => `${port.deviceId} ${port.portId} ${vlan}`,
      )
    expect([told(false), told(true)]).toEqual([['ext pup 10'], []])
  })

  it('needs are hosts, SSIDs and a device’s own address', () => {
    const needs = vlanDemands(
      indexPlan(
        site((plan) => {
          plan.devices.push(
            device('ap', 'AP', 'access-point', 'A2', 'Room', 'management', ports({ 1: trunk(99, 10) })),
          )
          plan.ssids.push(ssid({ id: 's', name: 'Air', networkId: 'staff', isolation: false, apIds: ['ap'] }))
        }),
      ),
    )
    expect(needs.map((n) => `${n.deviceId} ${n.networkId} ${n.why}`)).toEqual([
      'sw management management',
      'desk staff hosts',
      'box servers hosts',
      'ap management management',
      'ap staff ssid',
    ])
  })

  it('follows cables whatever the VLANs, and stops at what failed', () => {
    const index = indexPlan(site())
    expect(cablePath(index, new Set(), 'gate', 'box')?.map((l) => l.id)).toEqual([
      'gate.2-sw.1',
      'sw.3-box.1',
    ])
    expect(cablePath(index, new Set(['sw']), 'gate', 'box')).toBeNull()
    expect(the(site().links, 'gate.2-sw.1').medium.kind).toBe('copper')
  })
})
