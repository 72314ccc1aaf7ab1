import { describe, expect, it } from 'vitest'
import { site, the, type LoosePlan } from '../../../tests/plans'
import { inOldWords } from '../../../tests/fixtures/old-words'
import { BLANK_CELLULAR } from '#core/edit'
import { PLAN_VERSION } from '#core/format'
import { upgradePlan, type Plan } from '..'

describe('a plan of an older version', () => {
  it('means the same in the words of today', () => {
    const now = site()
    const old = inOldWords(now) as unknown as Record<string, unknown> & LoosePlan
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
      })
      the(plan.devices, 'gate').ports[1]!.mode = {
        mode: 'routed',
        address: '10.9.255.1/30',
        address6: null,
      }
    })
    const old = inOldWords(now) as unknown as {
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
    expect(upgradePlan(old)).toEqual(now)
  })
})

describe('a plan of version 6', () => {
  it(
    'gets hosts that make their own IPv6 addresses, cellular uplinks of which nothing is ' +
      'known, no groups, and no defaults of pairs',
    () => {
      const now = site((p) => void (the(p.uplinks, 'line').facts.cellular = BLANK_CELLULAR))
      const old = inOldWords(now) as unknown as {
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
      expect(upgradePlan(old)).toEqual(now)
      old.uplinks[0]!.facts['cellular'] = false
      expect(upgradePlan(old)).toEqual(site())
    },
  )
})
