import { describe, expect, it } from 'vitest'
import { gullhavenPlan } from '#server/demo/gullhaven'
import { site, the } from '../../tests/plans'
import {
  addDevice,
  addUplink,
  addPeer,
  addressInfrastructure,
  addTunnel,
  blankPlan,
  connect,
  disconnect,
  portNamed,
  portsOfModel,
  removeDevice,
  removeUplink,
} from '.'
import { isEndpoint, isPublicKey } from '#core/format'
import { MODELS, modelNamed, namesIn, portGroupsByName } from '#core/queries'
import type { Plan } from '#core/schema'

describe('infrastructure', () => {
  it('gets an address for good, by either school, and nobody else does', () => {
    const bare = site((p) => void (the(p.networks, 'management').fixed = []))
    const reserved = the(addressInfrastructure(bare, 'reserved').networks, 'management').fixed
    expect(reserved.map((f) => [f.deviceId, f.ip, f.how])).toEqual([['sw', '10.9.99.2', 'reserved']])
    expect(
      the(addressInfrastructure(site(), 'static').networks, 'management').fixed.map((f) => f.how),
    ).toEqual(['static'])
    expect(the(addressInfrastructure(site(), 'reserved').networks, 'servers').fixed).toEqual(
      the(site().networks, 'servers').fixed,
    )
  })
})

describe('the catalogue', () => {
  it('says of each port what it is', () => {
    const s24 = modelNamed('S24P')
    expect(
      s24 && [
        portGroupsByName(s24).get('7')?.source,
        portGroupsByName(s24).get('27')?.kind,
        portGroupsByName(s24).get('99'),
      ],
    ).toEqual([{ standard: 'ieee', class: 4 }, 'sfp', undefined])
    const camera = modelNamed('K3')
    expect(camera && portGroupsByName(camera).get('*')?.load).toMatchObject({ class: 3 })
  })
  it('has no port twice, and no budget that its ports could not use', () => {
    for (const model of MODELS) {
      const names = model.ports.flatMap((g) => namesIn(g.names))
      expect(new Set(names).size).toBe(names.length)
      if (model.poeBudgetW !== null) expect(model.ports.some((g) => g.source)).toBe(true)
    }
  })
  it('makes the ports of a new device', () => {
    const made = portsOfModel(site(), 'S8P', 'switch', 99)
    expect(made.map((p) => [p.name, p.mode.mode])).toEqual([
      ...Array.from({ length: 8 }, (_, i) => [String(i + 1), 'access']),
      ['9', 'off'],
      ['10', 'off'],
    ])
  })
})

describe('tunnels that grow', () => {
  it('each peer gets the lowest free address, the last is told that there is no room', () => {
    const begun = addTunnel(site())
    if (!begun) throw new Error('no gateway')
    let plan: Plan = {
      ...begun.plan,
      tunnels: begun.plan.tunnels.map((t) => ({ ...t, address: '10.255.0.2/29' })),
    }
    const given: string[] = []
    for (let made = addPeer(plan, begun.id); made.ok; made = addPeer(plan, begun.id)) {
      plan = made.value.plan
      given.push(plan.tunnels[0]?.peers.at(-1)?.allowed[0] ?? '')
    }
    // A /29 has six hosts (RFC 1878); the gateway has one of them.
    expect(given).toEqual([
      '10.255.0.1/32',
      '10.255.0.3/32',
      '10.255.0.4/32',
      '10.255.0.5/32',
      '10.255.0.6/32',
    ])
    expect(new Set(plan.tunnels[0]?.peers.map((p) => p.id)).size).toBe(5)
    expect(addPeer(plan, begun.id)).toMatchObject({ ok: false, problems: [{ code: 'no-room' }] })
    expect(addTunnel({ ...plan, devices: [] })).toBeNull()
  })
  it('keys and endpoints are read by their form', () => {
    // The public key of RFC 7748 section 6.1 in base64.
    expect(isPublicKey('hSDwCYkwp1R0i33ctD73Wg2/Og0mOBr066SpjqqbTmo=')).toBe(true)
    for (const bad of [
      '',
      'hSDwCYkwp1R0i33ctD73Wg2/Og0mOBr066SpjqqbTmp=',
      'hSDwCYkwp1R0i33ctD73Wg2/Og0mOBr066SpjqqbTmo',
      // With it every shared secret is zero (section 6.1).
      `${'A'.repeat(43)}=`,
    ])
      expect(isPublicKey(bad)).toBe(false)
    expect(
      ['vpn.example:51820', '[2001:db8::1]:51820', 'vpn.example', 'vpn.example:70000', 'a b:1'].map(
        isEndpoint,
      ),
    ).toEqual([true, true, false, false, false])
  })
})

