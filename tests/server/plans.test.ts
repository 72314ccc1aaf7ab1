import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { planToText } from '#contracts/plan'
import type { PlanAt, RevisionLine, SiteSummary } from '#contracts/api'
import { changesBetween } from '#core/edit'
import type { Plan } from '#core/schema'
import { PLAN_VERSION } from '#core/format'
import { gullhavenPlan } from '#server/demo/gullhaven'
import { base } from '../plans'
import { codesOf, signedIn, startApp, type App, type Client, slugsOf } from './harness'

let app: App
let planner: Client
let keeper: Client
beforeAll(async () => {
  app = await startApp()
  planner = await signedIn(app, 'planner')
  keeper = await signedIn(app, 'keeper')
})
afterAll(async () => {
  await app.stop()
})

const rename = (name: string) => [{ op: 'replace', path: '/site/name', value: name }]
const save = (slug: string, baseRevision: number, patch: unknown, words = 'renamed') =>
  planner<PlanAt>('PATCH', `/api/sites/${slug}/plan`, { baseRevision, patch, words })
async function newSite(name: string): Promise<string> {
  const reply = await planner<SiteSummary>('POST', '/api/sites', {
    text: planToText({ ...base(), site: { ...base().site, name } }),
  })
  expect(reply.status).toBe(200)
  return reply.body.slug
}
const read = async (slug: string) => (await keeper<PlanAt>('GET', `/api/sites/${slug}/plan`)).body

describe('saving', () => {
  it('makes a revision with who, when and what', async () => {
    const slug = await newSite('Saved')
    const began = Date.now()
    expect((await save(slug, 1, rename('Saved twice'))).body).toMatchObject({
      revision: 2,
      author: 'Planner',
      plan: { site: { name: 'Saved twice' } },
    })
    const lines = (await keeper<RevisionLine[]>('GET', `/api/sites/${slug}/revisions`)).body
    expect(lines.map((l) => [l.revision, l.author, l.words])).toEqual([
      [2, 'Planner', 'renamed'],
      [1, 'Planner', 'read from a site file'],
    ])
    expect(Math.abs(Date.parse(lines[0]?.at ?? '') - began)).toBeLessThan(60_000)
  })

  it('of a stale revision is refused with the newer plan, and changes nothing', async () => {
    const slug = await newSite('Stale')
    await save(slug, 1, rename('First'))
    const late = await save(slug, 1, rename('Second'))
    expect([late.status, codesOf(late)]).toEqual([409, ['stale-revision']])
    expect(late.body).toMatchObject({
      current: { revision: 2, author: 'Planner', plan: { site: { name: 'First' } } },
    })
    expect((await read(slug)).plan.site.name).toBe('First')
  })

  it('by many at once lets exactly one through for each revision', async () => {
    const slug = await newSite('Race')
    const replies = await Promise.all(
      Array.from({ length: 8 }, (_, i) => save(slug, 1, rename(`Racer ${i}`))),
    )
    expect(replies.map((r) => r.status).sort()).toEqual([200, 409, 409, 409, 409, 409, 409, 409])
    expect((await read(slug)).revision).toBe(2)
  })

  it.each<[string, unknown, string]>([
    [
      'a value that is not allowed',
      [{ op: 'replace', path: '/networks/0/gateway', value: '10.61.2.300' }],
      'not-ipv4',
    ],
    ['a field nobody knows', [{ op: 'add', path: '/extra', value: 1 }], 'not-allowed'],
    [
      'a place that is not there',
      [{ op: 'replace', path: '/networks/99/gateway', value: '10.0.0.1' }],
      'bad-patch',
    ],
    ['a part that is missing afterwards', [{ op: 'remove', path: '/networks' }], 'not-allowed'],
    ['a way to the prototype', [{ op: 'add', path: '/__proto__/polluted', value: 1 }], 'bad-patch'],
    ['a newer version', [{ op: 'replace', path: '/version', value: PLAN_VERSION + 1 }], 'newer-version'],
    ['an operation of another kind', [{ op: 'move', from: '/networks', path: '/devices' }], 'not-allowed'],
    ['the second of two operations', [...rename('Half'), { op: 'remove', path: '/devices' }], 'not-allowed'],
  ])('with %s is refused whole', async (name, patch, code) => {
    const slug = await newSite(`Bad ${name}`)
    const before = await read(slug)
    const reply = await save(slug, 1, patch)
    expect([reply.status, codesOf(reply)[0]]).toEqual([400, code])
    expect(await read(slug)).toEqual(before)
    expect(({} as Record<string, unknown>)['polluted']).toBeUndefined()
  })
})

