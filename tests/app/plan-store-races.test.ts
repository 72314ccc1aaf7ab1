// Every order of typing, saving, answers that never come, others' saves, reloads and changes of site:
// what one typed is on the screen until it is on the server.
import './globals'
import { applyPatch, type Operation } from 'fast-json-patch'
import fc from 'fast-check'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { PlanAt } from '#contracts/api'
import type { Plan } from '#core/schema'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import { browser } from './browser'
import { base, the } from '../plans'

vi.mock('idb-keyval', async () => (await import('./browser')).storage)
vi.mock('~/stores/tab', async () => (await import('./browser')).tabs)

/** How the way to the server is: an answer that is lost leaves what was asked for done. */
type Way = 'up' | 'down' | 'answers lost'

/** A server with two sites that answers after a while. */
function makeServer() {
  const site = (slug: string): PlanAt => ({
    slug,
    revision: 1,
    savedAt: 'at 1',
    author: 'Planner',
    plan: base(),
  })
  const sites = new Map(['x', 'y'].map((slug) => [slug, site(slug)]))
  const server = { sites, way: 'up' as Way, delayMs: 10, saves: 0 }
  const pause = (ms: number) => new Promise((done) => setTimeout(done, ms))
  const judge = (slug: string, init: RequestInit): Response => {
    const now = sites.get(slug)
    if (!now) throw new Error(slug)
    if (init.method === 'GET') return Response.json(now)
    const { baseRevision, patch } = JSON.parse(String(init.body)) as {
      baseRevision: number
      patch: Operation[]
    }
    if (baseRevision !== now.revision) return Response.json({ problems: [], current: now }, { status: 409 })
    server.saves++
    return Response.json(store(slug, applyPatch(structuredClone(now.plan), patch, true).newDocument as Plan))
  }
  const store = (slug: string, plan: Plan): PlanAt => {
    const revision = (sites.get(slug)?.revision ?? 0) + 1
    const next = { ...site(slug), revision, savedAt: `at ${revision}`, plan: structuredClone(plan) }
    sites.set(slug, next)
    return next
  }
  const fetched = async (path: string, init: RequestInit): Promise<Response> => {
    const { delayMs } = server
    await pause(delayMs)
    if (server.way === 'down') throw new Error('offline')
    const response = judge(path.split('/')[3] ?? '', init)
    const isLost = server.way === 'answers lost'
    await pause(delayMs)
    if (isLost) throw new Error('reset')
    return response
  }
  return { server, store, fetched }
}

const mine = (plan: Plan | null) =>
  plan && [the(plan.networks, 'staff').expected, the(plan.networks, 'servers').expected]

type Event =
  | { readonly kind: 'type'; readonly id: 'staff' | 'servers'; readonly value: number }
  | { readonly kind: 'undo' | 'redo' | 'reload' | 'close' | 'elsewhere' | 'news' }
  | { readonly kind: 'wait'; readonly ms: number }
  | { readonly kind: 'way'; readonly way: Way; readonly delayMs: number }
  | { readonly kind: 'other'; readonly name: string }

const event: fc.Arbitrary<Event> = fc.oneof(
  {
    weight: 4,
    arbitrary: fc.record({
      kind: fc.constant('type' as const),
      id: fc.constantFrom('staff' as const, 'servers' as const),
      value: fc.integer({ min: 0, max: 9 }),
    }),
  },
  {
    weight: 5,
    arbitrary: fc.record({
      kind: fc.constantFrom(
        'undo' as const,
        'redo' as const,
        'reload' as const,
        'close' as const,
        'elsewhere' as const,
        'news' as const,
      ),
    }),
  },
  {
    weight: 5,
    arbitrary: fc.record({ kind: fc.constant('wait' as const), ms: fc.constantFrom(5, 50, 400, 950, 3000) }),
  },
  {
    weight: 2,
    arbitrary: fc.record({
      kind: fc.constant('way' as const),
      way: fc.constantFrom('up' as const, 'down' as const, 'answers lost' as const),
      delayMs: fc.constantFrom(1, 200, 2000),
    }),
  },
  {
    weight: 1,
    arbitrary: fc.record({
      kind: fc.constant('other' as const),
      name: fc.constantFrom('Quay', 'Mole', 'Pier'),
    }),
  },
)