describe('a plan that grows', () => {
  const value = <T>(result: { readonly ok: true; readonly value: T } | { readonly ok: false }): T => {
    if (!result.ok) throw new Error('refused')
    return result.value
  }
  const begun = () =>
    value(
      addDevice(blankPlan('New', '10.1.0.0/16'), {
        name: 'Gate',
        kind: 'gateway',
        model: 'G4',
        place: 'Hall',
        homeNetworkId: null,
        count: 1,
      }),
    ).plan
  it('begins with the internet, takes a gateway with closed rules, and an uplink on its WAN port', () => {
    const plan = value(addUplink(begun(), 'Fibre'))
    expect(plan.policies).toEqual([
      { deviceId: 'gate', forward: 'drop', input: 'drop', rules: [], pairs: [] },
    ])
    expect(plan.uplinks.map((u) => [u.portId, u.priority])).toEqual([['p1', 1]])
    expect(plan.links[0]?.medium.kind).toBe('line')
    expect(removeUplink(plan, 'fibre').links).toEqual([])
    expect(addUplink(blankPlan('New', '10.1.0.0/16'), 'x').ok).toBe(false)
  })
  it('two devices are not called the same, and have the ports of their models', () => {
    const plan = begun()
    const twin = addDevice(plan, {
      name: ' gate ',
      kind: 'switch',
      model: 'S8P',
      place: '',
      homeNetworkId: null,
      count: 1,
    })
    expect(!twin.ok && twin.problems.map((p) => p.code)).toEqual(['name-taken'])
    const added = value(
      addDevice(plan, {
        name: 'Hall switch',
        kind: 'switch',
        model: 'S8P',
        place: 'Hall',
        homeNetworkId: null,
        count: 1,
      }),
    )
    expect([added.id, added.plan.devices.at(-1)?.ports.length]).toEqual(['hall-switch', 10])
    expect(
      value(
        addDevice(plan, {
          name: 'Desks',
          kind: 'hosts',
          model: '',
          place: '',
          homeNetworkId: null,
          count: 4,
        }),
      )
        .plan.devices.at(-1)
        ?.ports.map((p) => p.name),
    ).toEqual(['1', '2', '3', '4'])
  })
  it('a port takes one plug; a radio takes many; the ends are two devices', () => {
    const plan = site()
    const cable = { kind: 'copper', category: 'Cat6', lengthM: 3, run: 'indoor' } as const
    const code = (first: string, second: string, medium: Parameters<typeof connect>[3] = cable) => {
      const result = connect(plan, value(portNamed(plan, first)), value(portNamed(plan, second)), medium)
      return result.ok ? 'ok' : result.problems.map((p) => p.code).join()
    }
    expect([
      code('Switch 4', 'Switch 3'),
      code('Switch 2', 'Box 1'),
      code('switch 4', 'Terminal lan'),
    ]).toEqual(['port-taken,same-device', 'port-taken,port-taken', 'port-taken'])
    expect(code('Switch 4', 'Desk 1', { kind: 'wifi', ssidId: 's', fourAddress: false, suffix: '' })).toBe(
      'ok',
    )
    expect(portNamed(plan, 'Switch 9').ok).toBe(false)
    const laid = value(
      connect(
        disconnect(plan, 'sw.2-desk.1'),
        value(portNamed(plan, 'Switch 4')),
        value(portNamed(plan, 'Desk 1')),
        cable,
      ),
    )
    expect(laid.links.at(-1)?.id).toBe('sw.4-desk.1')
  })
  it('what hangs on a removed device goes with it; its address stays, as nobody’s', () => {
    const plan = removeDevice(gullhavenPlan(), 'boat-ap')
    expect(plan.links.some((l) => [l.a, l.b].some((r) => r.deviceId === 'boat-ap'))).toBe(false)
    expect(plan.ssids.flatMap((s) => s.apIds)).not.toContain('boat-ap')
    expect(the(plan.networks, 'management').fixed.find((f) => f.ip === '10.61.0.13')?.deviceId).toBeNull()
    expect(removeDevice(gullhavenPlan(), 'gateway').uplinks).toEqual([])
  })
})
