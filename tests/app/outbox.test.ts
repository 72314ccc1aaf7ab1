import './globals'
import fc from 'fast-check'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { useOutbox, type QueuedWrite } from '~/stores/outbox'
import { browser } from './browser'

vi.mock('idb-keyval', async () => (await import('./browser')).storage)
vi.mock('~/stores/tab', async () => (await import('./browser')).tabs)

const write = (item: string): Omit<QueuedWrite, 'key' | 'at'> => ({
  slug: 'x',
  topic: 'ticks',
  path: 'sites/x/ticks',
  body: { item, done: true },
})

/** How each request fares: heard and answered, not heard, heard and not answered, refused. */
type Fate = 'good' | 'lost' | 'answer lost' | 'busy' | 'refused'

/** A server that takes each key once; what it took, in order. */
function makeServer(fates: readonly Fate[]) {
  const taken: string[] = []
  const keys = new Set<string>()
  let asked = 0
  const fetched = async (_path: string, init: RequestInit): Promise<Response> => {
    const fate = fates[asked++] ?? 'good'
    if (fate === 'lost') throw new Error('offline')
    if (fate === 'busy') return Response.json({ problems: [] }, { status: 503 })
    if (fate === 'refused')
      return Response.json(
        { problems: [{ code: 'no-such-item', place: 'item', values: {} }] },
        { status: 409 },
      )
    const { key, item } = JSON.parse(String(init.body)) as { key: string; item: string }
    if (keys.size < keys.add(key).size) taken.push(item)
    if (fate === 'answer lost') throw new Error('reset')
    return Response.json([])
  }
  vi.stubGlobal('fetch', fetched)
  return { taken, asked: () => asked }
}

const started = () => {
  vi.clearAllTimers()
  setActivePinia(createPinia())
  return useOutbox()
}

beforeEach(() => {
  vi.useFakeTimers()
  browser.kept.clear()
})
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

describe('what is written down', () => {
  it('arrives once each and in order, whatever becomes of requests, answers and the page', async () => {
    const fate = fc.constantFrom<Fate>('good', 'lost', 'answer lost', 'busy')
    const step = fc.oneof(
      { weight: 3, arbitrary: fc.constant('write' as const) },
      fc.constantFrom('wait' as const, 'reload' as const),
    )
    await fc.assert(
      fc.asyncProperty(
        fc.array(fate, { maxLength: 40 }),
        fc.array(step, { maxLength: 25 }),
        async (fates, steps) => {
          browser.kept.clear()
          const server = makeServer(fates)
          let box = started()
          const written: string[] = []
          for (const each of steps) {
            if (each === 'wait') await vi.advanceTimersByTimeAsync(1500)
            else if (each === 'reload') {
              box = started()
              void box.drain()
            } else {
              written.push(`item ${written.length}`)
              await box.enqueue(write(written.at(-1) ?? ''))
            }
          }
          await vi.advanceTimersByTimeAsync(60 * 6000)
          expect([server.taken, box.waiting, box.refused]).toEqual([written, [], []])
        },
      ),
      { numRuns: 300 },
    )
  })

  it('that is refused at once is told to whoever asked; refused later, it is kept to be shown', async () => {
    makeServer(['refused', 'lost', 'refused'])
    const box = started()
    expect(await box.enqueue(write('a'))).toMatchObject({
      kind: 'refused',
      problems: [{ code: 'no-such-item' }],
    })
    expect(box.refused).toEqual([])
    expect(await box.enqueue(write('b'))).toEqual({ kind: 'waiting' })
    expect(box.waiting.map(({ body }) => body['item'])).toEqual(['b'])
    await vi.advanceTimersByTimeAsync(1000)
    expect(box.refused.map((each) => each.write.body['item'])).toEqual(['b'])
    box.dismiss(box.refused[0]?.write.key ?? '')
    expect([box.refused, box.waiting]).toEqual([[], []])
  })

  it('stays with who wrote it while the session has ended', async () => {
    makeServer([])
    vi.stubGlobal('fetch', async () => Response.json({ problems: [] }, { status: 401 }))
    const box = started()
    expect(await box.enqueue(write('a'))).toEqual({ kind: 'waiting' })
  })

  it('is sent within five seconds of the server’s return, however long it was away', async () => {
    const server = makeServer(Array.from({ length: 30 }, () => 'lost'))
    const box = started()
    await box.enqueue(write('a'))
    while (server.asked() < 30) await vi.advanceTimersByTimeAsync(100)
    await vi.advanceTimersByTimeAsync(5000)
    expect(server.taken).toEqual(['a'])
  })
})
