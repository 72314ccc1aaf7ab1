import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { access } from '#server/demo/build'
import { gullhavenPlan } from '#server/demo/gullhaven'
import { contains, overlaps, parseIpv4, parsePrefix4, type Prefix4 } from '#core/address'
import { analyse } from '#core/findings'
import { site, the, type LoosePlan } from '../../tests/plans'
import {
  addDevice,
  addUplink,
  addPeer,
  addressInfrastructure,
  addTunnel,
  BLANK_CELLULAR,
  isEndpoint,
  isPublicKey,
  blankPlan,
  PLAN_VERSION,
  connect,
  disconnect,
  layAllotments,
  layTemplate,
  MODELS,
  modelNamed,
  moveNetwork,
  namesIn,
  placeNetwork,
  portNamed,
  indexPlan,
  portGroupsByName,
  portsOfModel,
  proposeSubnets,
  removeDevice,
  removeUplink,
  setPorts,
  spanOf,
  templateFrom,
  upgradePlan,
  type Network,
  type Plan,
} from '.'

const prefix = (text: string): Prefix4 => {
  const read = parsePrefix4(text)
  if (!read.ok) throw new Error(text)
  return read.value
}
const NONE: ReadonlySet<string> = new Set()
const still = { move: false, moveAdopted: false, adopted: NONE }
const need = (id: string, count: number, vlan: number | null = null, growthPct = 0) => ({
  id,
  name: id,
  count,
  growthPct,
  vlan,
  networkId: null,
})

describe('subnets from needs', () => {
  const wanted = (change: (p: LoosePlan) => void) =>
    site((plan) => {
      plan.brief.needs.push(need('Cameras', 40, 40) as never, need('Voice', 20, 30, 50) as never)
      change(plan)
    })
  it('follow the habit: a /24 with the VLAN number as third octet', () => {
    const rows = proposeSubnets(
      wanted(() => undefined),
      still,
    )
    expect(rows.map((r) => [r.name, r.what, r.after])).toEqual([
      ['Management', 'kept', '10.9.99.0/24'],
      ['Staff', 'kept', '10.9.10.0/24'],
      ['Servers', 'kept', '10.9.20.0/24'],
      ['Cameras', 'new', '10.9.40.0/24'],
      ['Voice', 'new', '10.9.30.0/24'],
    ])
    expect(rows.find((r) => r.name === 'Voice')?.hosts).toBe(30)
  })
  it('or the tightest gap, by size from count and growth', () => {
    const rows = proposeSubnets(
      wanted((p) => void (p.site.subnetPolicy = 'best-fit')),
      still,
    )
    expect(rows.slice(3).map((r) => r.after?.split('/')[1])).toEqual(['26', '26'])
  })
  it('laid on the plan become networks that raise no finding of their own, and the need knows them', () => {
    const plan = wanted(() => undefined)
    const laid = layAllotments(plan, proposeSubnets(plan, still))
    expect(laid.networks).toHaveLength(5)
    expect(laid.brief.needs.map((n) => n.networkId)).toEqual(['vlan-40', 'vlan-30'])
    expect(analyse(indexPlan(laid), []).findings.filter((f) => f.code.startsWith('A'))).toEqual([])
    expect(proposeSubnets(laid, still).every((r) => r.what === 'kept')).toBe(true)
  })
  it('leave what is pinned or adopted, and say so; adopted ones move only when told', () => {
    const plan = wanted((plan) => {
      plan.site.subnetPolicy = 'best-fit'
      the(plan.networks, 'staff').pinned = true
    })
    const adopted = new Set(['sw'])
    const held = proposeSubnets(plan, { move: true, moveAdopted: false, adopted })
    expect(held.slice(0, 3).map((r) => [r.name, r.what, r.held])).toEqual([
      ['Management', 'kept', 'adopted'],
      ['Staff', 'kept', 'pinned'],
      ['Servers', 'moved', null],
    ])
    expect(proposeSubnets(plan, { move: true, moveAdopted: true, adopted })[0]).toMatchObject({
      what: 'moved',
      adopted: 1,
    })
  })
  it('say where there is no room, and then change nothing there', () => {
    const plan = site((plan) => {
      plan.site.supernet = '10.9.10.0/24'
      plan.networks = plan.networks.filter((n) => n.id === 'staff')
      plan.brief.needs.push(need('Cameras', 40) as never)
    })
    const rows = proposeSubnets(plan, still)
    expect(rows.map((r) => r.what)).toEqual(['kept', 'no-room'])
    expect(layAllotments(plan, rows)).toEqual(plan)
  })
  it('never overlap, whatever is asked', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(900), fc.option(fc.integer({ min: 1, max: 300 }))), { maxLength: 12 }),
        fc.constantFrom('octet' as const, 'best-fit' as const),
        (needs, policy) => {
          const plan = site((plan) => {
            plan.site.subnetPolicy = policy
            needs.forEach(([count, vlan], i) => plan.brief.needs.push(need(`n${i}`, count, vlan) as never))
          })
          const laid = layAllotments(plan, proposeSubnets(plan, still))
          const all = laid.networks.map((n) => prefix(n.subnet))
          all.forEach((a, i) => all.slice(i + 1).forEach((b) => expect(overlaps(a, b)).toBe(false)))
          expect(new Set(laid.networks.map((n) => n.vlan)).size).toBe(laid.networks.length)
        },
      ),
      { numRuns: 60 },
    )
  })
})

