import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { StepPhoto } from '#contracts/api'
import { codesOf, signedIn, startApp, type App, type Client } from './harness'

const PHOTOS = '/api/sites/gullhaven/photos'
/** Start of image, an application segment, end of image: ITU-T T.81, annex B. */
const JPEG = Buffer.from([0xff, 0xd8, 0xff, 0xe0, 0, 2, 0xff, 0xd9])
const photo = (rest: object = {}) => ({
  activityId: 'print',
  at: '2026-11-01T09:00:00+01:00',
  jpeg: JPEG.toString('base64'),
  ...rest,
})
let app: App
let rigger: Client
let planner: Client
beforeAll(async () => {
  app = await startApp()
  rigger = await signedIn(app, 'rigger')
  planner = await signedIn(app, 'planner')
})
afterAll(() => app.stop())

describe('photographs of steps', () => {
  it('are kept once however often they are sent, and come back as they were', async () => {
    const twice = photo({ key: 'the-same-picture' })
    await rigger('POST', PHOTOS, twice)
    const { body } = await rigger<StepPhoto[]>('POST', PHOTOS, twice)
    expect(body).toMatchObject([{ activityId: 'print', who: 'Rigger', at: '2026-11-01T08:00:00.000Z' }])
    const { headers, text } = await rigger('GET', `${PHOTOS}/${body[0]?.id}`)
    expect([headers.get('content-type'), headers.get('x-content-type-options')]).toEqual([
      'image/jpeg',
      'nosniff',
    ])
    expect(text).toBe(new TextDecoder().decode(JPEG))
  })
  it('that are none, are too large, or of a step that the plan has not are refused', async () => {
    const page = Buffer.from('<script>alert(1)</script>').toString('base64')
    const notOne = await rigger('POST', PHOTOS, photo({ jpeg: page }))
    expect([notOne.status, codesOf(notOne)]).toEqual([400, ['not-a-jpeg']])
    const large = Buffer.concat([JPEG, Buffer.alloc(420_000)]).toString('base64')
    expect((await rigger('POST', PHOTOS, photo({ jpeg: large }))).status).toBe(400)
    const larger = await rigger('POST', PHOTOS, photo({ jpeg: 'A'.repeat(700_000) }))
    expect([larger.status, codesOf(larger)]).toEqual([413, ['too-large']])
    const gone = await rigger('POST', PHOTOS, photo({ activityId: 'mount:nobody' }))
    expect([gone.status, codesOf(gone)]).toEqual([409, ['no-such-step']])
    expect((await rigger('POST', PHOTOS, photo({ jpeg: 'not base64!' }))).status).toBe(400)
  })
  it('are removed by whoever took them or by a planner, and belong to their site', async () => {
    const { body } = await planner<StepPhoto[]>('POST', PHOTOS, photo({ activityId: 'order' }))
    const mine = `${PHOTOS}/${body.at(-1)?.id}`
    const other = await rigger('DELETE', mine)
    expect([other.status, codesOf(other)]).toEqual([403, ['not-your-photo']])
    const elsewhere = mine.replace('gullhaven', 'gullhaven-clean')
    expect((await planner('DELETE', elsewhere)).status).toBe(404)
    expect((await planner('GET', elsewhere)).status).toBe(404)
    const left = await planner<StepPhoto[]>('DELETE', mine)
    expect(left.body.map(({ activityId }) => activityId)).toEqual(['print'])
    for (const id of ['0', '-1', '1.5', 'x', '99999999999999999999'])
      expect((await planner('GET', `${PHOTOS}/${id}`)).status).toBe(404)
  })
})