describe('revisions', () => {
  it('differ only in what was changed, however the database keeps them', async () => {
    const slug = await newSite('Differs')
    await save(slug, 1, rename('Differs now'))
    const { plan, before } = (
      await keeper<{ plan: Plan; before: Plan }>('GET', `/api/sites/${slug}/revisions/2`)
    ).body
    expect(changesBetween(before, plan).map((c) => c.path.join('.'))).toEqual(['site.name'])
  })

  it('each can be looked at, over snapshots and patches, and restored as a new one', async () => {
    const slug = await newSite('History 1')
    for (let n = 2; n <= 45; n++) expect((await save(slug, n - 1, rename(`History ${n}`))).status).toBe(200)
    for (const nth of [1, 2, 19, 20, 21, 39, 40, 41, 45]) {
      const reply = await keeper<{ plan: Plan; before: Plan | null }>(
        'GET',
        `/api/sites/${slug}/revisions/${nth}`,
      )
      expect([reply.body.plan.site.name, reply.body.before?.site.name]).toEqual([
        `History ${nth}`,
        nth === 1 ? undefined : `History ${nth - 1}`,
      ])
    }
    const restored = await planner<PlanAt>('POST', `/api/sites/${slug}/restore`, {
      baseRevision: 45,
      revision: 7,
    })
    expect([restored.body.revision, restored.body.plan.site.name]).toEqual([46, 'History 7'])
    expect((await keeper<RevisionLine[]>('GET', `/api/sites/${slug}/revisions`)).body[0]).toMatchObject({
      revision: 46,
      words: 'restored revision 7',
    })
  })

  it('that do not exist, and restores from a stale one, are refused', async () => {
    const slug = await newSite('No history')
    for (const nth of ['2', '0', '-1', 'x', '1e3', '99999999999'])
      expect(codesOf(await keeper('GET', `/api/sites/${slug}/revisions/${nth}`))).toEqual([
        'no-such-revision',
      ])
    await save(slug, 1, rename('Moved on'))
    expect(
      codesOf(await planner('POST', `/api/sites/${slug}/restore`, { baseRevision: 1, revision: 1 })),
    ).toEqual(['stale-revision'])
    expect(
      codesOf(await planner('POST', `/api/sites/${slug}/restore`, { baseRevision: 2, revision: 2 })),
    ).toEqual(['nothing-to-restore'])
  })
})

describe('site files', () => {
  it('exported and read back are the identical plan', async () => {
    const file = await keeper('GET', '/api/sites/gullhaven-clean/export/site.json')
    expect(file.headers.get('content-disposition')).toBe('attachment; filename="gullhaven-clean-site.json"')
    const made = await planner<SiteSummary>('POST', '/api/sites', { text: file.text })
    expect((await read(made.body.slug)).plan).toEqual((await read('gullhaven-clean')).plan)
    expect((await keeper('GET', `/api/sites/${made.body.slug}/export/site.json`)).text).toBe(file.text)
  })

  it.each<[string, string, string]>([
    ['not JSON', 'hello', 'not-json'],
    ['another file', '{"a":1}', 'not-a-plan'],
    ['a newer version', JSON.stringify({ ...gullhavenPlan(), version: PLAN_VERSION + 1 }), 'newer-version'],
    ['a bad address', planToText(gullhavenPlan()).replace('"10.61.1.1"', '"10.61.1.999"'), 'not-ipv4'],
  ])('%s is refused, and no site is made', async (_, text, code) => {
    const before = await slugsOf(keeper)
    const reply = await planner('POST', '/api/sites', { text })
    expect([reply.status, codesOf(reply)]).toEqual([400, [code]])
    expect(await slugsOf(keeper)).toEqual(before)
  })

  it('5 MB of garbage is refused, by its size where so much is never needed', async () => {
    const garbage = 'x'.repeat(5_000_000)
    expect(codesOf(await planner('POST', '/api/sites', garbage))).toEqual(['not-json'])
    expect(codesOf(await planner('POST', '/api/sites', { text: garbage }))).toEqual(['not-json'])
    const reply = await planner('POST', '/api/sites/gullhaven/claim-list', { csv: garbage })
    expect([reply.status, codesOf(reply)]).toEqual([413, ['too-large']])
    expect((await keeper('GET', '/api/health')).status).toBe(200)
  })

  it('as CSV hold every network and every port (RFC 4180 line ends)', async () => {
    const addresses = (await keeper('GET', '/api/sites/gullhaven/export/addresses.csv')).text.split('\r\n')
    expect(addresses[0]).toBe('VLAN,name,subnet,gateway,DHCP,pool from,pool to,addresses,expected,static')
    expect(addresses).toContain('30,Instruments,10.61.2.64/26,10.61.2.65,serve,10.61.2.80,10.61.2.119,64,21,')
    const ports = (await keeper('GET', '/api/sites/gullhaven/export/ports.csv')).text
    expect(ports).toContain(
      'Laboratory,Laboratory switch,22,trunk,99,30,"Skerry bridge, end A",lan,Cat6 outdoor,38\r\n',
    )
    expect((await keeper('GET', '/api/sites/gullhaven/export/passwords.csv')).status).toBe(404)
  })

  it('a cell that a spreadsheet would run is made harmless', async () => {
    const slug = await newSite('Formula')
    await save(slug, 1, [{ op: 'replace', path: '/networks/1/name', value: '=1+1' }])
    expect((await keeper('GET', `/api/sites/${slug}/export/addresses.csv`)).text).toContain("'=1+1")
  })
})

