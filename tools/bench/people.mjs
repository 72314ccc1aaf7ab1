// Two hundred people at once, and an organisation with two thousand sites.

import http from 'node:http'
import { createRequire } from 'node:module'

import { say } from '../say.mjs'

/* global document */
import { signIn } from './application.mjs'
import { openBrowser } from './browser.mjs'
import { line, quantile } from './measure.mjs'

const require = createRequire(import.meta.url)

const PEOPLE = 200
const SITES = 2000
/** How long they work, and how long somebody looks between two requests, about. */
const WORK_MS = 30_000
const LOOK_MS = 3000
/** Of so many requests one is a record of a step; the others read. */
const EVERY_NTH_WRITES = 8
const READS = [
  'sites',
  'sites/gullhaven/plan',
  'sites/gullhaven/roster',
  'sites/gullhaven/proof',
  'sites/gullhaven/steps',
]

/** One person: a stream of news, and questions with pauses. */
class Person {
  constructor(url, cookie, agent, nth) {
    Object.assign(this, { url, cookie, agent, nth, times: [], failed: 0, heard: 0 })
  }

  ask(method, path, body) {
    const start = performance.now()
    const text = body === undefined ? '' : JSON.stringify(body)
    const headers = {
      cookie: this.cookie,
      origin: this.url,
      ...(body === undefined
        ? {}
        : { 'content-type': 'application/json', 'content-length': Buffer.byteLength(text) }),
    }
    return new Promise((done) => {
      const failed = () => done(void this.failed++)
      http
        .request(`${this.url}/api/${path}`, { method, headers, agent: this.agent }, (reply) => {
          reply.resume().on('error', failed)
          reply.on('end', () => {
            if (reply.statusCode === 200) this.times.push(performance.now() - start)
            else this.failed++
            done()
          })
        })
        .on('error', failed)
        .end(text)
    })
  }

  listen() {
    this.stream = http.get(`${this.url}/api/sites/gullhaven/news`, {
      headers: { cookie: this.cookie },
      agent: false,
    })
    this.stream.on('response', (reply) => reply.on('data', () => this.heard++))
    this.stream.on('error', () => undefined)
  }

  async work(until) {
    for (let n = this.nth; performance.now() < until; n++) {
      await new Promise((done) => setTimeout(done, LOOK_MS * (0.5 + Math.random())))
      if (n % EVERY_NTH_WRITES === 0)
        await this.ask('POST', 'sites/gullhaven/steps', {
          activityId: 'print',
          state: 'done',
          at: new Date().toISOString(),
          reading: '',
          note: '',
          person: '',
          key: `load-${this.nth}-${n}`,
        })
      else await this.ask('GET', READS[n % READS.length])
    }
    this.stream.destroy()
  }
}

/** 200 signed-in people, each with a stream open, who read and record. */
export async function benchPeople(url) {
  say(`\n${PEOPLE} people signed in, each with a stream open, asking every ${LOOK_MS / 1000} s or so`)
  // Riggers, who may record; each session is one of its own.
  const cookies = []
  for (let n = 0; n < PEOPLE; n++) cookies.push(await signIn(url, 'Rigger', 'rope-and-shackle'))
  const agent = new http.Agent({ keepAlive: true, maxSockets: PEOPLE })
  const people = cookies.map((cookie, nth) => new Person(url, cookie, agent, nth))
  people.forEach((person) => person.listen())
  await Promise.all(people.map((person) => person.work(performance.now() + WORK_MS)))
  agent.destroy()
  const times = people.flatMap((person) => person.times)
  const failed = people.reduce((sum, person) => sum + person.failed, 0)
  const p95 = quantile(times, 0.95)
  line(`${times.length} answers in ${WORK_MS / 1000} s, 95th percentile`, p95, 'ms', '< 100', p95 < 100)
  line('  not answered, or refused', failed, 'answers', '0', failed === 0)
  const deaf = people.filter((person) => person.heard < 2).length
  line('  people whose stream told them nothing', deaf, 'people', '0', deaf === 0)
}

/** The first rows of the Sites page, where an organisation has two thousand sites. */
export async function benchSites(url, database) {
  say(`\nSites page of ${SITES} sites, Chromium`)
  const postgres = require('postgres')
  const sql = postgres(database.url, { max: 1, onnotice: () => undefined })
  await sql`insert into sites (organisation_id, slug, name)
    select (select organisation_id from sites where slug = 'carrow'), 'many-' || lpad(i::text, 4, '0'), 'Many ' || i
    from generate_series(1, ${SITES}) as i`
  await sql`insert into plans (site_id, revision, document, saved_at, author)
    select sites.id, 1, plans.document, now(), 'Nobody' from sites, plans
    where sites.slug like 'many-%' and plans.site_id = (select id from sites where slug = 'carrow')`
  await sql`analyze`
  await sql.end()
  const cookie = await signIn(url)
  const answers = []
  for (let n = 0; n < 20; n++) {
    const start = performance.now()
    await (await fetch(`${url}/api/sites`, { headers: { cookie } })).json()
    answers.push(performance.now() - start)
  }
  const began = performance.now()
  await (await fetch(`${url}/api/fleet`, { headers: { cookie } })).json()
  const fleet = performance.now() - began
  const browser = await openBrowser()
  const [name, value] = cookie.split(/=(.*)/s)
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } })
  await context.addCookies([{ name, value, url }])
  const page = await context.newPage()
  await page.goto(`${url}/account`)
  const rows = []
  for (let n = 0; n < 5; n++) {
    await page.getByRole('heading', { name: 'Your account' }).waitFor()
    rows.push(
      await page.evaluate(
        () =>
          new Promise((done) => {
            const start = performance.now()
            const look = () =>
              document.querySelector('table tbody tr a[href^="/sites/"]')
                ? done(performance.now() - start)
                : requestAnimationFrame(look)
            document.querySelector('nav a[href="/"]').click()
            look()
          }),
      ),
    )
    await page.getByRole('link', { name: 'Your account' }).click()
  }
  await browser.close()
  line('GET sites, the first page, 95th percentile of 20', quantile(answers, 0.95), 'ms')
  line('GET fleet, the addresses of all', fleet, 'ms')
  const first = quantile(rows, 0.5)
  line('first rows after the click, median of 5', first, 'ms', '< 300', first < 300)
}
