import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { StepRecord } from '#contracts/api'
import { codesOf, signedIn, startApp, type App, type Client } from './harness'

const STEPS = '/api/sites/gullhaven/steps'
const record = (rest: object = {}) => ({
  activityId: 'print',
  state: 'done',
  at: '2026-11-01T09:00:00+01:00',
  reading: '',
  note: '',
  person: '',
  ...rest,
})
let app: App
let rigger: Client
let keeper: Client
beforeAll(async () => {
  app = await startApp()
  rigger = await signedIn(app, 'rigger')
  keeper = await signedIn(app, 'keeper')
})
afterAll(() => app.stop())

describe('records of steps', () => {
  it('are kept in their order, with the time they were told of, by whom', async () => {
    await rigger('POST', STEPS, record({ state: 'started' }))
    const kept = await rigger<StepRecord[]>('POST', STEPS, record({ note: 'on the blue printer' }))
    const { body } = await rigger<StepRecord[]>('GET', STEPS)
    expect(body).toMatchObject([
      { activityId: 'print', state: 'started', who: 'Rigger', at: '2026-11-01T08:00:00.000Z' },
      { activityId: 'print', state: 'done', note: 'on the blue printer' },
    ])
    expect(kept.body).toEqual(body.slice(-1))
    expect((await keeper<StepRecord[]>('GET', STEPS)).body).toEqual(body)
    const newer = await keeper<StepRecord[]>('GET', `${STEPS}?after=${body[0]?.id}`)
    expect(newer.body).toEqual(body.slice(1))
    for (const after of ['x', '-1', '1e400', '2147483648'])
      expect((await keeper<StepRecord[]>('GET', `${STEPS}?after=${after}`)).body).toEqual(body)
  })
  it('sent twice are kept once, and two people’s records of one step are both kept', async () => {
    const before = (await rigger<StepRecord[]>('GET', STEPS)).body.length
    const twice = record({ activityId: 'order', key: 'the-same-key' })
    await rigger('POST', STEPS, twice)
    await rigger('POST', STEPS, twice)
    const planner = await signedIn(app, 'planner')
    await planner('POST', STEPS, record({ activityId: 'order', state: 'failed' }))
    const { body } = await planner<StepRecord[]>('GET', STEPS)
    expect(body.length).toBe(before + 2)
    expect(body.slice(-2).map(({ who, state }) => [who, state])).toEqual([
      ['Rigger', 'done'],
      ['Planner', 'failed'],
    ])
  })
  it('of a step that the plan has not, of the future, or of no time are refused', async () => {
    const gone = await rigger('POST', STEPS, record({ activityId: 'mount:nobody' }))
    expect([gone.status, codesOf(gone)]).toEqual([409, ['no-such-step']])
    const ahead = await rigger('POST', STEPS, record({ at: '2999-01-01T00:00:00Z' }))
    expect([ahead.status, codesOf(ahead)]).toEqual([400, ['clock-ahead']])
    for (const at of ['', 'noon', '2026-11-01', 7]) {
      const reply = await rigger('POST', STEPS, record({ at }))
      expect(reply.status).toBe(400)
    }
    expect((await rigger('POST', STEPS, record({ state: 'perhaps' }))).status).toBe(400)
  })
  it('a thousand of them, some twice and in any order of arrival, are each there once', async () => {
    const keys = Array.from({ length: 1000 }, (_, i) => `outbox-${i}`)
    const sent = [...keys, ...keys.filter((_, i) => i % 3 === 0)]
    const before = (await rigger<StepRecord[]>('GET', STEPS)).body.length
    // Eight at a time, as browsers do.
    const queue = [...sent]
    // Meanwhile somebody reads on from what was read last.
    const read: StepRecord[] = []
    const readOn = async () => {
      const after = read.at(-1)?.id ?? 0
      read.push(...(await keeper<StepRecord[]>('GET', `${STEPS}?after=${after}`)).body)
    }
    const reading = (async () => {
      while (queue.length > 0) await readOn()
    })()
    await Promise.all(
      Array.from({ length: 8 }, async () => {
        for (let key = queue.shift(); key !== undefined; key = queue.shift())
          await rigger('POST', STEPS, record({ activityId: 'download', key, note: key }))
      }),
    )
    await reading
    await readOn()
    const { body } = await rigger<StepRecord[]>('GET', STEPS)
    expect(read).toEqual(body)
    const mine = body.filter(({ activityId }) => activityId === 'download')
    expect(body.length).toBe(before + 1000)
    expect(new Set(mine.map(({ note }) => note))).toEqual(new Set(keys))
  }, 120_000)
})
