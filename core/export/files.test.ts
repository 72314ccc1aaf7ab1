import { readdirSync, readFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { describe, expect, it } from 'vitest'
import { everything } from '../../tests/fixtures/everything'
import { LITTLE } from '../../tests/fixtures/little'
import { site, the } from '../../tests/plans'
import { deviceFiles, devicesWithFiles, endpointOf, peerConf, TABLES, wireguardConf } from '.'

// Every line of every file of one site that uses all that files can say. The expected files were read line by line
// against nft(8), ip-rule(8), dnsmasq(8), RFC 8343, RFC 8519 and RFC 1035; the real programs load the same kinds of
// files in tests/twin, and the kernel says there what passes.

const FOLDER = fileURLToPath(new URL('../../tests/fixtures/exported', import.meta.url))
const expected = (name: string) => readFileSync(`${FOLDER}/${name}`, 'utf8')
const plan = site(everything)
const REVISION = 7

const OF_LITTLE = Object.entries(LITTLE).map(([name, change]) => [name, 'gate', site(change)] as const)
const OF_EVERYTHING = ['gate', 'ap', 'ext', 'sw'].map((deviceId) => [deviceId, deviceId, plan] as const)
it.each(OF_EVERYTHING)('%s has these files and no other', (folder, deviceId, of) => {
  const names = deviceFiles(of, deviceId, REVISION).map(({ name }) => name)
  expect(names.sort()).toEqual(readdirSync(`${FOLDER}/${folder}`).sort())
})

describe.each([...OF_EVERYTHING, ...OF_LITTLE])('files of %s', (folder, deviceId, of) => {
  const names = readdirSync(`${FOLDER}/${folder}`).sort()
  const made = () => deviceFiles(of, deviceId, REVISION)
  it.each(names)('%s', (name) => {
    expect(made().find((file) => file.name === name)?.text).toBe(expected(`${folder}/${name}`))
  })
})

describe('tables', () => {
  it.each(Object.entries(TABLES))('%s', (name, { columns, rows }) => {
    const lines = [columns, ...rows(plan)].map((row) => `${row.join('\t')}\n`)
    expect(lines.join('')).toBe(expected(`${name}.tsv`))
  })
})

describe('the far side of a tunnel', () => {
  const tunnel = the(plan.tunnels, 'wg')
  it.each(['keeper', 'mainland'])('%s', (id) => {
    const peer = the(tunnel.peers, id)
    // Who is dialled from here does not dial.
    const endpoint = peer.endpoint === null ? endpointOf(plan, tunnel) : null
    expect(peerConf(tunnel, peer, endpoint)).toBe(expected(`${id}.conf`))
  })
  it('holds a private key where the caller has one', () => {
    const [first] = tunnel.peers
    expect(peerConf(tunnel, first!, null, 'a-key').split('\n')[1]).toBe('PrivateKey = a-key')
    expect(wireguardConf(tunnel, 'a-key').split('\n')[1]).toBe('PrivateKey = a-key')
  })
  it('is found by a name, else by the address of an uplink that can be called, else not', () => {
    const at = (outside: 'own' | 'shared', address: string | null, publicName: string | null) => {
      const changed = site((loose) => {
        everything(loose)
        const [first, second] = loose.uplinks
        Object.assign(first!, { outside })
        first!.facts = { ...first!.facts, address }
        Object.assign(second!, { outside: 'shared' })
        the(loose.tunnels, 'wg').publicName = publicName
      })
      return endpointOf(changed, the(changed.tunnels, 'wg'))
    }
    expect(at('own', '198.51.100.7/24', 'vpn.example')).toBe('vpn.example:51820')
    expect(at('own', '198.51.100.7/24', null)).toBe('198.51.100.7:51820')
    expect(at('own', 'by telephone', null)).toBeNull()
    expect(at('own', null, null)).toBeNull()
    expect(at('shared', '198.51.100.7/24', null)).toBeNull()
  })
})

it('files are made for gateways first, then for what is configured, and for nobody else', () => {
  expect(devicesWithFiles(plan).map(({ id }) => id)).toEqual(['gate', 'sw', 'ap', 'ext'])
  expect(deviceFiles(plan, 'nobody', REVISION)).toEqual([])
})
