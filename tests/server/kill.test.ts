import { describe, expect, it } from 'vitest'
import type { PlanAt } from '#contracts/api'
import { client, freshDatabase, personOf, signedIn, startApp, slugsOf } from './harness'

describe('a server killed with -9 while saves are under way', () => {
  it('has every acknowledged save when it is back, and nothing half', async () => {
    const first = await startApp()
    const planner = await signedIn(first, 'planner')
    const acknowledged: { revision: number; name: string }[] = []
    let revision = 1
    let going = true
    // Killed when so many saves are answered, not after a time: on a slow machine the test is slower, not
    // different.
    let enough = () => {}
    const answered = new Promise<void>((done) => (enough = done))
    const saving = (async () => {
      while (going) {
        const name = `Kept ${revision + 1}`
        const reply = await planner<PlanAt>('PATCH', '/api/sites/gullhaven/plan', {
          baseRevision: revision,
          patch: [{ op: 'replace', path: '/site/name', value: name }],
          words: name,
        }).catch(() => null)
        if (reply?.status !== 200) return enough()
        revision = reply.body.revision
        acknowledged.push({ revision, name })
        if (acknowledged.length === 10) enough()
      }
    })()
    await answered
    await first.stop('SIGKILL')
    going = false
    await saving

    expect(acknowledged.length).toBeGreaterThanOrEqual(10)
    const second = await startApp({ databaseUrl: first.databaseUrl })
    try {
      const keeper = await signedIn(second, 'keeper')
      const now = (await keeper<PlanAt>('GET', '/api/sites/gullhaven/plan')).body
      const last = acknowledged.at(-1)
      // The save that was under way may have been kept without its answer; none that was answered may be
      // gone.
      expect([last?.revision, (last?.revision ?? 0) + 1]).toContain(now.revision)
      expect(now.plan.site.name).toBe(`Kept ${now.revision}`)
      for (const { revision: nth, name } of acknowledged) {
        expect(
          (await keeper<PlanAt>('GET', `/api/sites/gullhaven/revisions/${nth}`)).body.plan.site.name,
        ).toBe(name)
      }
    } finally {
      await second.stop()
    }
  })
})

describe('stopping and starting', () => {
  it('ends by itself on SIGTERM, open streams and all, and loads the demo only once', async () => {
    const app = await startApp()
    const { name, password } = personOf('keeper')
    const cookie =
      (await client(app)('POST', '/api/sign-in', { name, password })).headers
        .get('set-cookie')
        ?.split(';')[0] ?? ''
    const keeper = client(app, cookie)
    const stream = await fetch(`${app.url}/api/sites/gullhaven/news`, { headers: { cookie } })
    expect(stream.status).toBe(200)
    const sites = await slugsOf(keeper)
    expect(await app.stop()).toBe(0)
    const again = await startApp({ databaseUrl: app.databaseUrl })
    expect(await slugsOf(await signedIn(again, 'keeper'))).toEqual(sites)
    await again.stop()
  })
  it('a database that refuses us ends the start: it would refuse us again', async () => {
    const wrong = new URL(await freshDatabase())
    wrong.pathname = '/no-such-database'
    await expect(startApp({ databaseUrl: wrong.href })).rejects.toThrow(
      'the server stopped before it was ready',
    )
  })
})
