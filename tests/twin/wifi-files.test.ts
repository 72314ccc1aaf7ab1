import { existsSync, readFileSync } from 'node:fs'
import { isDeepStrictEqual } from 'node:util'
import { gunzipSync } from 'node:zlib'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { hostapdFiles, supplicantFiles } from '#core/export'
import type { Plan, Ssid } from '#core/schema'
import { gullhavenPlan } from '#server/demo/gullhaven'
import { hostileName, longest, renamed } from '../fixtures/hostile'
import type { LoosePlan } from '../plans'
import { preSharedKey } from '#server/platform/pre-shared-key'
import { readRegulatory } from '../../tools/regulatory.mjs'
import { against, needing, ownFolder } from './programs'
import { run } from './shell'
import { saySkipped } from './why-not'

// What Able Mast writes for radios, read by hostapd; and its table of rules against the package it was made from.

const { kept } = ownFolder()

/** What wpa_supplicant says against a file, which it reads before it looks for the radio. */
async function supplicantFaults(text: string): Promise<readonly string[]> {
  const args = ['-i', 'none0', '-D', 'nl80211', '-c', kept('wpa_supplicant.conf', text)]
  const said = await against('wpa_supplicant', args)
  return said.split('\n').filter((line) => /^Line \d+|Failed to read or parse/.test(line))
}
/** hostapd reads the whole file before it looks for the radio, which is none of this machine's. */
async function faultsOf(text: string): Promise<readonly string[]> {
  const said = await against('hostapd', [kept('hostapd.conf', text)])
  return said.split('\n').filter((line) => /^Line \d+|errors? found in configuration/.test(line))
}
const changed = (change: (plan: LoosePlan) => void): Plan => {
  const plan = structuredClone(gullhavenPlan()) as LoosePlan
  change(plan)
  return plan
}
const filesOf = (plan: Plan) =>
  plan.devices.filter(({ kind }) => kind === 'access-point').flatMap((device) => hostapdFiles(plan, device))

/** With more said of each SSID of a file. */
const whole = (text: string, rest: string): string => text.replaceAll('wps_state=0\n', `wps_state=0\n${rest}`)

const SECURITIES: readonly NonNullable<Ssid['settings']['security']>[] = [
  'open',
  'owe',
  'wpa2',
  'wpa2-wpa3',
  'wpa3',
  'enterprise',
]
const widened = (widthMhz: 20 | 40 | 80 | 160) =>
  changed(({ wifi }) => {
    for (const radio of wifi.radios.filter(({ band }) => band === '5'))
      Object.assign(radio, { widthMhz, channel: 100 })
  })

describe('hostapd', () => {
  needing('hostapd')('reads the file of every radio, whatever its names and settings are', async () => {
    const plans: readonly (readonly [string, Plan])[] = [
      ['the demo', gullhavenPlan()],
      ['a country', changed(({ site }) => void (site.country = 'GB'))],
      ...SECURITIES.map(
        (security) =>
          [
            security,
            changed(({ ssids }) =>
              ssids.forEach(({ settings }) => Object.assign(settings, { security, hidden: true })),
            ),
          ] as const,
      ),
      [
        'all else that is said of an SSID',
        changed(({ ssids, links }) => {
          const hours = { from: '07:00', to: '22:00' }
          ssids.forEach(({ settings }) => Object.assign(settings, { wps: true, macList: true, hours }))
          for (const { medium } of links) if (medium.kind === 'wifi') medium.fourAddress = true
        }),
      ],
      ...([20, 40, 80, 160] as const).map((width) => [`${width} MHz`, widened(width)] as const),
      ['the longest texts', longest(gullhavenPlan())],
      ...fc
        .sample(hostileName, { seed: 1135, numRuns: 10 })
        .map((name) => [JSON.stringify(name), renamed(gullhavenPlan(), name)] as const),
    ]
    for (const [what, plan] of plans) {
      const files = filesOf(plan)
      expect(files.length, what).toBe(8)
      // Who answers for 802.1X is written on the device.
      const rest =
        what === 'enterprise' ? 'auth_server_addr=10.61.2.9\nauth_server_shared_secret=sealed\n' : ''
      for (const { name, text } of files)
        expect(await faultsOf(whole(text, rest)), `${what}: ${name}`).toEqual([])
    }
    // A file that it does not take is told.
    expect(await faultsOf('interface=wlan0\nnonsense=1\n')).not.toEqual([])
  })
})

