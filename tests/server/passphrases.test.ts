import postgres from 'postgres'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { KeptPassphrase, Passphrase, PlanAt, ShownPassphrase } from '#contracts/api'
import { preSharedKey } from '#server/platform/pre-shared-key'
import { codesOf, signedIn, startApp, type App, type Client } from './harness'

let app: App
let planner: Client
let keeper: Client
beforeAll(async () => {
  app = await startApp()
  planner = await signedIn(app, 'planner')
  keeper = await signedIn(app, 'keeper')
  const { revision, plan } = (await planner<PlanAt>('GET', '/api/sites/gullhaven/plan')).body
  const securities = ['wpa2', 'wpa3'] as const
  await planner('PATCH', '/api/sites/gullhaven/plan', {
    baseRevision: revision,
    patch: securities.map((security, i) => ({
      op: 'replace',
      path: `/ssids/${i}/settings/security`,
      value: security,
    })),
    words: 'secured',
  })
  ids = plan.ssids.map(({ id }) => id)
})
afterAll(() => app.stop())

const PATH = '/api/sites/gullhaven/passphrases'
let ids: readonly string[] = []

describe('the key that stations make of a passphrase', () => {
  it('is that of IEEE 802.11-2020, J.4.2', () => {
    expect(preSharedKey('password', 'IEEE')).toBe(
      'f42c6fc52df0ebef9ebb4b90b38a5f902e83fe1b135a70e23aed762e9710a12e',
    )
    expect(preSharedKey('ThisIsAPassword', 'ThisIsASSID')).toBe(
      '0dc0d6eb90555ed6419756b9a15ec3e3209b63df707dd508d14581f8982721af',
    )
  })
})

describe('passphrases of SSIDs', () => {
  it('are sealed, never listed, and shown to who asks, which is noted', async () => {
    const [ssid] = ids
    expect(codesOf(await keeper('POST', `${PATH}/show`, { ssid }))).toEqual(['no-passphrase'])
    const typed = 'salt and rope, 12 fathoms'
    expect((await planner<KeptPassphrase>('POST', PATH, { ssid, passphrase: typed })).body).toEqual({
      sameAs: [],
    })
    const listed = await keeper<Passphrase[]>('GET', PATH)
    expect(listed.body).toMatchObject([
      { ssidId: ssid, setBy: 'Planner', shownAt: null, shownBy: null, weakness: null, sameAs: [] },
    ])
    expect(listed.text).not.toContain('salt')
    const sql = postgres(app.databaseUrl, { max: 1 })
    const [row] = await sql<{ sealed: string }[]>`select sealed from passphrases`
    await sql.end()
    expect(Buffer.from(row?.sealed.split('.')[2] ?? '', 'base64')).toHaveLength(12 + 16 + typed.length)
    const shown = (await keeper<ShownPassphrase>('POST', `${PATH}/show`, { ssid })).body
    expect(shown.passphrase).toBe(typed)
    expect(shown.joinText).toContain('P:salt and rope\\, 12 fathoms;')
    expect((await planner<Passphrase[]>('GET', PATH)).body).toMatchObject([{ shownBy: 'Keeper' }])
    // It is in no file that leaves otherwise.
    expect((await keeper('GET', '/api/sites/gullhaven/export/site.json')).text).not.toContain('fathoms')
  })
  it('are generated anew each time, and each takes the place of the one before', async () => {
    const [ssid] = ids
    const drawn = async () => {
      await planner('POST', PATH, { ssid, passphrase: null })
      return (await planner<ShownPassphrase>('POST', `${PATH}/show`, { ssid })).body.passphrase
    }
    const [first, second] = [await drawn(), await drawn()]
    expect(first).toMatch(/^([a-hjkmnp-z2-9]{4}-){3}[a-hjkmnp-z2-9]{4}$/)
    expect(second).not.toBe(first)
    expect((await planner<Passphrase[]>('GET', PATH)).body).toHaveLength(1)
  })
  it('tell of another SSID with the same', async () => {
    const [one, other] = ids
    await planner('POST', PATH, { ssid: one, passphrase: 'the same for both' })
    const kept = await planner<KeptPassphrase>('POST', PATH, { ssid: other, passphrase: 'the same for both' })
    expect(kept.body.sameAs).toHaveLength(1)
    const listed = (await planner<Passphrase[]>('GET', PATH)).body
    expect(listed.map(({ ssidId, sameAs }) => [ssidId, sameAs])).toEqual(
      expect.arrayContaining([
        [one, [other]],
        [other, [one]],
      ]),
    )
    expect(
      (await planner<KeptPassphrase>('POST', PATH, { ssid: other, passphrase: 'another one' })).body,
    ).toEqual({
      sameAs: [],
    })
    expect((await planner<Passphrase[]>('GET', PATH)).body).toContainEqual(
      expect.objectContaining({ ssidId: other, weakness: 'short', sameAs: [] }),
    )
  })
  it('are refused out of bounds, and for what has none', async () => {
    const [ssid] = ids
    for (const passphrase of ['1234567', 'a'.repeat(64), 'pässphrase', 'two\nlines!'])
      expect((await planner('POST', PATH, { ssid, passphrase })).status).toBe(400)
    expect(codesOf(await planner('POST', PATH, { ssid: 'nobody', passphrase: null }))).toEqual([
      'no-such-ssid',
    ])
    const { revision } = (await planner<PlanAt>('GET', '/api/sites/gullhaven/plan')).body
    await planner('PATCH', '/api/sites/gullhaven/plan', {
      baseRevision: revision,
      patch: [{ op: 'replace', path: '/ssids/0/settings/security', value: 'open' }],
      words: 'opened',
    })
    expect(codesOf(await planner('POST', PATH, { ssid, passphrase: null }))).toEqual(['no-passphrase-needed'])
  })
})
