import { existsSync, readFileSync, rmSync } from 'node:fs'
import { spawn, type ChildProcess } from 'node:child_process'
import { setTimeout } from 'node:timers/promises'
import { afterEach, describe, expect } from 'vitest'
import { dnsmasqConf, keaConf } from '#core/export'
import { BLANK_FIXED } from '#core/edit'
import type { Network, Plan } from '#core/schema'
import { base, site, the, type LoosePlan } from '../plans'
import { valueOf } from './lease-room'
import { needing, ownFolder } from './programs'
import { removeNamespace, stemOf } from './sweep'
import { saySkipped, whyNot } from './why-not'
import { bash, run } from './shell'

// Clients ask the servers that Able Mast writes files for, and what they are given is what the plan says.
// What is expected is read from the plan's text: RFC 2131 (who gets which address), RFC 2132 (options),
// RFC 5417 (option 138), RFC 8572 section 8 (option 143).

const { folder, kept } = ownFolder()
const reason = await whyNot()
if (reason) saySkipped('leases', reason)
const STEM = stemOf('leases')
const SERVER = `${STEM}server`

/** What a client was given: option by option, in the words of udhcpc; null where nobody answered. */
type Lease = Readonly<Record<string, string>> | null

interface Server {
  readonly program: 'kea-dhcp4' | 'dnsmasq'
  readonly start: (plan: Plan) => ChildProcess
}

const inServer = (program: string, args: readonly string[], env: NodeJS.ProcessEnv = {}) =>
  spawn('ip', ['netns', 'exec', SERVER, program, ...args], {
    stdio: 'ignore',
    env: { ...process.env, ...env },
  })

const SERVERS: readonly Server[] = [
  {
    program: 'dnsmasq',
    start: (plan) => {
      const conf = kept('dnsmasq.conf', dnsmasqConf(plan, 'gate'))
      const own = [`--dhcp-leasefile=${folder}/leases`, '--pid-file', '--user=root', '--keep-in-foreground']
      return inServer('dnsmasq', [`--conf-file=${conf}`, ...own])
    },
  },
  {
    program: 'kea-dhcp4',
    start: (plan) => {
      const conf = JSON.parse(keaConf(plan, 'gate')) as { Dhcp4: Record<string, unknown> }
      // Leases are kept in memory: the file would belong to the machine.
      conf.Dhcp4['lease-database'] = { type: 'memfile', persist: false }
      const own = { KEA_LOCKFILE_DIR: 'none', KEA_PIDFILE_DIR: folder }
      return inServer('kea-dhcp4', ['-c', kept('kea.json', JSON.stringify(conf))], own)
    },
  },
]

/**
 * Clients of one network stand behind one cable, one after another.
 * Nobody is there when the server starts, as after a power cut.
 */
const clientOf = ({ vlan }: Network) => `${STEM}client${vlan}`

async function build(plan: Plan): Promise<void> {
  const lines = plan.networks.flatMap((network) => [
    `ip netns add ${clientOf(network)}`,
    `ip link add name lan.${network.vlan} netns ${SERVER} type veth peer name e0 netns ${clientOf(network)}`,
    `ip -n ${SERVER} addr add ${network.gateway}/${network.subnet.split('/')[1]} dev lan.${network.vlan}`,
    `ip -n ${SERVER} link set lan.${network.vlan} up`,
  ])
  await bash(['-ec', [`ip netns add ${SERVER}`, ...lines].join('\n')])
}

let server: ChildProcess | null = null
afterEach(async () => {
  server?.kill('SIGKILL')
  server = null
  const { stdout } = await run('ip', ['netns', 'list'])
  const own = stdout.split('\n').flatMap((line) => line.split(' ')[0] ?? [])
  for (const ns of own.filter((name) => name.startsWith(STEM))) await removeNamespace(ns)
})

