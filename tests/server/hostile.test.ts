import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { countRuleLines, MOST_RULE_LINES } from '#core/export'
import { indexPlan } from '#core/queries'
import type { Plan } from '#core/schema'
import { intent, rule } from '#server/demo/build'
import { codesOf, signedIn, startApp, client, type App, type Client } from './harness'

let app: App
let planner: Client
let nobody: Client
const SITE = '/api/sites/gullhaven'
beforeAll(async () => {
  app = await startApp()
  // Who may do most, so that nothing is refused for who asks.
  planner = await signedIn(app, 'administrator')
  nobody = client(app)
})
afterAll(async () => {
  await app.stop()
})

// PostgreSQL holds no U+0000 in a text, and UTF-8 no half of a surrogate pair (RFC 3629 section 3).
const UNHOLDABLE = ['a\u0000b', 'a\uD83Db', 'a\nb\u202E']
const RESULT = {
  testId: 'lease:voice',
  revision: 1,
  passed: true,
  vantage: 'phone 3',
  value: '10.61.4.23',
  note: '',
}
const STEP = {
  activityId: 'print',
  state: 'done',
  at: '2026-12-07T09:00:00Z',
  reading: '',
  note: '',
  person: '',
}
const PHOTO = { activityId: 'print', at: '2026-12-07T09:00:00Z', jpeg: '/9j/4AAC/9k=' }
const rename = (name: string) => ({
  baseRevision: 1,
  patch: [{ op: 'replace', path: '/networks/0/name', value: name }],
  words: 'renamed',
})

type Body = (text: string) => object
const BODIES: readonly (readonly [method: string, path: string, place: string, body: Body])[] = [
  ['PATCH', `${SITE}/plan`, 'words', (words) => ({ ...rename('X'), words })],
  ['PATCH', `${SITE}/plan`, 'networks[0].name', rename],
  ['POST', '/api/people', 'name', (name) => ({ name, role: 'keeper' })],
  ['POST', `${SITE}/delete`, 'name', (name) => ({ name })],
  ['POST', `${SITE}/claims`, 'serial', (serial) => ({ serial, deviceId: 'gateway' })],
  ['POST', `${SITE}/claims`, 'deviceId', (deviceId) => ({ serial: 'GH-7A05-K5RZ', deviceId })],
  ['POST', `${SITE}/lab/power`, 'serial', (serial) => ({ serial, action: 'reset' })],
  ['POST', `${SITE}/ticks`, 'item', (item) => ({ item, done: true })],
  ['POST', `${SITE}/proof/results`, 'testId', (testId) => ({ ...RESULT, testId })],
  ['POST', `${SITE}/proof/results`, 'vantage', (vantage) => ({ ...RESULT, vantage })],
  ['POST', `${SITE}/proof/results`, 'value', (value) => ({ ...RESULT, value })],
  ['POST', `${SITE}/proof/results`, 'note', (note) => ({ ...RESULT, note })],
  ['POST', `${SITE}/keys`, 'owner', (owner) => ({ owner })],
  ['POST', `${SITE}/keys/show`, 'owner', (owner) => ({ owner })],
  ['POST', `${SITE}/passphrases`, 'ssid', (ssid) => ({ ssid, passphrase: null })],
  ['POST', `${SITE}/passphrases/show`, 'ssid', (ssid) => ({ ssid })],
  ['POST', `${SITE}/levels`, 'link', (link) => ({ link, end: 'a', reading: '-60 dBm' })],
  ['POST', `${SITE}/levels`, 'reading', (reading) => ({ link: 'x', end: 'a', reading })],
  ['POST', `${SITE}/steps`, 'activityId', (activityId) => ({ ...STEP, activityId })],
  ['POST', `${SITE}/steps`, 'reading', (reading) => ({ ...STEP, reading })],
  ['POST', `${SITE}/steps`, 'person', (person) => ({ ...STEP, person })],
  ['POST', `${SITE}/steps`, 'note', (note) => ({ ...STEP, note })],
  ['POST', `${SITE}/steps`, 'values[0].value', (value) => ({ ...STEP, values: [{ field: 'name', value }] })],
  ['POST', `${SITE}/photos`, 'activityId', (activityId) => ({ ...PHOTO, activityId })],
  ['POST', `${SITE}/lab/aim`, 'link', (link) => ({ link, end: 'a', azimuthDeg: 1, tiltDeg: 0 })],
  ['POST', `${SITE}/runs`, 'things[0]', (text) => ({ kind: 'pairs', things: [text], revision: 1 })],
]

describe('a secret that is refused', () => {
  const SECRET = 'sesame-\u0001-open'
  it.each([
    ['POST', `${SITE}/keys/take`, { owner: 'x', privateKey: SECRET }],
    ['POST', `${SITE}/passphrases`, { ssid: 'x', passphrase: SECRET }],
    ['POST', '/api/me/password', { current: SECRET.repeat(20), wanted: SECRET.repeat(20) }],
    ['POST', '/api/sign-in', { name: 'x', password: SECRET.repeat(20) }],
    ['POST', '/api/join', { token: SECRET, password: SECRET.repeat(20) }],
  ])('is not told again: %s %s', async (method, path, body) => {
    const reply = await planner(method, path, body)
    expect(reply.status).toBe(400)
    expect(reply.text).not.toContain('sesame')
    expect(reply.headers.get('cache-control')).toBe('no-store')
    expect(reply.headers.get('content-security-policy')).toContain("default-src 'none'")
  })
})

