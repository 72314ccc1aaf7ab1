import { spawn } from 'node:child_process'
import { Resolver } from 'node:dns/promises'
import { setTimeout } from 'node:timers/promises'
import { describe, expect } from 'vitest'
import { unboundZones, zoneFiles } from '#core/export'
import type { Plan } from '#core/schema'
import { gullhavenClean } from '#server/demo/gullhaven'
import { freePort } from '../../tools/postgres.mjs'
import { base, site, the } from '../plans'
import { needing, ownFolder, UNBOUND_ALONE } from './programs'

// The name servers themselves are asked: every address of the plan has a name, and that name leads back to it.
// What is expected is read from the plan's text, not from what the exporters share.

const { folder, kept } = ownFolder()

const bothFamilies = site((plan) => {
  const line = the(plan.uplinks, 'line')
  line.facts = { ...line.facts, delegated6: '2001:db8:5::/48' }
  const servers = the(plan.networks, 'servers')
  Object.assign(servers, { mode6: 'slaac', prefix6: '2001:db8:5:3::/64' })
  servers.options.domain = 'servers.example'
  servers.fixed[0]!.ip6 = '2001:db8:5:3::10'
  servers.fixed[0]!.name = 'Tide data, 2nd shelf'
})
const PLANS: readonly (readonly [name: string, plan: Plan, gateway: string])[] = [
  ['the small site', base(), 'gate'],
  ['both families, a domain of its own', bothFamilies, 'gate'],
  ['the demo', gullhavenClean(), 'gateway'],
]

/** Every address that a gateway's networks name, with the domain it is to be found in. */
const expected = (plan: Plan, gateway: string) =>
  plan.networks
    .filter(({ routerId }) => routerId === gateway)
    .flatMap((network) =>
      [network.gateway, ...network.fixed.flatMap(({ ip, ip6 }) => [ip, ip6 ?? []].flat())].map((address) => ({
        address,
        domain: network.options.domain || 'internal',
      })),
    )

/** Waits for a first answer, of whatever kind: until then nobody listens. */
async function ready(resolver: Resolver): Promise<void> {
  for (let tries = 0; tries < 100; tries++) {
    const { code } = await resolver.resolve4('ready.internal').then(
      () => ({ code: '' }),
      (error: NodeJS.ErrnoException) => error,
    )
    if (code !== 'ECONNREFUSED' && code !== 'ETIMEOUT') return
    await setTimeout(100)
  }
  throw new Error('the name server does not answer')
}

/** Starts a name server on a port of its own, and asks it once it answers. */
async function asking(
  program: string,
  args: readonly string[],
  port: number,
  ask: (resolver: Resolver) => Promise<void>,
): Promise<void> {
  const server = spawn(program, [...args], { stdio: ['ignore', 'pipe', 'pipe'] })
  let said = ''
  for (const stream of [server.stdout, server.stderr]) stream.on('data', (part) => (said += String(part)))
  const ended = new Promise<void>((resolve) => server.once('close', () => resolve()))
  const resolver = new Resolver({ timeout: 500, tries: 4 })
  resolver.setServers([`127.0.0.1:${port}`])
  try {
    await ready(resolver)
    await ask(resolver).catch((error: Error) => {
      throw new Error(`${error.message}\n${said.slice(-2000)}`, { cause: error })
    })
  } finally {
    server.kill('SIGKILL')
    await ended
  }
}

async function answersFor(resolver: Resolver, plan: Plan, gateway: string): Promise<void> {
  const wanted = expected(plan, gateway)
  expect(wanted.length).toBeGreaterThan(2)
  for (const { address, domain } of wanted) {
    const names = await resolver.reverse(address)
    expect(names, address).toHaveLength(1)
    const [name = ''] = names
    expect(name.endsWith(`.${domain}`), `${address} is ${name}`).toBe(true)
    const isSix = address.includes(':')
    const back = isSix ? await resolver.resolve6(name) : await resolver.resolve4(name)
    expect(back, name).toEqual([address])
  }
  await expect(resolver.resolve4('nobody.internal')).rejects.toThrow(/ENOTFOUND|ENODATA/)
}

describe('name servers, asked', () => {
  needing('unbound').each(PLANS)('unbound answers from its local zones: %s', async (_, plan, gateway) => {
    const port = await freePort()
    const own = [
      UNBOUND_ALONE,
      '  do-daemonize: no',
      '  interface: 127.0.0.1',
      `  port: ${port}`,
      '  access-control: 127.0.0.0/8 allow',
      '  module-config: "iterator"',
      '',
    ].join('\n')
    const conf = kept(`unbound-${port}.conf`, own + unboundZones(plan, gateway))
    await asking('unbound', ['-d', '-c', conf], port, (resolver) => answersFor(resolver, plan, gateway))
  })

  needing('named').each(PLANS)('named answers from its zone files: %s', async (_, plan, gateway) => {
    const port = await freePort()
    const zones = zoneFiles(plan, gateway, 7).map(({ zone, text }, i) => {
      const file = kept(`zone-${port}-${i}`, text)
      return `zone "${zone}" { type primary; file "${file}"; };`
    })
    const options = [
      `directory "${folder}";`,
      `listen-on port ${port} { 127.0.0.1; };`,
      'listen-on-v6 { none; };',
      'pid-file none;',
      'recursion no;',
      'dnssec-validation no;',
    ]
    const conf = [`options { ${options.join(' ')} };`, 'controls { };', ...zones, ''].join('\n')
    const args = ['-g', '-n', '1', '-c', kept(`named-${port}.conf`, conf)]
    await asking('named', args, port, (resolver) => answersFor(resolver, plan, gateway))
  })

  needing('unbound')('and a name that leads elsewhere shows', async () => {
    const port = await freePort()
    const own = `${UNBOUND_ALONE}  do-daemonize: no\n  interface: 127.0.0.1\n  port: ${port}\n`
    const wrong = unboundZones(base(), 'gate').replace('IN A 10.9.20.10', 'IN A 10.9.20.11')
    const conf = kept(`wrong-${port}.conf`, own + wrong)
    await asking('unbound', ['-d', '-c', conf], port, async (resolver) => {
      await expect(answersFor(resolver, base(), 'gate')).rejects.toThrow()
    })
  })
})
