import { parsePlan } from '#contracts/plan'
import './globals'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { PlanAt } from '#contracts/api'
import type { Plan } from '#core/schema'
import { usePlan } from '~/stores/plan'
import { base, site, the } from '../plans'

const at = (revision: number, plan: Plan, author = 'Planner'): PlanAt => ({
  slug: 'x',
  revision,
  savedAt: '2026-01-01T00:00:00.000Z',
  author,
  plan,
})
const answer = (status: number, body: unknown) => new Response(JSON.stringify(body), { status })

/** The server as far as the store sees it: it answers in turn, and what it was asked is kept. */
let asked: {
  method: string
  path: string
  body: { baseRevision: number; patch: unknown[]; words: string } | null
}[]
let answers: (() => Response)[]

beforeEach(() => {
  vi.useFakeTimers()
  setActivePinia(createPinia())
  asked = []
  answers = [() => answer(200, at(1, base()))]
  vi.stubGlobal('fetch', async (path: string, init: RequestInit) => {
    asked.push({ method: String(init.method), path, body: init.body ? JSON.parse(String(init.body)) : null })
    const next = answers.shift()
    if (!next) throw new Error('offline')
    return next()
  })
})
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

const gateway = (plan: Plan | null) => plan && the(plan.networks, 'staff').gateway
const type = (store: ReturnType<typeof usePlan>, text: string, session = 's1') =>
  store.edit(`gateway ${text}`, session, (p) => void (the(p.networks, 'staff').gateway = text))
async function opened() {
  const store = usePlan()
  await store.open('x')
  return store
}

describe('editing', () => {
  it('that is left takes back all of its own, and no step stays behind', async () => {
    const store = await opened()
    type(store, '10.9.10.7', 'before')
    for (const text of ['10.9.10.2', '10.9.10.25']) type(store, text, 'left')
    expect(store.dropSession('left')).toBe(true)
    expect([gateway(store.draft), store.done.map((step) => step.words)]).toEqual([
      '10.9.10.7',
      ['gateway 10.9.10.7'],
    ])
    // A cell in which nothing was typed, or that somebody wrote over, has nothing to take back.
    expect(store.dropSession('left')).toBe(false)
    type(store, '10.9.10.9', '')
    expect(store.dropSession('before')).toBe(false)
    expect(gateway(store.draft)).toBe('10.9.10.9')
  })

  it('joins the keystrokes of one field into one step', async () => {
    const store = await opened()
    for (const text of ['10.9.10.2', '10.9.10.25', '10.9.10.254']) type(store, text)
    expect(store.done).toHaveLength(1)
    store.undo()
    expect(store.draft).toEqual(base())
    store.redo()
    expect(gateway(store.draft)).toBe('10.9.10.254')
  })

  it('takes what is pasted as printable lines, so that it can be saved', async () => {
    const store = await opened()
    const name = '\u200EStaff\tand crew\n'
    store.edit(`name ${name}`, 's', (p) => void (the(p.networks, 'staff').name = name))
    expect(the(store.draft?.networks ?? [], 'staff').name).toBe('Staff and crew ')
    expect(parsePlan(store.draft).ok).toBe(true)
  })

  it('starts each keystroke from before the field was touched, so a half-typed number leaves no trace', async () => {
    const store = await opened()
    const mark = (n: number) => store.edit('x', 's', (p) => void (the(p.networks, 'servers').expected += n))
    mark(1)
    mark(10)
    expect(the(store.draft?.networks ?? [], 'servers').expected).toBe(12)
  })

  it('keeps separate steps for separate fields, several as one where asked', async () => {
    const store = await opened()
    type(store, '10.9.10.2', 'a')
    type(store, '10.9.10.3', 'b')
    store.asOne('both', () => {
      type(store, '10.9.10.4', 'c')
      type(store, '10.9.10.5', 'd')
    })
    expect(store.done.map((s) => s.words)).toEqual(['gateway 10.9.10.2', 'gateway 10.9.10.3', 'both'])
    store.undo()
    expect(gateway(store.draft)).toBe('10.9.10.3')
  })

  it('never changes the plan it started from', async () => {
    const store = await opened()
    const before = store.draft
    type(store, '10.9.10.2')
    expect(before).toEqual(base())
  })
})

