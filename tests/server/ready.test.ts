import postgres from 'postgres'
import { freePort } from '../../tools/postgres.mjs'
import { describe, expect, it } from 'vitest'
import { client, cookiesOf, eventually, personOf, signedIn, startApp } from './harness'

const ALL = { database: true, news: true, jobs: true, disk: true }

describe('a process', () => {
  it('says what it needs and has; loses its database, says so, and finds it again, with the news', async () => {
    const app = await startApp()
    const nobody = client(app)
    const ready = () => nobody('GET', '/api/ready')
    const admin = postgres(app.databaseUrl.replace(/\/t[0-9a-f]+$/, '/postgres'), { max: 1 })
    const name = app.databaseUrl.split('/').at(-1) ?? ''
    try {
      expect((await eventually(ready, ({ status }) => status === 200)).body).toEqual(ALL)
      const { name: person, password } = personOf('keeper')
      const signed = await nobody('POST', '/api/sign-in', { name: person, password })
      const stream = await fetch(`${app.url}/api/sites/gullhaven/news`, {
        headers: { cookie: cookiesOf(signed) },
      })
      const reader = stream.body?.getReader()
      await reader?.read()
      await admin.unsafe(`alter database ${name} allow_connections false`)
      await admin`select pg_terminate_backend(pid) from pg_stat_activity where datname = ${name}`
      const away = await eventually(ready, ({ status }) => status === 503)
      expect(away.body).toMatchObject({ database: false })
      await admin.unsafe(`alter database ${name} allow_connections true`)
      expect((await eventually(ready, ({ status }) => status === 200, 40_000)).body).toEqual(ALL)
      // Who listened may have missed something: the stream ends, and the browser opens it and reads anew.
      while (!(await reader?.read())?.done) {
        // Pulses until then.
      }
    } finally {
      await admin.end()
      await app.stop()
    }
  })
})

describe('a connection', () => {
  it('is kept longer than a proxy in front keeps it, which would lose a question otherwise', async () => {
    const app = await startApp()
    try {
      const { headers } = await client(app)('GET', '/api/ready')
      expect(headers.get('keep-alive')).toBe('timeout=75')
    } finally {
      await app.stop()
    }
  })
})

describe('what Prometheus reads', () => {
  it('counts answers by route, on a port of its own, and tells nothing of what was asked', async () => {
    const port = await freePort()
    const measured = await startApp({ env: { MAST_METRICS_PORT: String(port) } })
    try {
      const keeper = await signedIn(measured, 'keeper')
      for (const path of ['/api/sites', '/api/sites/gullhaven/plan', '/api/sites/no-such-place/plan'])
        await keeper('GET', path)
      const text = await (await fetch(`http://127.0.0.1:${port}/metrics`)).text()
      expect(text).toMatch(/^mast_answers_total\{route="GET \/api\/sites\/:site\/plan",status="200"\} 1$/m)
      expect(text).toMatch(/^mast_answers_total\{route="GET \/api\/sites\/:site\/plan",status="404"\} 1$/m)
      expect(text).toMatch(/^mast_answer_seconds_count\{route="GET \/api\/sites"\} 1$/m)
      expect(text).toMatch(/^process_resident_memory_bytes \d/m)
      expect(text).not.toMatch(/gullhaven|no-such-place|Keeper/)
      expect((await fetch(`http://127.0.0.1:${port}/api/sites`)).status).toBe(404)
      expect((await keeper('GET', '/metrics')).text).not.toContain('mast_answers_total')
    } finally {
      await measured.stop()
    }
  })
})
