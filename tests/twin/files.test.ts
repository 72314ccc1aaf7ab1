import { existsSync, readdirSync } from 'node:fs'
import { join } from 'node:path'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  dnsmasqConf,
  hostsFile,
  interfacesJson,
  ip6Rules,
  ipBatch,
  keaConf,
  namedAddresses,
  nftRuleset,
  unboundZones,
  zoneFiles,
} from '#core/export'
import { readRunning } from '#core/ingest'
import type { Plan } from '#core/schema'
import { inNetwork, rule, theDevice } from '#server/demo/build'
import { gullhavenClean, gullhavenPlan } from '#server/demo/gullhaven'
import { base, site, the, type LoosePlan } from '../plans'
import { hostileName, longest, renamed } from '../fixtures/hostile'
import { against, needing, ownFolder, UNBOUND_ALONE } from './programs'
import { randomEdit } from './random'
import { run } from './shell'

// Every file that Able Mast writes, read by the program it is for.
// A program that is not there is said so, and its test skipped.

const { kept } = ownFolder()

const served = (change: (p: LoosePlan) => void = () => undefined) =>
  site((plan) => {
    Object.assign(the(plan.networks, 'staff'), {
      options: {
        dns: ['10.9.20.10', '10.9.20.11'],
        ntp: ['10.9.10.1'],
        domain: 'staff.example',
        controller: { option: 143, address: '10.9.99.5' },
      },
      exclusions: [{ from: '10.9.10.120', to: '10.9.10.129' }],
    })
    the(plan.networks, 'staff').fixed.push({
      id: 'pr',
      ip: '10.9.10.50',
      name: 'Printer, 2nd floor',
      deviceId: null,
      how: 'reserved',
      mask: null,
      gateway: null,
      mac: '00-00-5E-00-53-11',
      ip6: null,
    })
    change(plan)
  })
const sixes = (plan: LoosePlan) => {
  const line = the(plan.uplinks, 'line')
  line.facts = { ...line.facts, delegated6: '2001:db8:5::/48' }
  ;(['slaac', 'stateless', 'stateful'] as const).forEach((mode6, i) =>
    Object.assign(plan.networks[i] ?? {}, { mode6, prefix6: `2001:db8:5:${i + 1}::/64` }),
  )
}
const PLANS: readonly (readonly [string, Plan, string])[] = [
  ['the small site', base(), 'gate'],
  ['options, reservations, exclusions', served(), 'gate'],
  ['both families', served(sixes), 'gate'],
  [
    'both families, an address typed',
    served(
      (plan) => (
        sixes(plan),
        void (the(plan.networks, 'servers').fixed[0]!.ip6 = '2001:db8:5:3::10'),
        plan.policies[0]!.rules.push(rule('six', inNetwork('staff'), theDevice('box'), ['ssh'], ''))
      ),
    ),
    'gate',
  ],
  ['the demo', gullhavenPlan(), 'gateway'],
  ['the clean demo', gullhavenClean(), 'gateway'],
  ['the longest texts', longest(gullhavenPlan()), 'gateway'],
  ...fc
    .sample(hostileName, { seed: 1035, numRuns: 10 })
    .map((name) => [JSON.stringify(name), renamed(gullhavenPlan(), name), 'gateway'] as const),
]

/** Plans made by chance, on which only a crash or an unreadable file would show. */
const chances = fc
  .sample(fc.array(randomEdit, { minLength: 1, maxLength: 6 }), { seed: 8519, numRuns: 25 })
  .map((edits): Plan => site((p) => edits.forEach((e) => e(p))))

describe('nftables, loaded into a namespace of its own', async () => {
  const works = (await against('unshare', ['-Urn', 'nft', 'list', 'ruleset'])) === ''
  needing('nft', works)('reads what is written for each plan', async () => {
    for (const [name, plan, gateway] of PLANS)
      expect(
        await against('unshare', ['-Urn', 'nft', '-f', kept('rules.nft', nftRuleset(plan, gateway) ?? '')]),
        name,
      ).toBe('')
    for (const plan of chances)
      expect(
        await against('unshare', ['-Urn', 'nft', '-f', kept('rules.nft', nftRuleset(plan, 'gate') ?? '')]),
      ).toBe('')
  })
  needing('nft', works)('refuses a broken one: the check can fail', async () => {
    expect(
      await against('unshare', [
        '-Urn',
        'nft',
        '-f',
        kept('rules.nft', (nftRuleset(base(), 'gate') ?? '').replace('accept', 'acept')),
      ]),
    ).not.toBe('')
  })
})

