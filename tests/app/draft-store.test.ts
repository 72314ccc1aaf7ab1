import './globals'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { PlanAt } from '#contracts/api'
import type { Plan } from '#core/schema'
import { forgetSavedPlans, storeDraft, storedDraft } from '~/stores/draft-store'
import { base } from '../plans'
import { browser } from './browser'

vi.mock('idb-keyval', async () => (await import('./browser')).storage)
vi.mock('~/stores/tab', async () => (await import('./browser')).tabs)

const saved = (slug: string): PlanAt => ({
  slug,
  revision: 1,
  savedAt: '2026-01-01T00:00:00.000Z',
  author: 'Planner',
  plan: base() as Plan,
})
const renamed = (plan: Plan): Plan => ({ ...plan, site: { ...plan.site, name: 'Half done' } })
const work = (slug: string, change: (plan: Plan) => Plan = (plan) => plan) => {
  const at = saved(slug)
  return { saved: at, draft: change(at.plan), unacknowledged: [], done: [], undone: [], words: [] }
}

beforeEach(() => {
  browser.kept.clear()
  browser.open.clear()
  browser.tab = 'tab 1'
})

describe('signing out', () => {
  it('forgets plans that the server has, and keeps what it has not', async () => {
    await storeDraft('Planner', work('all-saved'))
    await storeDraft('Planner', work('half-done', renamed))
    await forgetSavedPlans('Planner')
    expect(await storedDraft('Planner', 'all-saved')).toBeNull()
    expect((await storedDraft('Planner', 'half-done'))?.draft.site.name).toBe('Half done')
  })

  it('touches nothing of others, and nothing is kept for nobody', async () => {
    await storeDraft('Rigger', work('all-saved'))
    await storeDraft('Planner/x', work('all-saved'))
    await storeDraft('', work('all-saved'))
    await forgetSavedPlans('Planner')
    expect(await storedDraft('Rigger', 'all-saved')).not.toBeNull()
    expect(await storedDraft('Planner/x', 'all-saved')).not.toBeNull()
    expect(browser.kept.size).toBe(2)
  })
})

describe('a second tab', () => {
  it('knows the saved plan of one that is open, and leaves its work to it', async () => {
    await storeDraft('Planner', work('half-done', renamed))
    browser.tab = 'tab 2'
    browser.open.add('tab 1')
    const known = await storedDraft('Planner', 'half-done')
    expect(known?.draft).toEqual(saved('half-done').plan)
    browser.tab = 'tab 1'
    expect((await storedDraft('Planner', 'half-done'))?.draft.site.name).toBe('Half done')
  })
  it('takes over the work of one that is closed', async () => {
    await storeDraft('Planner', work('half-done', renamed))
    browser.tab = 'tab 2'
    expect((await storedDraft('Planner', 'half-done'))?.draft.site.name).toBe('Half done')
    browser.tab = 'tab 1'
    browser.open.add('tab 2')
    expect((await storedDraft('Planner', 'half-done'))?.draft).toEqual(saved('half-done').plan)
  })
})
