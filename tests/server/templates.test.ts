import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { PlanAt, SiteSummary, TemplateSummary } from '#contracts/api'
import { planToText } from '#contracts/plan'
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

const keep = (slug: string, name: string) =>
  planner<TemplateSummary>('POST', `/api/sites/${slug}/template`, { name })
const list = async () => (await rigger<TemplateSummary[]>('GET', '/api/templates')).body
const begin = (id: number | string, name: string) =>
  planner<SiteSummary>('POST', `/api/templates/${id}/site`, { name })
const read = async (slug: string) => (await rigger<PlanAt>('GET', `/api/sites/${slug}/plan`)).body.plan

describe('a template', () => {
  it('is a plan as it was when it was kept, without what is of one site alone', async () => {
    const kept = await keep('gullhaven', 'Island')
    expect([kept.status, kept.body.name, kept.body.keptBy]).toEqual([200, 'Island', 'Planner'])
    const before = await read('gullhaven')
    const patch = [{ op: 'replace', path: '/site/country', value: 'DE' }]
    const { revision } = (await planner<PlanAt>('GET', '/api/sites/gullhaven/plan')).body
    const change = { baseRevision: revision, patch, words: 'country' }
    expect((await planner('PATCH', '/api/sites/gullhaven/plan', change)).status).toBe(200)

    const made = await begin(kept.body.id, 'Second island')
    expect([made.status, made.body]).toEqual([
      200,
      { slug: 'second-island', name: 'Second island', revision: 1 },
    ])
    const plan = await read('second-island')
    expect([plan.site, plan.devices]).toEqual([{ ...before.site, name: 'Second island' }, before.devices])
    const serials = before.brief.equipment.flatMap(({ serial }) => (serial ? [serial] : []))
    expect(serials.length).toBeGreaterThan(3)
    expect(serials.filter((serial) => planToText(plan).includes(serial))).toEqual([])
  })

  it('has a name that no other has, and a list that everybody sees', async () => {
    const first = await keep('carrow', 'Office')
    expect(first.status).toBe(200)
    const again = await keep('gullhaven', 'Office')
    expect([again.status, codesOf(again)]).toEqual([409, ['template-name-taken']])
    const found = (await list()).filter(({ name }) => name === 'Office')
    expect(found).toEqual([first.body])
  })

  it('is gone when it is removed, and what was made from it is not', async () => {
    const { id } = (await keep('carrow', 'Short-lived')).body
    const made = (await begin(id, 'Made before')).body
    expect((await planner('DELETE', `/api/templates/${id}`)).status).toBe(200)
    expect((await list()).map((template) => template.id)).not.toContain(id)
    expect((await read(made.slug)).site.name).toBe('Made before')
    for (const reply of [await begin(id, 'Late'), await planner('DELETE', `/api/templates/${id}`)])
      expect([reply.status, codesOf(reply)]).toEqual([404, ['no-such-template']])
  })

  it.each(['0', '-1', '1.5', '2147483648', 'x'])('number %s is of none', async (id) => {
    const reply = await begin(id, 'Of none')
    expect([reply.status, codesOf(reply)]).toEqual([404, ['no-such-template']])
  })

  it('is not kept of a site that is not there, nor under a name that is none', async () => {
    expect(codesOf(await keep('nowhere', 'Nothing'))).toEqual(['no-such-site'])
    expect((await keep('carrow', '')).status).toBe(400)
    expect((await keep('carrow', 'a\nb')).status).toBe(400)
  })
})
