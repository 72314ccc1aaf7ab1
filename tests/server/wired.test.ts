import postgres from 'postgres'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { PlanAt, Tick } from '#contracts/api'
import { parsePlan } from '#contracts/plan'
import { acceptanceOf, analyse, type Finding } from '#core/findings'
import { indexPlan } from '#core/queries'
import type { Plan } from '#core/schema'
import { PLAN_VERSION } from '#core/format'
import { codesOf, signedIn, startApp, type App, type Client } from './harness'

let app: App
let planner: Client
let rigger: Client
beforeAll(async () => {
  app = await startApp()
  planner = await signedIn(app, 'planner')
  rigger = await signedIn(app, 'rigger')
})
afterAll(async () => {
  await app.stop()
})

describe('ticks', () => {
  it('are kept with who and when, the first one counts, and they can be taken back', async () => {
    const made = await rigger<Tick[]>('POST', '/api/sites/gullhaven/ticks', {
      item: 'site.photograph',
      done: true,
    })
    expect(made.body.map((t) => [t.item, t.who])).toEqual([['site.photograph', 'Rigger']])
    await planner('POST', '/api/sites/gullhaven/ticks', { item: 'site.photograph', done: true })
    expect((await planner<Tick[]>('GET', '/api/sites/gullhaven/ticks')).body.map((t) => t.who)).toEqual([
      'Rigger',
    ])
    expect(
      (await planner<Tick[]>('POST', '/api/sites/gullhaven/ticks', { item: 'site.photograph', done: false }))
        .body,
    ).toEqual([])
  })
  it('note who accepts a finding, and nothing that is none', async () => {
    const { plan } = (await planner<{ plan: Plan }>('GET', '/api/sites/gullhaven/plan')).body
    const [finding] = analyse(indexPlan(plan), []).findings
    const item = acceptanceOf(finding as Finding)
    const tick = (what: string, done: boolean) =>
      rigger<Tick[]>('POST', '/api/sites/gullhaven/ticks', { item: what, done })
    expect((await tick(item, true)).body).toMatchObject([{ item, who: 'Rigger' }])
    expect(codesOf(await tick('finding of mine', true))).toEqual(['no-such-item'])
    expect((await tick(item, false)).body).toEqual([])
    // What is gone from the plan can still be taken back.
    expect((await tick('gone.item', false)).status).toBe(200)
  })
  it('of an item that the plan does not have are refused', async () => {
    const reply = await rigger('POST', '/api/sites/gullhaven/ticks', { item: 'fibre.dance', done: true })
    expect([reply.status, codesOf(reply)]).toEqual([409, ['no-such-item']])
    expect((await rigger('POST', '/api/sites/gullhaven/ticks', { item: '', done: true })).status).toBe(400)
  })
})

describe('papers', () => {
  it.each([
    ['cables.csv', 'label,from place', 51],
    ['materials.csv', 'kind,name', 21],
    ['equipment.csv', 'model,serial,mac,device', 12],
  ])('%s', async (file, heading, lines) => {
    const reply = await planner('GET', `/api/sites/gullhaven/export/${file}`)
    expect(reply.headers.get('content-type')).toContain('text/csv')
    expect(reply.text.startsWith(heading)).toBe(true)
    expect(reply.text.trim().split('\r\n').length).toBeGreaterThanOrEqual(lines)
  })
})

describe('a site stored by an older version', () => {
  it('is read as today’s, changed, and every revision of it can still be read', async () => {
    const sql = postgres(app.databaseUrl, { max: 1 })
    // By the names that fields had before version 10.
    const inOldWords = (document: string) =>
      [
        ['homeNetworkId', 'wants'],
        ['sharedRisks', 'fates'],
      ].reduce((text, [now, then]) => `replace(${text}, '"${now}"', '"${then}"')`, `${document}::text`)
    const old = (column: string) => {
      const document = `(${inOldWords(column)})::jsonb`
      return sql.unsafe(`
      jsonb_set(jsonb_set(${document}, '{version}', '1'), '{site}',
        jsonb_build_object('name', ${column}->'site'->>'name', 'supernet', ${column}->'site'->>'supernet')
      ) - 'brief' - 'models' - 'templates'`)
    }
    const clean = sql`(select id from sites where slug = 'gullhaven-clean')`
    await sql`update plans set document = ${old('document')} where site_id = ${clean}`
    await sql`update plan_revisions set snapshot = ${old('snapshot')}
      where snapshot is not null and site_id = ${clean}`
    await sql.end()
    // The server may still hold what it read before; a fresh one reads what is stored.
    const { databaseUrl } = app
    await app.stop()
    app = await startApp({ databaseUrl })
    planner = await signedIn(app, 'planner')
    const read = (await planner<PlanAt>('GET', '/api/sites/gullhaven-clean/plan')).body
    expect([read.plan.version, read.plan.brief.buildings, parsePlan(read.plan).ok]).toEqual([
      PLAN_VERSION,
      [],
      true,
    ])
    const change = (baseRevision: number, name: string) =>
      planner<PlanAt>('PATCH', '/api/sites/gullhaven-clean/plan', {
        baseRevision,
        patch: [
          { op: 'replace', path: '/networks/1/name', value: name },
          { op: 'replace', path: '/site/country', value: 'XG' },
        ],
        words: name,
      })
    expect((await change(read.revision, 'Crew')).status).toBe(200)
    expect((await change(read.revision + 1, 'Hands')).status).toBe(200)
    for (const [revision, name] of [
      [read.revision, 'Staff'],
      [read.revision + 1, 'Crew'],
      [read.revision + 2, 'Hands'],
    ] as const) {
      const at = (
        await planner<{ plan: PlanAt['plan'] }>('GET', `/api/sites/gullhaven-clean/revisions/${revision}`)
      ).body
      expect([at.plan.version, at.plan.networks[1]?.name]).toEqual([PLAN_VERSION, name])
    }
  })
})
