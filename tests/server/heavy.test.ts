import { describe, expect, it } from 'vitest'
import type { PlanAt } from '#contracts/api'
import { busyPlan } from '../large'
import { planToText } from '#contracts/plan'
import { codesOf, signedIn, slugsOf, startApp } from './harness'

// Questions that take long: nobody else waits for them, and none takes for ever.

describe('a large site file', () => {
  it('is read while others are answered', async () => {
    const app = await startApp()
    try {
      const [planner, keeper] = [await signedIn(app, 'planner'), await signedIn(app, 'keeper')]
      const size = { switches: 99, portsEach: 12, networks: 64, fixedEach: 4 }
      const text = planToText(busyPlan(1, 1000, size))
      // Each is read as a whole before it is refused for its last part.
      const broken = text.replace(/\}\s*$/, ', "more": 1}')
      const files = Array.from({ length: 8 }, () => planner('POST', '/api/sites', { text: broken }))
      let isDone = false
      const all = Promise.all(files).finally(() => (isDone = true))
      const gaps: number[] = []
      const start = Date.now()
      while (!isDone) {
        const asked = Date.now()
        expect((await keeper('GET', '/api/me')).status).toBe(200)
        gaps.push(Date.now() - asked)
      }
      const tookMs = Date.now() - start
      for (const reply of await all) expect(reply.status).toBe(400)
      // As a share of the whole: read in the request's own process, one answer waits for several files.
      expect(Math.max(...gaps) / tookMs).toBeLessThan(0.5)
      expect(gaps.length).toBeGreaterThan(8)
    } finally {
      await app.stop()
    }
  })
})

describe('a question that takes too long', () => {
  it('is refused, changes nothing, and the next one is answered', async () => {
    const first = await startApp()
    const planner = await signedIn(first, 'planner')
    const { revision } = (await planner<PlanAt>('GET', '/api/sites/carrow/plan')).body
    await first.stop()
    const change = {
      baseRevision: revision,
      patch: [{ op: 'replace', path: '/site/name', value: 'Renamed' }],
      words: 'renamed',
    }
    const hurried = await startApp({ databaseUrl: first.databaseUrl, env: { MAST_HEAVY_MS: '1' } })
    try {
      const again = await signedIn(hurried, 'planner')
      const reply = await again('PATCH', '/api/sites/carrow/plan', change)
      expect([reply.status, codesOf(reply)]).toEqual([503, ['too-heavy']])
      expect((await again<PlanAt>('GET', '/api/sites/carrow/plan')).body.revision).toBe(revision)
      const proof = await again('GET', '/api/sites/gullhaven/proof')
      expect([proof.status, codesOf(proof)]).toEqual([503, ['too-heavy']])
      const tried = await again('POST', '/api/sites/carrow/proof/ask-lab', { revision })
      expect([tried.status, codesOf(tried)]).toEqual([503, ['too-heavy']])
      expect(await slugsOf(again)).toContain('carrow')
    } finally {
      await hurried.stop()
    }
    const calm = await startApp({ databaseUrl: first.databaseUrl })
    try {
      const reply = await (await signedIn(calm, 'planner'))('PATCH', '/api/sites/carrow/plan', change)
      expect(reply.status, reply.text).toBe(200)
    } finally {
      await calm.stop()
    }
  })
})