describe('DHCP servers', () => {
  needing('dnsmasq')('dnsmasq reads its file', async () => {
    for (const [name, plan, gateway] of PLANS)
      expect(
        await against('dnsmasq', ['--test', '-C', kept('dnsmasq.conf', dnsmasqConf(plan, gateway))]),
        name,
      ).toMatch(/^(|dnsmasq: syntax check OK\.\n)$/)
    expect(await against('dnsmasq', ['--test', '-C', kept('dnsmasq.conf', 'dhcp-range=what')])).toContain(
      'bad',
    )
  })
  needing('kea-dhcp4')('Kea reads its file, also where pools are cut and options are raw', async () => {
    // Kea asks for the interfaces it is to serve: they are made, without anything behind them, in a namespace
    // of its own.
    const read = (text: string) => {
      const ifaces = (JSON.parse(text) as { Dhcp4: { 'interfaces-config': { interfaces: string[] } } }).Dhcp4[
        'interfaces-config'
      ].interfaces
      return against('unshare', [
        '-Urn',
        'sh',
        '-ec',
        `${ifaces.map((f) => `ip link add name ${f} type bridge`).join('\n')}\nkea-dhcp4 -t ${kept('kea.json', text)}`,
      ])
    }
    for (const [name, plan, gateway] of PLANS) expect(await read(keaConf(plan, gateway)), name).toBe('')
    expect(await read(keaConf(served(), 'gate').replace('10.9.10.100 -', '10.9.77.100 -'))).toContain('pool')
  })
})

describe('name servers', async () => {
  needing('unbound-checkconf')('unbound reads its local zones', async () => {
    for (const [name, plan, gateway] of PLANS)
      expect(
        await against('unbound-checkconf', [
          kept('unbound.conf', UNBOUND_ALONE + unboundZones(plan, gateway)),
        ]),
        name,
      ).toBe('')
    expect(
      await against('unbound-checkconf', [kept('unbound.conf', `${UNBOUND_ALONE}  local-data: "what"\n`)]),
    ).not.toBe('')
  })
  needing('named-checkzone')('each zone file is a zone, forward and reverse', async () => {
    for (const [name, plan, gateway] of PLANS) {
      const zones = zoneFiles(plan, gateway, 7)
      expect(zones.length).toBeGreaterThan(1)
      for (const { zone, text } of zones)
        expect(
          await against('named-checkzone', ['-q', '-i', 'local', zone, kept('zone', text)]),
          `${name}, ${zone}`,
        ).toBe('')
    }
    expect(await against('named-checkzone', ['bad', kept('zone', '@ IN A what\n')])).not.toBe('')
  })
  it('a hosts file has each address once, and labels that RFC 1123 allows', () => {
    for (const [, plan, gateway] of PLANS) {
      const lines = hostsFile(plan, gateway)
        .trim()
        .split('\n')
        .map((l) => l.split(/\s+/))
      expect(lines.map(([ip]) => ip)).toEqual(
        namedAddresses(plan, gateway).flatMap((n) => [n.ip, ...(n.ip6 === null ? [] : [n.ip6])]),
      )
      expect(new Set(lines.map(([ip = '', name]) => `${ip.includes(':') ? 6 : 4} ${name}`)).size).toBe(
        lines.length,
      )
      for (const [, , label] of lines) expect(label).toMatch(/^[a-z0-9]([a-z0-9-]{0,61}[a-z0-9])?$/)
    }
  })
  const bound = (await against('unshare', ['-rm', 'sh', '-ec', 'mount --bind /etc/hosts /etc/hosts'])) === ''
  needing('getent', bound)('the C library reads it: each name leads to its addresses, and back', async () => {
    for (const [title, plan, gateway] of PLANS) {
      const lines = hostsFile(plan, gateway)
        .trim()
        .split('\n')
        .map((l) => l.split(/\s+/))
      const asked = lines.map(
        ([ip = '', name = '', label = '']) =>
          `getent -s files ahosts ${name} | grep -qiF '${ip} '; getent -s files hosts ${ip} | ` +
          `grep -qw '${name}'; getent -s files hosts ${label} >/dev/null`,
      )
      expect(
        await against('unshare', [
          '-rm',
          'sh',
          '-ec',
          `mount --bind ${kept('hosts', hostsFile(plan, gateway))} /etc/hosts\n${asked.join('\n')}`,
        ]),
        title,
      ).toBe('')
    }
    expect(
      await against('unshare', [
        '-rm',
        'sh',
        '-ec',
        `mount --bind ${kept('hosts', '10.9.10.300 box.internal box\n')} /etc/hosts; getent -s files hosts box`,
      ]),
    ).not.toBe('')
  })
})