describe('saving', () => {
  it('happens after a pause, as a patch against the revision it began from', async () => {
    const store = await opened()
    answers.push(() => answer(200, at(2, base())))
    type(store, '10.9.10.2')
    expect(store.state).toBe('unsaved')
    await vi.advanceTimersByTimeAsync(2000)
    expect(asked.at(-1)).toMatchObject({
      method: 'PATCH',
      path: '/api/sites/x/plan',
      body: {
        baseRevision: 1,
        patch: [{ op: 'replace', path: '/networks/1/gateway', value: '10.9.10.2' }],
        words: 'gateway 10.9.10.2',
      },
    })
    expect([store.state, store.saved?.revision]).toEqual(['saved', 2])
  })

  it('sends nothing where nothing differs in the end', async () => {
    const store = await opened()
    type(store, '10.9.10.2')
    store.undo()
    await vi.advanceTimersByTimeAsync(2000)
    expect(asked).toHaveLength(1)
    expect(store.state).toBe('saved')
  })

  it('keeps the work when the server is away, and saves it when it is back', async () => {
    const store = await opened()
    type(store, '10.9.10.2')
    await vi.advanceTimersByTimeAsync(2000)
    expect(store.state).toBe('failed')
    expect(store.problems.map((p) => p.code)).toEqual(['no-answer'])
    expect(gateway(store.draft)).toBe('10.9.10.2')
    answers.push(() => answer(200, at(2, base())))
    await store.save()
    expect(store.state).toBe('saved')
  })

  it('a refused stale save keeps both versions; mine can be laid on theirs where they do not meet', async () => {
    const store = await opened()
    const theirs = at(
      2,
      site((p) => void (the(p.networks, 'servers').expected = 7)),
      'Other',
    )
    answers.push(() =>
      answer(409, { problems: [{ code: 'stale-revision', place: '', values: {} }], current: theirs }),
    )
    type(store, '10.9.10.2')
    await vi.advanceTimersByTimeAsync(2000)
    expect(store.state).toBe('conflict')
    expect(store.conflict?.theirs.revision).toBe(2)
    expect(gateway(store.draft)).toBe('10.9.10.2')
    expect(store.layMineOnTheirs()).toBe(true)
    answers.push(() => answer(200, at(3, base())))
    await vi.advanceTimersByTimeAsync(2000)
    expect(asked.at(-1)?.body).toMatchObject({ baseRevision: 2, patch: [{ path: '/networks/1/gateway' }] })
    expect(the(store.draft?.networks ?? [], 'servers').expected).toBe(7)
  })

  it('where both changed one field, mine cannot be laid on theirs and stays until one decides', async () => {
    const store = await opened()
    const theirs = at(
      2,
      site((p) => void (the(p.networks, 'staff').gateway = '10.9.10.3')),
      'Other',
    )
    answers.push(() => answer(409, { problems: [], current: theirs }))
    type(store, '10.9.10.2')
    await vi.advanceTimersByTimeAsync(2000)
    expect(store.layMineOnTheirs()).toBe(false)
    expect([store.state, gateway(store.draft)]).toEqual(['conflict', '10.9.10.2'])
    store.keepTheirs()
    expect([store.state, gateway(store.draft), store.saved?.revision]).toEqual(['saved', '10.9.10.3', 2])
  })

  it('another’s save is taken over only while there is no work of one’s own', async () => {
    const store = await opened()
    const newer = at(
      5,
      site((p) => void (the(p.networks, 'staff').gateway = '10.9.10.9')),
    )
    type(store, '10.9.10.2')
    await store.refresh()
    expect(gateway(store.draft)).toBe('10.9.10.2')
    store.undo()
    await vi.advanceTimersByTimeAsync(2000)
    answers.push(() => answer(200, newer))
    await store.refresh()
    expect([gateway(store.draft), store.saved?.revision]).toEqual(['10.9.10.9', 5])
  })

  it('undo still works after another’s change elsewhere, and says so where it cannot', async () => {
    const store = await opened()
    answers.push(() => answer(200, at(2, base())))
    type(store, '10.9.10.2')
    await vi.advanceTimersByTimeAsync(2000)
    answers.push(() =>
      answer(
        200,
        at(
          3,
          site((plan) => {
            the(plan.networks, 'staff').gateway = '10.9.10.2'
            the(plan.networks, 'servers').expected = 7
          }),
        ),
      ),
    )
    await store.refresh()
    store.undo()
    expect([gateway(store.draft), the(store.draft?.networks ?? [], 'servers').expected]).toEqual([
      '10.9.10.1',
      7,
    ])
    store.redo()
    store.edit('z', '', (p) => void (the(p.networks, 'staff').gateway = '10.9.10.77'))
    store.undo()
    store.undo()
    expect(gateway(store.draft)).toBe('10.9.10.1')
  })
})
