import { indexPlan, conditionText } from '#core/queries'
import postgres from 'postgres'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { PlanAt, Run, RunLine } from '#contracts/api'
import { impactOf, singleFailures } from '#core/reachability'
import {
  codesOf,
  eventually,
  freshDatabase,
  signedIn,
  startApp,
  type App,
  type Client,
  type Reply,
} from './harness'

let app: App
let planner: Client
let databaseUrl: string
const SITE = '/api/sites/gullhaven'
beforeAll(async () => {
  databaseUrl = await freshDatabase()
  app = await startApp({ databaseUrl })
  planner = await signedIn(app, 'planner')
})
afterAll(async () => {
  await app.stop()
})

const start = (kind: 'singles' | 'pairs', things: readonly string[], revision = 1) =>
  planner<RunLine[]>('POST', `${SITE}/runs`, { kind, things, revision })
const newest = async () => (await planner<RunLine[]>('GET', `${SITE}/runs`)).body[0]
const ended = () =>
  eventually(newest, (r) => r !== undefined && !['waiting', 'running'].includes(r.state), 60_000)
const run = async (id: number) => (await planner<Run>('GET', `${SITE}/runs/${id}`)).body

describe('what-if runs on the server', () => {
  it('try every single failure, and keep what each takes', async () => {
    const [line] = (await start('singles', [])).body
    expect(line).toMatchObject({ kind: 'singles', revision: 1, askedBy: 'Planner', tried: 0 })
    const done = await ended()
    const { plan } = (await planner<PlanAt>('GET', `${SITE}/plan`)).body
    expect(done).toMatchObject({
      state: 'done',
      tried: singleFailures(plan).length,
      total: singleFailures(plan).length,
    })
    // The same engine, asked here: what is kept is the whole answer and nothing else.
    const here = singleFailures(plan)
      .map((condition) => ({
        things: [conditionText(condition)],
        lost: impactOf(indexPlan(plan), [condition]),
      }))
      .filter((row) => row.lost.length > 0)
    expect((await run(done?.id ?? 0)).result).toEqual(JSON.parse(JSON.stringify(here)))
  })

  it('of pairs keep what only the two together take', async () => {
    await start('pairs', ['fibre', '5g', 'boat-switch'])
    const done = await ended()
    expect(done).toMatchObject({ state: 'done', total: 3, tried: 3 })
    expect((await run(done?.id ?? 0)).result?.map((r) => r.things)).toEqual([['fibre', '5g']])
  })

  it('are refused for what is not there, for an old revision, and to whoever may only read', async () => {
    expect(codesOf(await start('pairs', ['fibre', 'nobody']))).toEqual(['no-such-thing'])
    expect(codesOf(await start('singles', [], 7))).toEqual(['plan-moved-on'])
    expect(codesOf(await planner('GET', `${SITE}/runs/99999`))).toEqual(['no-such-run'])
    expect(codesOf(await planner('GET', '/api/sites/carrow/runs/1'))).toEqual(['no-such-run'])
    const keeper = await signedIn(app, 'keeper')
    expect((await keeper('POST', `${SITE}/runs`, { kind: 'singles', things: [], revision: 1 })).status).toBe(
      403,
    )
    expect((await keeper('GET', `${SITE}/runs`)).status).toBe(200)
  })

  it('are stopped, and what was stopped stays so', async () => {
    const { plan } = (await planner<PlanAt>('GET', `${SITE}/plan`)).body
    await start('pairs', singleFailures(plan).map(conditionText))
    const line = await newest()
    expect((await planner('DELETE', `${SITE}/runs/${line?.id}`)).status).toBe(200)
    expect(await newest()).toMatchObject({ id: line?.id, state: 'stopped' })
    expect(codesOf(await planner('DELETE', `${SITE}/runs/${line?.id}`))).toEqual(['run-has-ended'])
    // The next one is not held up by it.
    await start('pairs', ['fibre', '5g'])
    expect((await ended())?.state).toBe('done')
    expect(await run(line?.id ?? 0)).toMatchObject({ state: 'stopped', result: null })
  })

  it('left behind by a server that was killed are done by the next', async () => {
    const { plan } = (await planner<PlanAt>('GET', `${SITE}/plan`)).body
    const [line] = (await start('pairs', singleFailures(plan).slice(0, 24).map(conditionText))).body
    await app.stop('SIGKILL')
    app = await startApp({ databaseUrl })
    planner = await signedIn(app, 'planner')
    expect(await ended()).toMatchObject({ id: line?.id, state: 'done', tried: 276 })
  })

  it('of one person wait for one another, so that others get their turn', async () => {
    const { plan } = (await planner<PlanAt>('GET', `${SITE}/plan`)).body
    const many = singleFailures(plan).map(conditionText)
    const replies = []
    for (let n = 0; n < 7; n++) replies.push(await start('pairs', many))
    expect(replies.map(({ status }) => status)).toEqual([200, 200, 200, 200, 200, 200, 409])
    expect(codesOf(replies[6] as Reply)).toEqual(['too-many-runs'])
    const rigger = await signedIn(app, 'rigger')
    const order = { kind: 'pairs', things: ['fibre', '5g'], revision: 1 }
    expect((await rigger('POST', `${SITE}/runs`, order)).status).toBe(200)
    for (const { id, state } of (await planner<RunLine[]>('GET', `${SITE}/runs`)).body)
      if (state === 'waiting' || state === 'running') await planner('DELETE', `${SITE}/runs/${id}`)
  })

  it('whose server died between the queue and the work are taken up by another, once', async () => {
    const sql = postgres(databaseUrl, { max: 1 })
    try {
      const [row] = await sql`
        insert into what_if_runs (site_id, revision, kind, things, asked_at, asked_by, state, total)
        select id, 1, 'pairs', '["fibre", "5g"]', now(), 'Planner', 'waiting', 1 from sites where slug = 'gullhaven'
        returning id`
      const id = row?.['id'] as number
      expect(await ended()).toMatchObject({ id, state: 'done', tried: 1 })
      const jobs = await sql`select state from pgboss.job where data->>'runId' = ${String(id)}`
      expect(jobs).toHaveLength(1)
    } finally {
      await sql.end()
    }
  })

  it('that another server works on are left to it, until it dies', async () => {
    // The other server is played by this connection: it holds what a server holds while it works on a run.
    const other = postgres(databaseUrl, { max: 1 })
    const [row] = await other`
      insert into what_if_runs (site_id, revision, kind, things, asked_at, asked_by, state, total)
      select id, 1, 'pairs', '["fibre", "5g"]', now(), 'Planner', 'running', 1 from sites where slug = 'gullhaven'
      returning id, pg_advisory_lock(610062, id)`
    const second = await startApp({ databaseUrl })
    try {
      // Both look for runs every ten seconds, and the second has put it into the queue once more at its start.
      await new Promise((done) => setTimeout(done, 12_000))
      expect(await newest()).toMatchObject({ id: row?.['id'] as number, state: 'running', tried: 0 })
    } finally {
      await other.end()
    }
    try {
      expect(await ended()).toMatchObject({ id: row?.['id'] as number, state: 'done', tried: 1 })
    } finally {
      await second.stop()
    }
  })
})
