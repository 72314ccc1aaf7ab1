import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { PlanAt, Proof } from '#contracts/api'
import { analyse } from '#core/findings'
import { indexPlan } from '#core/queries'
import { applyChanges } from '#core/edit'
import fastJsonPatch from 'fast-json-patch'
import { codesOf, signedIn, startApp, type App, type Client } from './harness'

let app: App
let planner: Client
let rigger: Client
const SITE = '/api/sites/gullhaven'
beforeAll(async () => {
  app = await startApp()
  planner = await signedIn(app, 'planner')
  rigger = await signedIn(app, 'rigger')
})
afterAll(async () => {
  await app.stop()
})

const proof = async () => (await rigger<Proof>('GET', `${SITE}/proof`)).body
const failing = (p: Proof) => p.results.filter((r) => !r.passed).map((r) => r.testId)
const record = (more: object) =>
  rigger('POST', `${SITE}/proof/results`, {
    testId: 'lease:voice',
    revision: 1,
    passed: true,
    vantage: 'phone 3',
    value: '10.61.4.23',
    note: '',
    ...more,
  })

describe('the proof', () => {
  it('opens partly recorded, by hand, with nothing failed', async () => {
    const { tests, results } = await proof()
    expect(results.length).toBeGreaterThan(tests.length / 3)
    expect(results.length).toBeLessThan((tests.length * 2) / 3)
    expect(results.every((r) => r.passed && r.source === 'hand' && r.who === 'Rigger')).toBe(true)
  })

  it('asked of the lab shows the plan’s own knot and the hidden fault', async () => {
    const answer = (await rigger<Proof>('POST', `${SITE}/proof/ask-lab`, { revision: 1 })).body
    expect(answer.results).toHaveLength(answer.tests.length)
    expect(failing(answer)).toEqual([
      'lease:cameras',
      'passes:i-names:cameras:gateway',
      'passes:i-tide:instruments:servers',
      'passes:i-video:cameras:servers',
    ])
    expect(answer.results.find((r) => r.testId === 'passes:i-tide:instruments:servers')).toMatchObject({
      value: 'does not pass: udp 123',
      source: 'lab',
      vantage: 'lab',
      who: 'Rigger',
    })
  })

  it('with the plan mended fails exactly where the lab was built wrong', async () => {
    const { plan } = (await planner<PlanAt>('GET', `${SITE}/plan`)).body
    const gap = analyse(indexPlan(plan), []).findings.find((f) => f.code === 'E02')
    const mended = applyChanges(plan, gap?.mend?.changes ?? [])
    const patch = mended.ok ? fastJsonPatch.compare(plan, mended.value) : []
    expect((await planner('PATCH', `${SITE}/plan`, { baseRevision: 1, patch, words: 'tag 40' })).status).toBe(
      200,
    )
    expect(failing((await rigger<Proof>('POST', `${SITE}/proof/ask-lab`, { revision: 2 })).body)).toEqual([
      'passes:i-tide:instruments:servers',
    ])
  })

  it('does not ask about a revision that is no longer the newest', async () => {
    expect(codesOf(await rigger('POST', `${SITE}/proof/ask-lab`, { revision: 1 }))).toEqual(['plan-moved-on'])
  })

  it('takes a result by hand, and the newest counts', async () => {
    expect((await record({ passed: false, note: 'no tone' })).status).toBe(200)
    expect((await proof()).results.find((r) => r.testId === 'lease:voice')).toMatchObject({
      passed: false,
      who: 'Rigger',
      vantage: 'phone 3',
      note: 'no tone',
      source: 'hand',
      revision: 1,
    })
    await record({ revision: 2 })
    expect((await proof()).results.find((r) => r.testId === 'lease:voice')).toMatchObject({
      passed: true,
      revision: 2,
    })
  })

  it('counts a pass no longer once the plan promises less than what was measured', async () => {
    const failover = async () => (await proof()).results.find((r) => r.testId === 'failover:fibre')
    const { revision, plan } = (await planner<PlanAt>('GET', `${SITE}/plan`)).body
    const at = plan.uplinks.findIndex(({ id }) => id === 'fibre')
    expect((await record({ testId: 'failover:fibre', revision, value: '14.5 s' })).status).toBe(200)
    expect(await failover()).toMatchObject({ passed: true, contradicted: false })
    const patch = [{ op: 'replace', path: `/uplinks/${at}/probe/misses`, value: 1 }]
    const saved = await planner('PATCH', `${SITE}/plan`, { baseRevision: revision, patch, words: 'quicker' })
    expect(saved.status).toBe(200)
    expect(await failover()).toMatchObject({ passed: false, contradicted: true, value: '14.5 s' })
  })

  it('keeps what comes twice under one key once, so that an old result sent again hides no newer one', async () => {
    expect((await record({ revision: 2, passed: false, value: 'first', key: 'letter-1' })).status).toBe(200)
    await record({ revision: 2, value: '10.61.4.24', key: 'letter-2' })
    expect((await record({ revision: 2, passed: false, value: 'first', key: 'letter-1' })).status).toBe(200)
    expect((await proof()).results.find((r) => r.testId === 'lease:voice')).toMatchObject({
      value: '10.61.4.24',
    })
  })

  it.each([
    [{ key: '' }, 'not-allowed'],
    [{ testId: 'nothing' }, 'no-such-test'],
    [{ revision: 99 }, 'no-such-revision'],
    [{ vantage: '' }, 'not-allowed'],
    [{ note: 'x'.repeat(1001) }, 'not-allowed'],
    [{ passed: 'yes' }, 'not-allowed'],
    [{ value: 'it works' }, 'no-reading'],
    [{ value: '10.61.1.44' }, 'reading-not-leased'],
    [{ testId: 'failover:fibre', value: '130 s' }, 'reading-too-late'],
    [{ testId: 'failover:fibre', value: '12' }, 'no-reading'],
  ])('refuses %o', async (more, code) => {
    expect(codesOf(await record(more))).toEqual([code])
  })
})
