import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { forgetAnswers, keepMe, readMe, readOrRemember } from '~/stores/kept-answers'
import { browser } from './browser'

vi.mock('idb-keyval', async () => (await import('./browser')).storage)

/** What the server answers next; null while nobody does. */
const answers = (status: number | null, body: unknown = { problems: [] }) =>
  vi.stubGlobal('fetch', async () => {
    if (status === null) throw new Error('offline')
    return Response.json(body, { status })
  })

beforeEach(() => browser.kept.clear())
afterEach(() => vi.unstubAllGlobals())

describe('what the server said last', () => {
  it('is read again while nobody answers, and said to be of before', async () => {
    answers(200, ['one'])
    expect(await readOrRemember('Rigger', 'sites/x/steps')).toEqual({ ok: true, value: ['one'] })
    for (const silence of [null, 502]) {
      answers(silence)
      expect(await readOrRemember('Rigger', 'sites/x/steps')).toEqual({
        ok: true,
        value: ['one'],
        isKept: true,
      })
    }
  })
  it('is not told where the server refuses, to another person, or of another path', async () => {
    answers(200, ['one'])
    await readOrRemember('Rigger', 'sites/x/steps')
    answers(403)
    expect((await readOrRemember('Rigger', 'sites/x/steps')).ok).toBe(false)
    answers(null)
    expect((await readOrRemember('Keeper', 'sites/x/steps')).ok).toBe(false)
    expect((await readOrRemember('Rigger', 'sites/y/steps')).ok).toBe(false)
  })
  it('is forgotten when its reader signs out; what others read stays theirs', async () => {
    answers(200, ['one'])
    await readOrRemember('Rigger', 'sites/x/steps')
    await readOrRemember('Keeper', 'sites/x/steps')
    await keepMe({
      name: 'Rigger',
      organisation: 'Sample',
      role: 'rigger',
      siteRoles: {},
      isOperator: false,
      hasPassword: true,
      needsFactor: false,
      hasFactor: true,
    })
    await forgetAnswers('Rigger')
    answers(null)
    expect((await readOrRemember('Rigger', 'sites/x/steps')).ok).toBe(false)
    expect((await readOrRemember('Keeper', 'sites/x/steps')).ok).toBe(true)
    expect(await readMe()).toBeNull()
  })
})

describe('who is signed in', () => {
  const rigger = {
    name: 'Rigger',
    organisation: 'Sample',
    role: 'rigger' as const,
    siteRoles: {},
    isOperator: false,
    hasPassword: true,
    needsFactor: false,
    hasFactor: true,
  }
  it('is remembered while nobody answers', async () => {
    answers(200, rigger)
    expect(await readMe()).toEqual(rigger)
    answers(null)
    expect(await readMe()).toEqual(rigger)
  })
  it('is nobody once the server says so, from then on without a network too', async () => {
    await keepMe(rigger)
    answers(401, { problems: [] })
    expect(await readMe()).toBeNull()
    answers(null)
    expect(await readMe()).toBeNull()
  })
})