describe('a network that moves', () => {
  const servers = (p: Plan = site()) => the(p.networks, 'servers') as Network
  it('takes every address with it, each at its place from the start', () => {
    const moved = moveNetwork(
      { ...the(site().networks, 'staff'), fixed: servers().fixed.map((f) => ({ ...f, ip: '10.9.10.10' })) },
      prefix('10.9.44.0/24'),
    )
    expect([moved.gateway, moved.pool, moved.fixed[0]?.ip]).toEqual([
      '10.9.44.1',
      { from: '10.9.44.100', to: '10.9.44.199' },
      '10.9.44.10',
    ])
  })
  it('into a smaller one, what has no place any more takes the lowest free one', () => {
    const moved = moveNetwork(
      { ...servers(), fixed: [{ ...servers().fixed[0], ip: '10.9.20.200' } as never] },
      prefix('10.9.20.0/28'),
    )
    expect([moved.gateway, moved.fixed[0]?.ip]).toEqual(['10.9.20.1', '10.9.20.2'])
  })
  it('is refused where it collides, leaves the block, or is too small for what is in it', () => {
    const plan = site()
    const code = (to: string) => {
      const result = placeNetwork(plan, 'servers', prefix(to))
      return result.ok ? 'ok' : result.problems[0]?.code
    }
    expect([
      code('10.9.10.128/25'),
      code('10.10.0.0/24'),
      code('10.9.77.0/32'),
      code('10.9.77.0/24'),
    ]).toEqual(['collides', 'outside-block', 'too-small', 'ok'])
    const placed = placeNetwork(plan, 'servers', prefix('10.9.77.0/24'))
    expect(placed.ok && the(placed.value.networks, 'servers').pinned).toBe(true)
  })
  it('any move keeps every address inside', () => {
    const plan = gullhavenPlan()
    fc.assert(
      fc.property(
        fc.constantFrom(...plan.networks),
        fc.integer({ min: 22, max: 27 }),
        fc.nat(63),
        (network, length, at) => {
          const to: Prefix4 = {
            base: (prefix('172.16.0.0/12').base + at * 2 ** (32 - length)) as Prefix4['base'],
            length,
          }
          const moved = moveNetwork(network, to)
          for (const text of [
            moved.gateway,
            ...moved.fixed.map((f) => f.ip),
            ...(moved.pool ? [moved.pool.from, moved.pool.to] : []),
          ]) {
            const ip = parseIpv4(text)
            expect(ip.ok && contains(to, ip.value)).toBe(true)
          }
          expect(new Set([moved.gateway, ...moved.fixed.map((f) => f.ip)]).size).toBe(moved.fixed.length + 1)
        },
      ),
      { numRuns: 150 },
    )
  })
})

