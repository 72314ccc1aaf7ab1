import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { PlanAt, RadioLevel } from '#contracts/api'
import { indexPlan } from '#core/queries'
import { expectedDbm, radioLinks, sideLobeDeg, type RadioLink } from '#core/radio'
import { wantedAims } from '#server/lab/aimed-pair'
import { codesOf, signedIn, startApp, type App, type Client } from './harness'

const LEVELS = '/api/sites/gullhaven/levels'
const AIM = '/api/sites/gullhaven/lab/aim'
let app: App
let rigger: Client
let plan: PlanAt
let link: RadioLink
beforeAll(async () => {
  app = await startApp()
  rigger = await signedIn(app, 'rigger')
  plan = (await rigger<PlanAt>('GET', '/api/sites/gullhaven/plan')).body
  link = radioLinks(indexPlan(plan.plan))[0] as RadioLink
})
afterAll(() => app.stop())

const ofEnd = (levels: readonly RadioLevel[], end: 'a' | 'b') => levels.find((level) => level.end === end)

describe('levels of a radio link', () => {
  it('are kept as they are reported, the newest in place of the one before, by whom', async () => {
    await rigger('POST', LEVELS, { link: link.id, end: 'a', reading: '-71 dBm' })
    const { body } = await rigger<RadioLevel[]>('POST', LEVELS, { link: link.id, end: 'a', reading: '78 %' })
    expect(body).toMatchObject([{ linkId: link.id, end: 'a', dBm: -61, who: 'Rigger', simulated: false }])
  })

  it('what is no reading, and a link that is none, is refused', async () => {
    const wrong = await rigger('POST', LEVELS, { link: link.id, end: 'a', reading: 'loud' })
    expect([wrong.status, codesOf(wrong)]).toEqual([400, ['not-a-reading']])
    const gone = await rigger('POST', LEVELS, { link: 'no-link', end: 'a', reading: '-61' })
    expect([gone.status, codesOf(gone)]).toEqual([409, ['no-such-radio-link']])
  })

  it('simulated antennas read what is computed where they have to look, and a side lobe beside it', async () => {
    const wanted = wantedAims(plan.plan, link)
    const turn = async (offDeg: number, end: 'a' | 'b' = 'a') => {
      const azimuthDeg = ((wanted?.[end].azimuthDeg ?? 0) + offDeg + 360) % 360
      const aim = { link: link.id, end, azimuthDeg, tiltDeg: wanted?.[end].tiltDeg ?? 0 }
      const { body } = await rigger<RadioLevel[]>('POST', AIM, aim)
      return ofEnd(body, 'a')
    }
    const expected = expectedDbm(link, 'a') ?? 0
    const well = await turn(0)
    expect(well?.simulated).toBe(true)
    expect(Math.abs((well?.dBm ?? 0) - expected)).toBeLessThanOrEqual(1.3)
    // Both ends read it, since both antennas are in the path of either direction.
    const aside = await turn(2)
    expect(aside?.dBm).toBeLessThan((well?.dBm ?? 0) + 1)
    const lobe = await turn(sideLobeDeg(link.path?.ends[0].gainDbi ?? 0) ?? 0)
    expect(Math.abs((lobe?.dBm ?? 0) - (expected - 17.6))).toBeLessThanOrEqual(1.8)
    // With both turned away nothing is heard, and what was read before is not shown.
    await turn(180)
    expect(await turn(180, 'b')).toBeUndefined()
    await turn(0)
    await turn(0, 'b')
  })

  it('everybody is told of a new level', async () => {
    const { body } = await (await signedIn(app, 'keeper'))<RadioLevel[]>('GET', LEVELS)
    expect(body.map(({ end }) => end)).toEqual(['a', 'b'])
  })
})