describe('standard modules', () => {
  const MODULES = '/usr/share/yuma/modules/ietf'
  const have = existsSync(MODULES)
  needing('yanglint', have)('interfaces are valid RFC 8343 and RFC 8344 data', async () => {
    const module = (name: string) =>
      join(MODULES, readdirSync(MODULES).find((f) => f.startsWith(`${name}@`)) ?? name)
    const modules = ['iana-if-type', 'ietf-interfaces', 'ietf-ip'].map(module)
    const read = (text: string) =>
      against('yanglint', ['-t', 'config', '-p', MODULES, ...modules, kept('interfaces.json', text)])
    for (const [name, plan, gateway] of PLANS)
      expect(await read(interfacesJson(plan, gateway)), name).toBe('')
    expect(await read(interfacesJson(base(), 'gate').replace('10.9.10.1', '10.9.10.1000'))).not.toBe('')
    expect(await read(interfacesJson(base(), 'gate').replace('l3ipvlan', 'what'))).not.toBe('')
  })
})

describe('what the programs print again is the plan, and a difference shows', async () => {
  const works = (await against('unshare', ['-Urn', 'nft', 'list', 'ruleset'])) === ''
  const sh = async (script: string) =>
    (await run('unshare', ['-Urn', 'sh', '-ec', script], { maxBuffer: 1e7 })).stdout
  const drifts = (plan: Plan, gateway: string, text: string) => {
    const read = readRunning(plan, gateway, text)
    if (!read.ok) throw new Error(`not read: ${JSON.stringify(read.problems)}`)
    return read.value
  }
  needing('nft', works)('nft -j list ruleset', async () => {
    for (const [name, plan, gateway] of PLANS) {
      const rules = kept('rules.nft', nftRuleset(plan, gateway) ?? '')
      const same = drifts(plan, gateway, await sh(`nft -f ${rules}; nft -j list ruleset`))
      expect(same.drifts, name).toEqual([])
      expect(same.entries).toBeGreaterThan(3)
    }
    for (const plan of chances)
      expect(
        drifts(
          plan,
          'gate',
          await sh(`nft -f ${kept('rules.nft', nftRuleset(plan, 'gate') ?? '')}; nft -j list ruleset`),
        ).drifts,
      ).toEqual([])
    const load = `nft -f ${kept('rules.nft', nftRuleset(base(), 'gate') ?? '')}`
    const after = async (change: string) =>
      drifts(base(), 'gate', await sh(`${load}; ${change}; nft -j list ruleset`)).drifts.map((d) => d.code)
    const timed = site(
      (plan) => (
        plan.schedules.push(
          { id: 'a', name: 'A', days: [1, 7], from: '22:00', to: '06:30' },
          { id: 'b', name: 'B', days: [3], from: '08:00', to: '24:00' },
        ),
        plan.policies[0]!.rules.forEach((r, i) => (r.when = i % 2 === 0 ? 'a' : 'b'))
      ),
    )
    expect(
      drifts(
        timed,
        'gate',
        await sh(`nft -f ${kept('timed.nft', nftRuleset(timed, 'gate') ?? '')}; nft -j list ruleset`),
      ).drifts,
    ).toEqual([])
    expect(await after('nft add rule inet site forward tcp dport 23 accept')).toEqual(['rule-extra'])
    expect(await after('nft flush chain inet site forward')).toEqual(
      Array.from({ length: 5 }, () => 'rule-missing'),
    )
    expect(await after("nft 'chain inet site forward { policy accept; }'")).toEqual(['default-differs'])
    expect(await after('nft delete table inet site')).toEqual(['chain-missing', 'chain-missing'])
    expect(
      await after(
        'nft insert rule inet site forward iifname "lan.10" oifname "wan1" accept; nft delete ' +
          'rule inet site forward handle $(nft -a list chain inet site forward | sed -n ' +
          '"s/.*r2: .*handle //p")',
      ),
    ).toEqual(['rule-moved'])
  })
  needing('ip', works)('ip -j address, route and rule', async () => {
    for (const [name, plan, gateway] of PLANS) {
      const batch = ipBatch(plan, gateway)
      const ifaces = [...new Set([...batch.matchAll(/ dev (\S+)/g)].map(([, dev]) => dev))]
      const make =
        `${ifaces.map((f) => `ip link add name ${f} type bridge; ip link set ${f} up`).join('\n')}\nip ` +
        `-force -batch ${kept('gateway.ip', batch)}`
      for (const object of ['address', 'route', 'rule']) {
        const read = drifts(plan, gateway, await sh(`${make}; ip -j ${object}`))
        expect([name, object, read.kind, read.drifts]).toEqual([name, object, object, []])
      }
      const rules6 = `ip -6 -batch ${kept('gateway-6.ip', ip6Rules(plan, gateway) ?? '')}`
      const read = drifts(plan, gateway, await sh(`${make}; ${rules6}; ip -6 -j rule`))
      expect([name, read.kind, read.drifts]).toEqual([name, 'rule', []])
    }
  })
})