describe('what a database cannot hold, or a line cannot show', () => {
  it.each(BODIES)('is refused where it stands: %s %s, %s', async (method, path, place, body) => {
    for (const text of UNHOLDABLE) {
      const reply = await planner(method, path, body(text))
      expect([reply.status, reply.body['problems']]).toMatchObject([400, [{ code: 'not-printable', place }]])
    }
  })

  it('is refused at the door, too', async () => {
    for (const name of UNHOLDABLE) {
      const reply = await nobody('POST', '/api/sign-in', { name, password: 'x' })
      expect([reply.status, codesOf(reply)]).toEqual([400, ['not-printable']])
    }
  })

  it.each([
    '/api/sites/gull%00haven/plan',
    `${SITE}/export/%00`,
    `${SITE}/revisions/%00`,
    `${SITE}/plan?of=%00`,
    `${SITE}/plan?of=%0a`,
    '/api/sites/%E0%A4%A/plan',
    '/api/sites/%ED%A0%80/plan',
  ])('is refused in an address: %s', async (path) => {
    const reply = await planner('GET', path)
    expect([reply.status, codesOf(reply)]).toEqual([400, ['not-printable']])
  })

  it('is refused in the file of a site, with the place', async () => {
    const { plan } = (await planner<{ plan: { networks: object[] } }>('GET', `${SITE}/plan`)).body
    const hostile = structuredClone(plan)
    Object.assign(hostile.networks[0] ?? {}, { name: 'a\u0000b' })
    const reply = await planner('POST', '/api/sites', { text: JSON.stringify(hostile) })
    expect([reply.status, reply.body['problems']]).toMatchObject([
      400,
      [{ code: 'not-printable', place: 'networks[0].name' }],
    ])
  })

  it('is refused where intents would make more tests than a server can', async () => {
    const { plan } = (await planner<{ plan: Plan }>('GET', `${SITE}/plan`)).body
    const everybody = { kind: 'any' as const }
    const survives = plan.links.slice(0, 60).map((l) => l.id)
    const intents = Array.from({ length: 300 }, (_, i) => ({
      ...intent(`i${i}`, everybody, everybody, [], `Intent ${i}`),
      survives,
    }))
    const reply = await planner('POST', '/api/sites', { text: JSON.stringify({ ...plan, intents }) })
    expect([reply.status, reply.body['problems']]).toMatchObject([
      400,
      [{ code: 'too-many-tests', place: 'intents', values: { most: 20_000 } }],
    ])
    const saved = await planner('PATCH', `${SITE}/plan`, {
      baseRevision: 1,
      patch: [{ op: 'replace', path: '/intents', value: intents }],
      words: 'intents',
    })
    expect([saved.status, codesOf(saved)]).toEqual([400, ['too-many-tests']])
  })

  it('is refused where groups make more lines of rules than a gateway loads, with the rule', async () => {
    const { plan } = (await planner<{ plan: Plan }>('GET', `${SITE}/plan`)).body
    const members = Array.from({ length: 200 }, (_, i) => ({ kind: 'prefix', prefix: `10.200.${i}.0/24` }))
    const group = { kind: 'group' as const, id: 'large' }
    const policies = plan.policies.map((policy, i) =>
      i === 0
        ? { ...policy, rules: [...policy.rules, ...[1, 2].map((n) => rule(`g${n}`, group, group, [], ''))] }
        : policy,
    )
    const groups = [...plan.groups, { id: 'large', name: 'Large', members }]
    const reply = await planner('POST', '/api/sites', { text: JSON.stringify({ ...plan, groups, policies }) })
    const place = `policies[0].rules[${plan.policies[0]?.rules.length}]`
    expect([reply.status, reply.body['problems']]).toMatchObject([
      400,
      [{ code: 'too-many-rule-lines', place, values: { most: 20_000 } }],
    ])
    expect(countRuleLines(indexPlan(plan)).count).toBeLessThan(MOST_RULE_LINES / 100)
  })

  it('is refused where a patch replaces the whole document', async () => {
    const { plan } = (await planner<{ plan: Plan }>('GET', `${SITE}/plan`)).body
    const patch = [{ op: 'replace', path: '', value: plan }]
    const reply = await planner('PATCH', `${SITE}/plan`, { baseRevision: 1, patch, words: '' })
    expect(reply.status).toBe(400)
  })

  it.each([2 ** 31, 2 ** 53, 1e300])('%d is no revision', async (revision) => {
    const replies = await Promise.all([
      planner('GET', `${SITE}/revisions/${revision}`),
      planner('POST', `${SITE}/restore`, { baseRevision: 1, revision }),
      planner('POST', `${SITE}/runs`, { kind: 'singles', things: [], revision }),
      planner('GET', `${SITE}/runs/${revision}`),
    ])
    for (const reply of replies) expect([400, 404]).toContain(reply.status)
  })
})