const wait = (ms: number) => vi.advanceTimersByTimeAsync(ms)

/** Opens the site anew, as after a reload: nothing is left of what ran before. */
async function started() {
  vi.clearAllTimers()
  setActivePinia(createPinia())
  useSession().me = {
    name: 'Planner',
    organisation: 'Sample',
    role: 'planner',
    siteRoles: {},
    isOperator: false,
    hasPassword: true,
    needsFactor: false,
    hasFactor: true,
  }
  const store = usePlan()
  void store.open('x')
  await wait(5000)
  return store
}

async function happen(store: ReturnType<typeof usePlan>, now: Event, net: ReturnType<typeof makeServer>) {
  if (now.kind === 'type')
    store.edit(`${now.id} ${now.value}`, '', (plan) => void (the(plan.networks, now.id).expected = now.value))
  else if (now.kind === 'undo' || now.kind === 'redo') store[now.kind]()
  else if (now.kind === 'wait') await wait(now.ms)
  else if (now.kind === 'way') Object.assign(net.server, { way: now.way, delayMs: now.delayMs })
  else if (now.kind === 'news') void store.refresh()
  else if (now.kind === 'other') {
    const current = net.server.sites.get('x')
    if (current) net.store('x', { ...current.plan, site: { ...current.plan.site, name: now.name } })
  } else await left(store, now.kind)
}

/** The browser is given the moment in which it keeps what was typed. */
async function left(store: ReturnType<typeof usePlan>, kind: Event['kind']) {
  if (kind === 'elsewhere') {
    void store.open('y')
    await wait(1)
    void store.open('x')
    await wait(5000)
    return
  }
  await wait(300)
  if (kind === 'close') browser.tab = `${browser.tab}+`
}

async function run(events: readonly Event[]) {
  const net = makeServer()
  vi.stubGlobal('fetch', net.fetched)
  browser.kept.clear()
  let store = await started()
  let typed = mine(store.draft)
  for (const now of events) {
    await happen(store, now, net)
    if (now.kind === 'reload' || now.kind === 'close') store = await started()
    if (store.conflict) expect(store.layMineOnTheirs()).toBe(true)
    if (['type', 'undo', 'redo'].includes(now.kind)) typed = mine(store.draft)
    expect({ now, mine: mine(store.draft), state: store.loading }).toEqual({ now, mine: typed, state: 'no' })
  }
  Object.assign(net.server, { way: 'up', delayMs: 1 })
  for (let i = 0; i < 4; i++) {
    await wait(12_000)
    if (store.conflict) expect(store.layMineOnTheirs()).toBe(true)
  }
  return { store, typed, server: net.server, last: net.server.sites.get('x') }
}

beforeEach(() => void vi.useFakeTimers())
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

describe('the plan of a person', () => {
  it('is what was typed, on the screen at every moment and on the server in the end', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(event, { maxLength: 25 }), async (events) => {
        const { store, typed, last } = await run(events)
        expect([store.state, mine(last?.plan ?? null)]).toEqual(['saved', typed])
        await Promise.all([store.refresh(), wait(100)])
        expect(store.draft).toEqual(last?.plan)
      }),
      { numRuns: 300 },
    )
  })
})

describe('after a reload', () => {
  it('what is saved is called saved at once, and what is not is not', async () => {
    const net = makeServer()
    vi.stubGlobal('fetch', net.fetched)
    browser.kept.clear()
    const states: string[] = []
    const reload = async () => {
      vi.clearAllTimers()
      setActivePinia(createPinia())
      useSession().me = {
        name: 'Planner',
        organisation: 'Sample',
        role: 'planner',
        siteRoles: {},
        isOperator: false,
        hasPassword: true,
        needsFactor: false,
        hasFactor: true,
      }
      const store = usePlan()
      void store.open('x')
      while (!store.draft) await wait(1)
      states.push(store.state)
      return store
    }
    const type = { kind: 'type', id: 'staff', value: 77 } as const
    await happen(await reload(), type, net)
    await wait(5000)
    const store = await reload()
    Object.assign(net.server, { way: 'down' })
    await happen(store, { ...type, value: 78 }, net)
    await wait(300)
    Object.assign(net.server, { way: 'up' })
    await reload()
    expect(states).toEqual(['saved', 'saved', 'unsaved'])
  })
})