describe('many ports at once', () => {
  it('spans are read and written', () => {
    expect(namesIn('1-3, lan, 7')).toEqual(['1', '2', '3', 'lan', '7'])
    expect(namesIn('5-2')).toEqual(['5-2'])
    expect(spanOf(['7', '1', '2', '3', 'lan', '2'])).toBe('1-3, 7, lan')
    fc.assert(
      fc.property(fc.uniqueArray(fc.integer({ min: 1, max: 60 }), { minLength: 1 }), (ns) => {
        expect(namesIn(spanOf(ns.map(String))).map(Number)).toEqual([...ns].sort((a, b) => a - b))
      }),
    )
  })
  it('are set together, or not at all', () => {
    const done = setPorts(site(), 'sw', '2-4', { mode: access(20) })
    expect(
      done.ok && the(done.value.devices, 'sw').ports.map((p) => (p.mode.mode === 'access' ? p.mode.vlan : 0)),
    ).toEqual([0, 20, 20, 20])
    const wrong = setPorts(site(), 'sw', '2-6', { mode: access(20) })
    expect(!wrong.ok && wrong.problems.map((p) => [p.code, p.values['text']])).toEqual([
      ['no-such-port', '5'],
      ['no-such-port', '6'],
    ])
    expect(setPorts(site(), 'sw', ' ', { mode: access(20) }).ok).toBe(false)
  })
  it('a template is a port map, and laid elsewhere gives the same', () => {
    const plan = gullhavenPlan()
    const template = templateFrom(plan, 'lab-switch', 'As the laboratory')
    expect(template?.ports[0]).toEqual({ names: '1-12', mode: access(10) })
    const cleared = setPorts(plan, 'lab-switch', '1-28', { mode: { mode: 'off' } })
    const back = cleared.ok && template && layTemplate(cleared.value, 'lab-switch', template)
    expect(back && back.ok && back.value).toEqual(plan)
    expect(template && layTemplate(plan, 'boat-switch', template).ok).toBe(false)
  })
})

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

describe('a plan of an older version', () => {
  it('means the same in the words of today', () => {
    const now = site()
    const old = structuredClone(now) as unknown as Record<string, unknown> & LoosePlan
    const drop = (item: object, ...keys: string[]) => keys.forEach((k) => Reflect.deleteProperty(item, k))
    drop(old, 'policyRoutes', 'forwards', 'tunnels')
    Object.assign(old, { version: 1, site: { name: now.site.name, supernet: now.site.supernet } })
    drop(old, 'brief', 'models', 'templates')
    for (const network of old.networks) {
      drop(
        network,
        'relayTo',
        'exclusions',
        'leaseS',
        'options',
        'growthPct',
        'arrivalsPerH',
        'stayH',
        'pinned',
        'prefix6',
        'mode6',
      )
      for (const assignment of network.fixed) drop(assignment, 'mac')
    }
    for (const device of old.devices) {
      drop(device, 'mains', 'stpPriority')
      for (const port of device.ports) drop(port, 'speedMbps', 'optic', 'poe')
    }
    for (const link of old.links) drop(link, 'lag')
    for (const uplink of old.uplinks)
      drop(
        uplink,
        'facts',
        'probe',
        'standby',
        'bringUpS',
        'holdDownS',
        'fates',
        'lossPct',
        'availablePct',
        'usualGbPerDay',
      )
    const raised = upgradePlan(old) as unknown as Plan
    expect(raised.version).toBe(PLAN_VERSION)
    expect({ ...raised, brief: now.brief, uplinks: now.uplinks }).toEqual(now)
    expect(upgradePlan(raised as unknown as Record<string, unknown>)).toBe(raised)
  })
})

