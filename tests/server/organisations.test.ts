import postgres from 'postgres'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { OneTimeLink, OrganisationLine, PersonLine, TransferCode } from '#contracts/accounts'
import type { AuditLine } from '#contracts/audit'
import type { Me, PlanAt, Roster, SiteLine, SiteSummary, TemplateSummary } from '#contracts/api'
import { makeSerial } from '#core/queries'
import { ACCESS } from '#server/access'
import {
  client,
  codesOf,
  cookiesOf,
  signedIn,
  signedInAs,
  startApp,
  type App,
  type Client,
  slugsOf,
} from './harness'

// What one organisation has is not there for another, by two walls: the queries of the server, and the database.

const PASSWORD = 'walrus-teapot-gravel-noon'
let app: App
let operator: Client
let planner: Client
/** Who administers the other organisation. */
let stranger: Client
let count = 0
const refusal = (reply: { status: number; body: unknown }) => [
  reply.status,
  (reply.body as { problems: { code: string }[] }).problems[0]?.code,
]

async function join(link: OneTimeLink): Promise<Client> {
  const token = link.path.split('#')[1]
  return client(app, cookiesOf(await client(app)('POST', '/api/join', { token, password: PASSWORD })))
}
type Invited = { person: PersonLine; link: OneTimeLink }

/** An organisation of its own, and who administers it. */
async function organisation() {
  const [name, administrator] = [`Harbour ${(count += 1)}`, `Harbourmaster ${count}`]
  const reply = await operator<Invited>('POST', '/api/organisations', { name, administrator })
  expect(reply.status, reply.text).toBe(200)
  return { name, administrator, browser: await join(reply.body.link) }
}

/** Somebody of the demo's organisation. */
async function member(role: string | null, sites: { site: string; role: string }[] = []) {
  const name = `Member ${(count += 1)}`
  const reply = await operator<Invited>('POST', '/api/people', { name, role, sites })
  expect(reply.status, reply.text).toBe(200)
  await join(reply.body.link)
  return { name, id: reply.body.person.id, browser: await signedInAs(app, name, PASSWORD) }
}
async function copyOf(slug: string, who = planner): Promise<SiteSummary> {
  const name = `Copy ${(count += 1)}`
  return (await who<SiteSummary>('POST', `/api/sites/${slug}/copy`, { name })).body
}

beforeAll(async () => {
  app = await startApp()
  operator = await signedIn(app, 'administrator')
  planner = await signedIn(app, 'planner')
  stranger = (await organisation()).browser
})
afterAll(async () => {
  await app.stop()
})

/** Asks every route of a site as somebody of another organisation. */
async function walk(as: Client): Promise<void> {
  const inner = Object.keys(ACCESS).filter((key) => key.includes('/sites/:site/'))
  expect(inner.length).toBeGreaterThan(40)
  for (const key of inner) {
    const [method = '', path = ''] = key.split(' ')
    const filled = path
      .replace(':site', 'gullhaven')
      .replace(/:(revision|run|photo)/, '1')
      .replace(':serial', 'GH-7A05-K5RZ')
      .replace(':file', 'site.json')
    const body = method === 'GET' || method === 'DELETE' ? undefined : {}
    const reply = await as(method, filled, body)
    expect([key, reply.status >= 400 && reply.status < 500]).toEqual([key, true])
    expect(reply.text, key).not.toContain('Gullhaven')
    // What is refused for its body alone is refused to everybody.
    if (reply.status !== 400) expect([key, codesOf(reply)]).toEqual([key, ['no-such-site']])
  }
}