describe('a site like another', () => {
  const copy = (by: Client, slug: string, body: object) =>
    by<SiteSummary>('POST', `/api/sites/${slug}/copy`, body)

  it('has its plan, without the serials, the MAC addresses and the keys', async () => {
    const reply = await copy(planner, 'gullhaven', { name: 'Another haven' })
    expect([reply.status, reply.body]).toEqual([
      200,
      { slug: 'another-haven', name: 'Another haven', revision: 1 },
    ])
    const { plan } = await read('another-haven')
    const original = (await read('gullhaven')).plan
    expect([plan.site.name, plan.devices, plan.policies]).toEqual([
      'Another haven',
      original.devices,
      original.policies,
    ])
    const text = planToText(plan)
    const ownOf = (of: Plan) => [
      ...of.brief.equipment.flatMap(({ serial, mac }) => [serial, mac]),
      ...of.networks.flatMap(({ fixed }) => fixed.map(({ mac }) => mac)),
      ...of.tunnels.flatMap((t) => [t.publicKey, ...t.peers.map(({ publicKey }) => publicKey)]),
    ]
    const own = ownOf(original).filter((value) => value !== null && value !== '')
    expect(own.length).toBeGreaterThan(10)
    expect(own.filter((value) => value !== null && text.includes(`"${value}"`))).toEqual([])
    // Who may release a claim of the original may not do so through the copy.
    const roster = await planner<{ claims?: unknown[] }>('GET', '/api/sites/another-haven/roster')
    expect(JSON.stringify(roster.body)).not.toContain(original.brief.equipment[0]?.serial)
  })

  it('is the planner’s to make, under a name of its own, from a site that is there', async () => {
    expect((await copy(keeper, 'gullhaven', { name: 'Kept' })).status).toBe(403)
    expect((await copy(planner, 'gullhaven', { name: '' })).status).toBe(400)
    expect((await copy(planner, 'gullhaven', { name: 'a\nb' })).status).toBe(400)
    const reply = await copy(planner, 'nowhere', { name: 'From nowhere' })
    expect([reply.status, codesOf(reply)]).toEqual([404, ['no-such-site']])
    const names = (await keeper<SiteSummary[]>('GET', '/api/sites')).body.map(({ name }) => name)
    expect(names).not.toContain('From nowhere')
  })
})

describe('bad requests', () => {
  it.each<[string, unknown, Record<string, string>, number, string]>([
    ['not JSON', 'x', {}, 400, 'not-json'],
    ['nothing of what is needed', {}, {}, 400, 'not-allowed'],
    ['something more', { baseRevision: 1, patch: rename('x'), words: '', more: 1 }, {}, 400, 'not-allowed'],
  ])('%s', async (_, body, headers, status, code) => {
    const reply = await planner('PATCH', '/api/sites/gullhaven/plan', body, headers)
    expect([reply.status, codesOf(reply)[0]]).toEqual([status, code])
  })
  it('of a site that is not there are told so', async () => {
    for (const path of ['plan', 'revisions', 'roster', 'proof', 'news', 'export/site.json'])
      expect(codesOf(await keeper('GET', `/api/sites/nowhere/${path}`))).toEqual(['no-such-site'])
  })
})