describe('a plan of version 4', () => {
  it('gets tunnels and routed ports that carry IPv4 alone, intents that are not logged, and nobody told', () => {
    const now = site((plan) => {
      plan.tunnels.push({
        id: 't',
        name: 'T',
        deviceId: 'gate',
        publicName: null,
        nameEveryS: 300,
        nameTtlS: 60,
        address: '10.9.200.1/24',
        address6: null,
        listenPort: 51820,
        mtu: 1420,
        publicKey: null,
        mapped: [],
        peers: [
          {
            id: 'p',
            name: 'P',
            kind: 'person',
            publicKey: null,
            next: null,
            allowed: [],
            theirAllowed: [],
            endpoint: null,
            downMbps: null,
            upMbps: null,
            keepaliveS: null,
          },
        ],
      } as never)
      the(plan.devices, 'gate').ports[1]!.mode = {
        mode: 'routed',
        address: '10.9.255.1/30',
        address6: null,
      } as never
    })
    const old = structuredClone(now) as unknown as {
      version: number
      site: Record<string, unknown>
      intents: Record<string, unknown>[]
      tunnels: Record<string, unknown>[]
      devices: { ports: { mode: Record<string, unknown> }[] }[]
    }
    old.version = 4
    const [tunnel] = old.tunnels as [Record<string, unknown> & { peers: Record<string, unknown>[] }]
    for (const field of ['address6', 'nameEveryS', 'nameTtlS']) delete tunnel[field]
    for (const field of ['downMbps', 'upMbps']) delete tunnel.peers[0]![field]
    delete old.site['toldTo']
    for (const intent of old.intents) delete intent['log']
    delete old.devices.find((d) => d.ports[1]?.mode['mode'] === 'routed')!.ports[1]!.mode['address6']
    expect(upgradePlan(old as never)).toEqual(now)
  })
})

describe('a plan of version 6', () => {
  it(
    'gets hosts that make their own IPv6 addresses, cellular lines of which nothing is ' +
      'known, no groups, and no defaults of pairs',
    () => {
      const now = site((p) => void (the(p.uplinks, 'line').facts.cellular = BLANK_CELLULAR))
      const old = structuredClone(now) as unknown as {
        version: number
        networks: { fixed: Record<string, unknown>[] }[]
        uplinks: { facts: Record<string, unknown> }[]
      }
      old.version = 6
      delete (old as { groups?: unknown }).groups
      for (const policy of (old as unknown as { policies: Record<string, unknown>[] }).policies)
        delete policy['pairs']
      for (const fixed of old.networks.flatMap((n) => n.fixed)) delete fixed['ip6']
      old.uplinks[0]!.facts['cellular'] = true
      expect(upgradePlan(old as never)).toEqual(now)
      old.uplinks[0]!.facts['cellular'] = false
      expect(upgradePlan(old as never)).toEqual(site())
    },
  )
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
        wants: null,
        count: 1,
      }),
    ).plan
  it('begins with the internet, takes a gateway with closed rules, and a line on its WAN port', () => {
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
      wants: null,
      count: 1,
    })
    expect(!twin.ok && twin.problems.map((p) => p.code)).toEqual(['name-taken'])
    const added = value(
      addDevice(plan, {
        name: 'Hall switch',
        kind: 'switch',
        model: 'S8P',
        place: 'Hall',
        wants: null,
        count: 1,
      }),
    )
    expect([added.id, added.plan.devices.at(-1)?.ports.length]).toEqual(['hall-switch', 10])
    expect(
      value(addDevice(plan, { name: 'Desks', kind: 'hosts', model: '', place: '', wants: null, count: 4 }))
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
    expect(code('Switch 4', 'Desk 1', { kind: 'wifi', ssidId: 's' })).toBe('ok')
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