describe('what one organisation has', () => {
  it('is on no route there for another, whatever is asked', async () => {
    await planner('POST', '/api/sites/gullhaven/runs', { kind: 'singles', things: [], revision: 1 })
    await walk(stranger)
  })
  it('is not there either where the database holds nobody back, as with a superuser', async () => {
    const { databaseUrl } = app
    const second = await startApp({ databaseUrl, serverUrl: databaseUrl })
    try {
      const { name } = (await stranger<Me>('GET', '/api/me')).body
      const open = await signedInAs(second, name, PASSWORD)
      await walk(open)
      for (const list of ['sites', 'fleet', 'templates', 'deleted-sites'])
        expect((await open('GET', `/api/${list}`)).body, list).toEqual([])
      expect((await open<PersonLine[]>('GET', '/api/people')).body).toHaveLength(1)
    } finally {
      await second.stop()
    }
  })
  it('is in no list of another', async () => {
    await planner('POST', '/api/sites/carrow/template', { name: 'Pier' })
    const lists = ['sites', 'fleet', 'templates', 'deleted-sites']
    for (const list of lists) expect((await stranger(`GET`, `/api/${list}`)).body, list).toEqual([])
    const names = (await stranger<PersonLine[]>('GET', '/api/people')).body.map(({ name }) => name)
    expect(names).toEqual([(await stranger<Me>('GET', '/api/me')).body.name])
    for (const line of (await stranger<AuditLine[]>('GET', '/api/audit')).body)
      expect(names).toContain(line.who)
    const [template] = (await planner<TemplateSummary[]>('GET', '/api/templates')).body
    expect(refusal(await stranger('POST', `/api/templates/${template?.id}/site`, { name: 'Mine' }))).toEqual([
      404,
      'no-such-template',
    ])
  })
  it('is not changed by another: people, deleted sites', async () => {
    const [somebody] = (await operator<PersonLine[]>('GET', '/api/people')).body
    for (const [method, path, body] of [
      ['PATCH', '', { role: 'keeper' }],
      ['POST', '/link', {}],
      ['DELETE', '', undefined],
    ] as const)
      expect(refusal(await stranger(method, `/api/people/${somebody?.id}${path}`, body))).toEqual([
        404,
        'no-such-person',
      ])
    const { slug, name } = await copyOf('carrow')
    await operator('POST', `/api/sites/${slug}/delete`, { name })
    for (const [method, path] of [
      ['POST', '/restore'],
      ['DELETE', ''],
    ] as const)
      expect(refusal(await stranger(method, `/api/deleted-sites/${slug}${path}`, {}))).toEqual([
        404,
        'no-such-site',
      ])
    expect((await operator('POST', `/api/deleted-sites/${slug}/restore`, {})).status).toBe(200)
  })
  it('keeps its names to itself: the same name of a site or template is free elsewhere', async () => {
    const text = JSON.stringify((await planner<PlanAt>('GET', '/api/sites/carrow/plan')).body.plan)
    const made = await stranger<SiteSummary>('POST', '/api/sites', { text })
    expect(made.status, made.text).toBe(200)
    expect(made.body.slug).not.toBe('carrow')
    const kept = await stranger('POST', `/api/sites/${made.body.slug}/template`, { name: 'Pier' })
    expect(kept.status, kept.text).toBe(200)
    expect(await slugsOf(planner)).not.toContain(made.body.slug)
  })
  it('of a box that it has claimed, another is told no more than that it is claimed', async () => {
    const serial = makeSerial('GH', 'TWOORGS')
    const claim = { serial, deviceId: 'boat-ap' }
    expect((await planner('POST', '/api/sites/gullhaven/claims', claim)).status).toBeLessThan(300)
    const other = await slugsOf(stranger)
    const plan = (await stranger<PlanAt>('GET', `/api/sites/${other[0]}/plan`)).body.plan
    const device = plan.devices.find(({ kind }) => kind === 'switch' || kind === 'gateway')
    const reply = await stranger('POST', `/api/sites/${other[0]}/claims`, { serial, deviceId: device?.id })
    expect(refusal(reply)).toEqual([409, 'serial-elsewhere'])
    expect(reply.text).not.toContain('gullhaven')
    await planner('DELETE', `/api/sites/gullhaven/claims/${serial}`)
    // Given up, it is news of who had it, and of nobody else.
    const strangersOf = async (who: Client, slug: string) =>
      (await who<Roster>('GET', `/api/sites/${slug}/roster`)).body.strangers.map((one) => one.serial)
    expect(await strangersOf(stranger, other[0] ?? '')).toEqual([])
  })
})

