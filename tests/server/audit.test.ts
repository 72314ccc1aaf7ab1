import Papa from 'papaparse'
import postgres from 'postgres'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { AuditCheck, AuditLine } from '#contracts/audit'
import { AUDITED } from '#server/audited'
import { ACCESS } from '#server/access'
import { client, personOf, signedIn, startApp, type App, type Client } from './harness'

let app: App
let administrator: Client
let planner: Client
beforeAll(async () => {
  app = await startApp()
  administrator = await signedIn(app, 'administrator')
  planner = await signedIn(app, 'planner')
})
afterAll(async () => {
  await app.stop()
})

const read = async (query = '') => (await administrator<AuditLine[]>('GET', `/api/audit${query}`)).body
const check = async () => (await administrator<AuditCheck>('GET', '/api/audit/check')).body
/** The newest lines, without when and where from. */
const said = async (most: number) =>
  (await read()).slice(0, most).map(({ who, what, site, subject }) => [who, what, site, subject])

describe('the audit', () => {
  it('lists routes that there are, and every one at which somebody is let in, shown a secret or deletes', () => {
    for (const key of Object.keys(AUDITED)) expect(ACCESS[key], key).toBeDefined()
    const matters = /show|keys|people|password|sign|join|delete|claims|export|sessions|power|archive/
    const missing = Object.keys(ACCESS).filter((key) => matters.test(key) && !(key in AUDITED))
    // These are only read, or only ask whom a link is for, for a challenge, or to be sent to the provider.
    expect(missing.filter((key) => !key.startsWith('GET '))).toEqual([
      'POST /api/sign-in/passkey-options',
      'POST /api/sign-in/provider',
      'POST /api/join/whom',
      'POST /api/join/provider',
      'POST /api/me/passkeys/options',
    ])
  })
  it('has a line of who signed in, who was refused, and from where', async () => {
    const nobody = client(app)
    await nobody('POST', '/api/sign-in', { name: 'Keeper', password: 'a guess' })
    await nobody('POST', '/api/sign-in', { name: 'Nobody at all', password: 'a guess' })
    await signedIn(app, 'keeper')
    expect(await said(3)).toEqual([
      ['Keeper', 'signed-in', '', ''],
      ['Nobody at all', 'sign-in-refused', '', ''],
      ['Keeper', 'sign-in-refused', '', ''],
    ])
    expect((await read())[0]?.address).toBe('127.0.0.1')
  })
  it('has no end of lines from nobody: what is refused for being too much leaves none', async () => {
    const guess = () => client(app)('POST', '/api/sign-in', { name: 'Guessed', password: 'a guess' })
    await Promise.all(Array.from({ length: 14 }, guess))
    expect(await read('?who=Guessed')).toHaveLength(10)
  })
  it('has one of who was shown a secret, and never the secret', async () => {
    const SITE = '/api/sites/gullhaven'
    const { body } = await planner<{
      plan: { ssids: { id: string; settings: { security: string | null } }[] }
    }>('GET', `${SITE}/plan`)
    const ssid = body.plan.ssids.find(({ settings }) => settings.security !== 'open')?.id ?? ''
    await planner('POST', `${SITE}/passphrases`, { ssid, passphrase: 'driftwood kettle nine' })
    await planner('POST', `${SITE}/passphrases/show`, { ssid })
    await planner('GET', `${SITE}/export/addresses.csv`)
    expect(await said(3)).toEqual([
      ['Planner', 'exported', 'gullhaven', 'addresses.csv'],
      ['Planner', 'passphrase-shown', 'gullhaven', ssid],
      ['Planner', 'passphrase-set', 'gullhaven', ssid],
    ])
    expect(JSON.stringify(await read())).not.toMatch(/driftwood|rope-and|chart-and/)
  })
  it('has none of what was refused otherwise, or only looked at', async () => {
    const before = await read()
    await planner('GET', '/api/sites/gullhaven/plan')
    await planner('POST', '/api/people', { name: 'X', role: 'keeper' })
    await administrator('POST', '/api/sites/gullhaven/delete', { name: 'another' })
    expect(await read()).toEqual(before)
  })
  it('is read by who, what and site, page by page, and exported whole', async () => {
    const name = `Ada ${'x'.repeat(20)}`
    const { body } = await administrator<{ person: { id: number } }>('POST', '/api/people', {
      name,
      role: 'rigger',
    })
    for (let n = 0; n < 105; n++)
      await administrator('PATCH', `/api/people/${body.person.id}`, { role: n % 2 ? 'rigger' : 'keeper' })
    await administrator('DELETE', `/api/people/${body.person.id}`)
    const first = await read('?what=person-changed')
    expect(first).toHaveLength(100)
    const rest = await read(`?what=person-changed&before=${first.at(-1)?.id}`)
    expect(rest).toHaveLength(5)
    expect(rest.at(-1)?.subject).toBe(`${name}, keeper, invited`)
    expect((await read('?who=Planner&site=gullhaven')).every(({ who }) => who === 'Planner')).toBe(true)
    expect((await administrator('GET', '/api/audit?what=nothing')).status).toBe(400)
    await administrator('POST', '/api/sites/carrow/archive', { isArchived: true })
    await administrator('POST', '/api/sites/carrow/archive', { isArchived: false })
    expect((await read('?site=carrow')).map(({ what }) => what)).toEqual(['site-unarchived', 'site-archived'])
    const { count } = await check()
    const { data } = Papa.parse<string[]>((await administrator('GET', '/api/audit/export')).text.trim())
    expect(data).toHaveLength(count + 1)
    expect(data.at(-1)?.[2]).toBe(personOf('administrator').name)
  })
  it('keeps its chain when many write at once', async () => {
    await Promise.all(Array.from({ length: 20 }, () => planner('GET', '/api/sites/carrow/export/ports.csv')))
    expect((await check()).brokenAt).toBeNull()
  })
})

describe('a line that is changed behind its back', () => {
  it('cannot be by who may only add, and shows in the chain where it was forced', async () => {
    const database = postgres(app.databaseUrl, { max: 1 })
    try {
      const victim = (await read('?what=passphrase-shown'))[0]?.id ?? 0
      const change = () => database`update audit_lines set who = 'Somebody else' where id = ${victim}`
      await expect(change()).rejects.toThrow('added, never changed')
      await expect(database`delete from audit_lines where id = ${victim}`).rejects.toThrow('never changed')
      await expect(database`truncate audit_lines`).rejects.toThrow('never changed')
      expect((await check()).brokenAt).toBeNull()
      await database`alter table audit_lines disable trigger audit_lines_stay`
      await change()
      expect((await check()).brokenAt).toBe(victim)
      await database`update audit_lines set who = 'Planner' where id = ${victim}`
      expect((await check()).brokenAt).toBeNull()
      await database`delete from audit_lines where id = ${victim}`
      const { brokenAt, newest } = await check()
      expect(brokenAt).toBeGreaterThan(victim)
      await database`delete from audit_lines where id > ${victim}`
      // Lines that are cut off at the end leave a whole chain, with another end.
      expect(await check()).toMatchObject({ brokenAt: null })
      expect((await check()).newest).not.toBe(newest)
    } finally {
      await database.end()
    }
  })
})
