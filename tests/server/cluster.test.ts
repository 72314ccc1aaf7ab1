import { createServer, request, type IncomingMessage, type Server, type ServerResponse } from 'node:http'
import { setTimeout as pause } from 'node:timers/promises'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { PlanAt, RunLine, StepPhoto, StepRecord } from '#contracts/api'
import { freePort } from '../../tools/postgres.mjs'
import { client, eventually, freshDatabase, signedIn, startApp, type App, type Client } from './harness'

// Three server processes on one database, behind a proxy that asks them in turns; one of them is killed.

const MEMBERS = 3
const SITE = '/api/sites/gullhaven'
let members: App[] = []
let proxy: Server
let turn = 0
const alive = new Set<number>()
/** People who reach the three by one address, as they would. */
let front: App

/** Hands a request to the next process that lives; one that dies while it answers is an error, as with any proxy. */
function handOn(asked: IncomingMessage, answer: ServerResponse): void {
  const living = [...alive]
  const chosen = members[living[turn++ % living.length] ?? 0]
  const target = new URL(asked.url ?? '/', chosen?.url)
  const headers = { ...asked.headers, 'x-forwarded-for': '192.0.2.7' }
  const onward = request(target, { method: asked.method, headers, agent: false }, (reply) => {
    answer.writeHead(reply.statusCode ?? 502, reply.headers)
    reply.pipe(answer)
    reply.on('error', () => answer.destroy())
  })
  onward.on('error', () => (answer.headersSent ? answer.destroy() : answer.writeHead(502).end()))
  asked.pipe(onward)
}

beforeAll(async () => {
  const databaseUrl = await freshDatabase()
  const env = { MAST_TRUST_PROXY: '127.0.0.1' }
  const first = await startApp({ databaseUrl, env })
  const others = await Promise.all(Array.from({ length: MEMBERS - 1 }, () => startApp({ databaseUrl, env })))
  members = [first, ...others]
  members.forEach((_member, i) => alive.add(i))
  const port = await freePort()
  proxy = createServer(handOn)
  // As long as the servers say in the answers that it hands on.
  proxy.keepAliveTimeout = 75_000
  await new Promise<void>((done) => proxy.listen(port, '127.0.0.1', done))
  front = { ...first, url: `http://127.0.0.1:${port}` }
})
afterAll(async () => {
  proxy.closeAllConnections()
  await new Promise((done) => proxy.close(done))
  await Promise.all([...alive].map((i) => members[i]?.stop()))
})

/** Asks again while nobody answers, as the application does with what it keeps. */
async function insist(who: Client, path: string, body: object) {
  for (;;) {
    const reply = await who('POST', path, body).catch(() => null)
    if (reply && reply.status < 500) return reply
    await pause(50)
  }
}

/** What one process tells of a site, as it is told. */
async function listen(member: App, cookie: string): Promise<{ readonly heard: string[]; close(): void }> {
  const ending = new AbortController()
  const stream = await fetch(`${member.url}${SITE}/news`, { headers: { cookie }, signal: ending.signal })
  const heard: string[] = []
  const reader = stream.body?.pipeThrough(new TextDecoderStream()).getReader()
  void (async () => {
    for (let part = await reader?.read(); part && !part.done; part = await reader?.read())
      heard.push(part.value)
  })().catch(() => undefined)
  return { heard, close: () => ending.abort() }
}

describe('three processes', () => {
  it('know one sign-in, hear what is saved by any, and end its session everywhere', async () => {
    const reply = await client(front)('POST', '/api/sign-in', {
      name: 'Planner',
      password: 'chart-and-pencil',
    })
    const cookie = reply.headers.getSetCookie()[0]?.split(';')[0] ?? ''
    const planner = client(front, cookie)
    const streams = await Promise.all(members.map((member) => listen(member, cookie)))
    const { revision } = (await planner<PlanAt>('GET', `${SITE}/plan`)).body
    const saved = await planner<PlanAt>('PATCH', `${SITE}/plan`, {
      baseRevision: revision,
      patch: [{ op: 'replace', path: '/site/name', value: 'Heard by all' }],
      words: 'renamed',
    })
    expect(saved.status, saved.text).toBe(200)
    for (const { heard } of streams)
      await eventually(
        async () => heard.join(''),
        (text) => text.includes('"topic":"plan"'),
      )
    await planner('POST', '/api/sign-out', {})
    for (const member of members)
      await eventually(
        async () => (await client(member, cookie)('GET', '/api/me')).status,
        (status) => status === 401,
      )
    streams.forEach(({ close }) => close())
  })

  it('count wrong passwords together: who asks them in turns gets no more guesses', async () => {
    const guess = () => client(front)('POST', '/api/sign-in', { name: 'Keeper', password: 'a guess' })
    const replies = await Promise.all(Array.from({ length: 14 }, guess))
    const statuses = replies.map(({ status }) => status)
    expect(statuses.filter((status) => status === 401)).toHaveLength(10)
    expect(statuses.filter((status) => status === 429)).toHaveLength(4)
  })

  it('lose no record, picture or run when one of them is killed, and keep each once', async () => {
    const rigger = await signedIn(front, 'rigger')
    const planner = await signedIn(front, 'planner')
    const { revision } = (await planner<PlanAt>('GET', `${SITE}/plan`)).body
    const started = await planner<RunLine[]>('POST', `${SITE}/runs`, {
      kind: 'singles',
      things: [],
      revision,
    })
    expect(started.status, started.text).toBe(200)
    const keys = Array.from({ length: 60 }, (_, i) => `cluster-${i}`)
    const told = { activityId: 'print', at: '2026-11-01T09:00:00Z' }
    const record = { ...told, state: 'done', reading: '', note: '', person: '' }
    const jpeg = Buffer.from([0xff, 0xd8, 0xff, 0xe0, 0, 2, 0xff, 0xd9]).toString('base64')
    let sent = 0
    const send = async (key: string, i: number) => {
      await pause(i * 5)
      const reply = await insist(rigger, `${SITE}/steps`, { ...record, note: key, key })
      const picture = await insist(rigger, `${SITE}/photos`, { ...told, jpeg, key })
      expect([reply.status, picture.status]).toEqual([200, 200])
      sent++
    }
    const all = Promise.all(keys.map(send))
    await eventually(
      async () => sent,
      (count) => count >= 10,
    )
    // It dies with requests under way; the proxy notices by their errors, and then asks it no more.
    const dying = members[1]?.stop('SIGKILL')
    await pause(100)
    alive.delete(1)
    await dying
    await all
    const records = (await rigger<StepRecord[]>('GET', `${SITE}/steps`)).body
    expect(records.map(({ note }) => note).toSorted()).toEqual(keys.toSorted())
    const photos = (await rigger<StepPhoto[]>('GET', `${SITE}/photos`)).body
    expect(photos).toHaveLength(keys.length)
    const line = await eventually(
      async () => (await planner<RunLine[]>('GET', `${SITE}/runs`)).body[0],
      (run) => run?.state === 'done',
      60_000,
    )
    expect(line?.tried).toBe(line?.total)
  }, 90_000)
})