describe('a role at single sites', () => {
  it('is all that somebody has who has none elsewhere', async () => {
    const { browser } = await member(null, [{ site: 'carrow', role: 'planner' }])
    expect(await slugsOf(browser)).toEqual(['carrow'])
    expect((await browser<PlanAt>('GET', '/api/sites/carrow/plan')).status).toBe(200)
    expect(refusal(await browser('GET', '/api/sites/gullhaven/plan'))).toEqual([404, 'no-such-site'])
    expect(refusal(await browser('POST', '/api/sites', { text: '{}' }))).toEqual([403, 'other-role'])
    for (const act of ['copy', 'template'])
      expect(refusal(await browser('POST', `/api/sites/carrow/${act}`, { name: 'Mine' }))).toEqual([
        403,
        'other-role',
      ])
    expect(((await browser('GET', '/api/fleet')).body as unknown as unknown[]).length).toBe(1)
    expect(refusal(await browser('GET', '/api/people'))).toEqual([403, 'other-role'])
  })
  it('takes the place of the one elsewhere, in both directions', async () => {
    const { browser } = await member('rigger', [
      { site: 'carrow', role: 'planner' },
      { site: 'quayside', role: 'keeper' },
    ])
    const archive = (slug: string) => browser('POST', `/api/sites/${slug}/archive`, { isArchived: false })
    expect((await archive('carrow')).status).toBe(200)
    expect(refusal(await archive('gullhaven'))).toEqual([403, 'other-role'])
    expect((await browser('GET', '/api/sites/gullhaven/lab')).status).toBe(200)
    expect(refusal(await browser('GET', '/api/sites/quayside/lab'))).toEqual([403, 'other-role'])
  })
  it('ends what is open when it changes, and names only sites that are there', async () => {
    const { id, name, browser } = await member(null, [{ site: 'carrow', role: 'keeper' }])
    const unknown = await operator('PATCH', `/api/people/${id}`, {
      sites: [{ site: 'nowhere', role: 'keeper' }],
    })
    expect(refusal(unknown)).toEqual([404, 'no-such-site'])
    expect(await slugsOf(browser)).toEqual(['carrow'])
    const changed = await operator<PersonLine>('PATCH', `/api/people/${id}`, {
      sites: [{ site: 'quayside', role: 'rigger' }],
    })
    expect(changed.body.sites).toEqual([expect.objectContaining({ site: 'quayside', role: 'rigger' })])
    expect((await browser('GET', '/api/me')).status).toBe(401)
    expect(await slugsOf(await signedInAs(app, name, PASSWORD))).toEqual(['quayside'])
  })
  it('cannot be given at a site of another organisation', async () => {
    const [theirs] = await slugsOf(stranger)
    const { id } = await member('keeper')
    const reply = await operator('PATCH', `/api/people/${id}`, { sites: [{ site: theirs, role: 'keeper' }] })
    expect(refusal(reply)).toEqual([404, 'no-such-site'])
  })
})

describe('a site that is transferred', () => {
  const offer = (slug: string) => operator<TransferCode>('POST', `/api/sites/${slug}/transfer`, {})
  const take = (who: Client, code: string) => who<SiteSummary>('POST', '/api/transfers', { code })

  it('is the other organisation’s with all that is in it, and nobody’s role goes along', async () => {
    const site = await copyOf('gullhaven')
    const { browser } = await member(null, [{ site: site.slug, role: 'keeper' }])
    const { code } = (await offer(site.slug)).body
    expect(await slugsOf(planner)).toContain(site.slug)
    const taken = await take(stranger, code)
    expect(taken.body).toEqual({ slug: site.slug, name: site.name })
    expect((await stranger<PlanAt>('GET', `/api/sites/${site.slug}/plan`)).body.plan.site.name).toBe(
      site.name,
    )
    for (const who of [operator, planner, browser])
      expect(refusal(await who('GET', `/api/sites/${site.slug}/plan`))).toEqual([404, 'no-such-site'])
    expect(refusal(await take(operator, code))).toEqual([404, 'no-such-offer'])
    const [line] = (await stranger<AuditLine[]>('GET', '/api/audit?what=site-taken')).body
    expect(line).toMatchObject({ what: 'site-taken', subject: site.slug })
  })
  it('stays where the code is wrong, was made anew, or is too old', async () => {
    const { slug } = await copyOf('carrow')
    const before = (await offer(slug)).body.code
    const { code } = (await offer(slug)).body
    for (const wrong of ['made-up', before])
      expect(refusal(await take(stranger, wrong))).toEqual([404, 'no-such-offer'])
    const sql = postgres(app.databaseUrl, { max: 1 })
    await sql`update site_transfers set expires_at = now() - interval '1 second'`
    await sql.end()
    expect(refusal(await take(stranger, code))).toEqual([404, 'no-such-offer'])
    expect(await slugsOf(planner)).toContain(slug)
  })
  it('is not given away by who administers that site alone', async () => {
    const { browser } = await member(null, [{ site: 'carrow', role: 'administrator' }])
    expect(refusal(await browser('POST', '/api/sites/carrow/transfer', {}))).toEqual([403, 'other-role'])
  })
})