/** One client asks: the network it hangs on, its MAC, and how many seconds it waits. */
async function ask(network: Network, mac: string, seconds = 8): Promise<Lease> {
  const ns = clientOf(network)
  const answer = `${folder}/answer-${ns}`
  rmSync(answer, { force: true })
  const script = kept('lease.sh', `#!/bin/sh\n[ "$1" = bound ] && env > "$ANSWER"\nexit 0\n`)
  const set = ['down', `address ${mac}`, 'up'].map((words) => `ip -n ${ns} link set e0 ${words}`).join('\n')
  const options = ['ntpsrv', '138', '143'].map((option) => `-O ${option}`).join(' ')
  const client = `udhcpc -i e0 -n -q -f -t ${seconds} -T 1 -A 1 ${options} -s ${script}`
  await bash(['-c', `chmod +x ${script}\n${set}\nANSWER=${answer} ip netns exec ${ns} ${client}`]).catch(
    () => undefined,
  )
  if (!existsSync(answer)) return null
  const lines = readFileSync(answer, 'utf8').split('\n')
  return Object.fromEntries(
    lines.filter((line) => line.includes('=')).map((line) => line.split(/=(.*)/s).slice(0, 2)),
  ) as Record<string, string>
}

const isWithin = (address: string, { from, to }: { readonly from: string; readonly to: string }) =>
  valueOf(address) >= valueOf(from) && valueOf(address) <= valueOf(to)
const macOf = (nth: number) => `02:00:5e:00:53:${nth.toString(16).padStart(2, '0')}`

const PRINTER = '02:00:5e:10:00:11'
const served = site((plan: LoosePlan) => {
  const staff = the(plan.networks, 'staff')
  Object.assign(staff, {
    leaseS: 7200,
    pool: { from: '10.9.10.100', to: '10.9.10.103' },
    exclusions: [{ from: '10.9.10.101', to: '10.9.10.102' }],
    options: {
      dns: ['10.9.20.10', '10.9.20.11'],
      ntp: ['10.9.10.1'],
      domain: 'staff.example',
      controller: { option: 138, address: '10.9.99.5' },
    },
  })
  staff.fixed.push({
    id: 'pr',
    ip: '10.9.10.50',
    name: 'Printer',
    deviceId: null,
    how: 'reserved',
    ...BLANK_FIXED,
    mac: PRINTER.toUpperCase().replaceAll(':', '-'),
  })
  Object.assign(the(plan.networks, 'servers'), {
    dhcp: 'serve',
    pool: { from: '10.9.20.100', to: '10.9.20.140' },
    options: { dns: [], ntp: [], domain: '', controller: { option: 143, address: '10.9.99.5' } },
  })
})

async function raise({ start }: Server, plan: Plan): Promise<void> {
  await build(plan)
  server = start(plan)
  await setTimeout(1_000)
}

describe.skipIf(reason !== null)('DHCP servers, asked', () => {
  for (const each of SERVERS) {
    const judged = needing(each.program)
    judged(`${each.program}: address, options and lease time are the plan's`, async () => {
      await raise(each, served)
      const [staff, servers] = [the(served.networks, 'staff'), the(served.networks, 'servers')]
      const first = await ask(staff, macOf(1))
      expect(first).toMatchObject({
        subnet: '255.255.255.0',
        router: '10.9.10.1',
        dns: '10.9.20.10 10.9.20.11',
        ntpsrv: '10.9.10.1',
        domain: 'staff.example',
        lease: '7200',
        opt138: '0a096305',
      })
      expect(isWithin(first?.['ip'] ?? '', { from: '10.9.10.100', to: '10.9.10.103' })).toBe(true)
      const other = await ask(servers, macOf(2))
      const uri = Buffer.from(other?.['opt143'] ?? '', 'hex')
      expect(other).toMatchObject({ router: '10.9.20.1', dns: '10.9.20.1' })
      expect([uri.readUInt16BE(0), uri.subarray(2).toString()]).toEqual([uri.length - 2, 'https://10.9.99.5'])
    })

    judged(`${each.program}: a reservation gets its address, and nobody what is excluded`, async () => {
      await raise(each, served)
      const staff = the(served.networks, 'staff')
      expect((await ask(staff, PRINTER))?.['ip']).toBe('10.9.10.50')
      const given = [await ask(staff, macOf(1)), await ask(staff, macOf(2))].map((lease) => lease?.['ip'])
      expect(given.toSorted()).toEqual(['10.9.10.100', '10.9.10.103'])
      // The pool is used up: a third client hears nothing.
      expect(await ask(staff, macOf(3), 3)).toBeNull()
    })

    judged(`${each.program}: where the plan serves nobody, nobody is served`, async () => {
      await raise(each, base())
      expect(the(base().networks, 'servers').dhcp).toBe('none')
      expect(await ask(the(base().networks, 'servers'), macOf(1), 3)).toBeNull()
      expect((await ask(the(base().networks, 'staff'), macOf(1)))?.['router']).toBe('10.9.10.1')
    })
  }
})
