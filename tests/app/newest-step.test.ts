import './globals'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import { useNewestStep } from '~/shell/newest-step'
import { usePlan } from '~/stores/plan'
import { base } from '../plans'

vi.mock('idb-keyval', async () => (await import('./browser')).storage)
vi.mock('~/stores/tab', async () => (await import('./browser')).tabs)
vi.mock('~/stores/api', () => ({
  api: async () => ({
    ok: true,
    value: { slug: 'one', revision: 1, savedAt: '2026-01-01T00:00:00.000Z', author: 'Planner', plan: base() },
  }),
}))

const plan = usePlan()
const newest = useNewestStep()
const rename = (name: string, session: string) =>
  plan.edit(`named ${name}`, session, (draft) => void (draft.site.name = name))
beforeEach(async () => {
  await plan.open('one')
  await nextTick()
})

describe('the newest step', () => {
  it('is what one press made, until something is typed or taken back', async () => {
    expect(newest.value).toBeNull()
    rename('Pressed', '')
    await nextTick()
    expect(newest.value?.words).toBe('named Pressed')
    rename('Typed', 'cell 1')
    await nextTick()
    expect(newest.value).toBeNull()
    rename('Pressed again', '')
    await nextTick()
    expect(newest.value?.words).toBe('named Pressed again')
    plan.undo()
    await nextTick()
    expect(newest.value).toBeNull()
  })
})