describe('an organisation', () => {
  it('is added by who operates the installation alone, with a name of its own', async () => {
    for (const who of [planner, stranger])
      expect(refusal(await who('POST', '/api/organisations', { name: 'Mine', administrator: 'Me' }))[0]).toBe(
        403,
      )
    const { name } = await organisation()
    const again = { name: name.toUpperCase(), administrator: 'Another' }
    expect(refusal(await operator('POST', '/api/organisations', again))).toEqual([409, 'organisation-in-use'])
    // Nothing of it was half done: the name of the person is free.
    expect((await operator('POST', '/api/people', { name: 'Another', role: 'keeper' })).status).toBe(200)
  })
  it('is removed when it has no site left, and its people are signed out', async () => {
    const { name, browser } = await organisation()
    const { slug } = (
      await browser<SiteSummary>('POST', '/api/sites', {
        text: JSON.stringify((await planner<PlanAt>('GET', '/api/sites/carrow/plan')).body.plan),
      })
    ).body
    const line = async () =>
      (await operator<OrganisationLine[]>('GET', '/api/organisations')).body.find((one) => one.name === name)
    expect(await line()).toMatchObject({ people: 1, sites: 1 })
    const remove = async () => operator('DELETE', `/api/organisations/${(await line())?.id}`)
    expect(refusal(await remove())).toEqual([409, 'organisation-has-sites'])
    const site = (await browser<SiteLine[]>('GET', '/api/sites')).body.find((one) => one.slug === slug)
    await browser('POST', `/api/sites/${slug}/delete`, { name: site?.name })
    expect(refusal(await remove())).toEqual([409, 'organisation-has-sites'])
    await browser('DELETE', `/api/deleted-sites/${slug}`)
    expect((await remove()).status).toBe(200)
    expect(await line()).toBeUndefined()
    expect((await browser('GET', '/api/me')).status).toBe(401)
  })
  it('is not removed by who is in it', async () => {
    const me = (await operator<Me>('GET', '/api/me')).body
    const own = (await operator<OrganisationLine[]>('GET', '/api/organisations')).body.find(
      ({ name }) => name === me.organisation,
    )
    expect(refusal(await operator('DELETE', `/api/organisations/${own?.id}`))).toEqual([
      409,
      'own-organisation',
    ])
  })
  it('is renamed by its administrator, to a name that no other has', async () => {
    const { name } = await organisation()
    expect(refusal(await stranger('PATCH', '/api/organisation', { name }))).toEqual([
      409,
      'organisation-in-use',
    ])
    expect((await stranger('PATCH', '/api/organisation', { name: 'Renamed Works' })).status).toBe(200)
  })
  it('lets who only administers it do nothing to who operates the installation', async () => {
    const head = await member('administrator')
    const people = (await head.browser<PersonLine[]>('GET', '/api/people')).body
    const owner = people.find(({ isOperator }) => isOperator)
    for (const [method, path, body] of [
      ['POST', '/link', {}],
      ['POST', '/clear-factors', {}],
      ['PATCH', '', { role: 'keeper' }],
      ['DELETE', '', undefined],
    ] as const)
      expect(refusal(await head.browser(method, `/api/people/${owner?.id}${path}`, body))).toEqual([
        403,
        'operator-needed',
      ])
    expect((await head.browser('POST', `/api/people/${head.id}/link`, {})).status).toBe(200)
    await operator('DELETE', `/api/people/${head.id}`)
  })
  it('has always somebody who administers it, and the installation somebody who operates it', async () => {
    const people = (await operator<PersonLine[]>('GET', '/api/people')).body
    const me = people.find(({ isOperator }) => isOperator)
    for (const change of [{ role: 'keeper' }, { isDisabled: true }])
      expect(refusal(await operator('PATCH', `/api/people/${me?.id}`, change))).toEqual([
        409,
        'last-administrator',
      ])
    expect(refusal(await operator('PATCH', `/api/people/${me?.id}`, { isOperator: false }))).toEqual([
      409,
      'last-operator',
    ])
    const theirs = (await stranger<PersonLine[]>('GET', '/api/people')).body[0]
    expect(refusal(await stranger('PATCH', `/api/people/${theirs?.id}`, { isOperator: true }))).toEqual([
      403,
      'operator-needed',
    ])
  })
})