describe('wpa_supplicant', () => {
  needing('wpa_supplicant')('reads the file of every extender, whatever its SSID is called', async () => {
    const secured = SECURITIES.map((security) =>
      changed(({ ssids }) =>
        ssids.forEach(({ settings }) => Object.assign(settings, { security, hidden: true })),
      ),
    )
    const named = fc
      .sample(hostileName, { seed: 1136, numRuns: 10 })
      .map((name) => renamed(gullhavenPlan(), name))
    for (const plan of [gullhavenPlan(), longest(gullhavenPlan()), ...secured, ...named]) {
      const files = plan.devices.flatMap((device) => supplicantFiles(plan, device))
      expect(files.length).toBe(1)
      for (const { text } of files) expect(await supplicantFaults(text), text).toEqual([])
    }
    expect(await supplicantFaults('network={\n\tnonsense=1\n}\n')).not.toEqual([])
  })
})

const TABLE = 'lib/firmware/regulatory.db-debian'
const ROOT = [`${process.env['MAST_UNPACKED'] ?? ''}/`, '/'].find((root) => existsSync(`${root}${TABLE}`))
/** Upstream's version of the package that is here, by Debian's changelog; Debian renews it now and then. */
function packagedVersion(root: string): string | undefined {
  const changelog = `${root}usr/share/doc/wireless-regdb/changelog.Debian.gz`
  const text = existsSync(changelog) ? gunzipSync(readFileSync(changelog)).toString('utf8') : ''
  return /^wireless-regdb \(([\d.]+)-/.exec(text)?.[1]
}
if (!ROOT) saySkipped('the rules of wireless-regdb', 'the package is not there')

describe('the table of rules', () => {
  it.skipIf(!ROOT)('says of each country that it names what the package says, read again', () => {
    const packaged = readRegulatory(readFileSync(`${ROOT}${TABLE}`))
    const { version, countries } = JSON.parse(
      readFileSync(new URL('../../core/wifi/regulatory.json', import.meta.url), 'utf8'),
    ) as { version: string; countries: Record<string, unknown> }
    expect(Object.keys(countries).length).toBeGreaterThan(170)
    const here = packagedVersion(ROOT ?? '')
    if (here === version) return expect(packaged).toEqual(countries)
    // Another version says otherwise of a few countries; tools/regulatory.mjs makes the table anew.
    console.info(`wireless-regdb here is ${here ?? 'of no known version'}; the table was made of ${version}.`)
    const alike = Object.keys(countries).filter((code) => isDeepStrictEqual(packaged[code], countries[code]))
    expect(alike.length).toBeGreaterThan(0.9 * Object.keys(countries).length)
  })
})

describe('wpa_passphrase', () => {
  needing('wpa_passphrase')('makes the same key of any passphrase and SSID', async () => {
    const ascii = (least: number, most: number) =>
      fc.string({ unit: 'grapheme-ascii', minLength: least, maxLength: most })
    await fc.assert(
      fc.asyncProperty(ascii(1, 32), ascii(8, 63), async (ssid, passphrase) => {
        const { stdout } = await run('wpa_passphrase', [ssid, passphrase])
        expect(/^\tpsk=([0-9a-f]{64})$/m.exec(stdout)?.[1]).toBe(preSharedKey(passphrase, ssid))
      }),
      { numRuns: 25 },
    )
  })
})
