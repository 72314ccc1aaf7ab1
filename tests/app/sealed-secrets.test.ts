import { beforeEach, describe, expect, it, vi } from 'vitest'
import { forgetAnswers } from '~/stores/kept-answers'
import { dropOverdue, openSecrets, sealedAt, sealSecrets } from '~/stores/sealed-secrets'
import { browser } from './browser'

vi.mock('idb-keyval', async () => (await import('./browser')).storage)

const SECRETS = [{ name: 'Harbour', value: 'correct horse battery staple' }]
const [PIN, NOW, HOUR] = ['271828', 1_000_000, 3_600_000]
const seal = (slug = 'gullhaven', untilMs = NOW + HOUR) =>
  sealSecrets('Rigger', slug, SECRETS, { pin: PIN, untilMs })
const open = (pin = PIN, nowMs = NOW) => openSecrets('Rigger', 'gullhaven', pin, nowMs)
const keptText = () => JSON.stringify([...browser.kept].map(([key, value]) => [key, readable(value)]))
/** Bytes as text, so that what stands there would be seen. */
const readable = (value: unknown): unknown =>
  Object.entries(value as object).map(([name, part]) =>
    part instanceof ArrayBuffer || part instanceof Uint8Array
      ? [name, Buffer.from(part as ArrayBuffer).toString('latin1')]
      : [name, part],
  )
const kept = () => [...browser.kept.values()][0] as { sealed: ArrayBuffer; untilMs: number }

beforeEach(() => browser.kept.clear())

describe('sealed secrets', () => {
  it('open by their PIN, and are not readable where they are kept', async () => {
    await seal()
    expect(keptText()).not.toContain('horse')
    expect(keptText()).not.toContain(PIN)
    expect(await open()).toEqual({ kind: 'opened', secrets: SECRETS })
  })
  it('of one PIN twice are two different texts', async () => {
    await seal()
    const first = Buffer.from(kept().sealed).toString('hex')
    await seal()
    expect(Buffer.from(kept().sealed).toString('hex')).not.toBe(first)
  })
  it('are dropped after five wrong PINs, and a right one before gives all tries back', async () => {
    await seal()
    for (const triesLeft of [4, 3, 2, 1]) expect(await open('000000')).toEqual({ kind: 'wrong', triesLeft })
    expect((await open()).kind).toBe('opened')
    for (const triesLeft of [4, 3, 2, 1]) expect(await open('000000')).toEqual({ kind: 'wrong', triesLeft })
    expect(await open('000000')).toEqual({ kind: 'dropped' })
    expect(await open()).toEqual({ kind: 'dropped' })
    expect(browser.kept.size).toBe(0)
  })
  it('are gone when their time is over, and nobody makes it later', async () => {
    await seal()
    kept().untilMs += HOUR
    expect((await open(PIN, NOW + HOUR - 1)).kind).toBe('wrong')
    await seal()
    expect((await open(PIN, NOW + HOUR - 1)).kind).toBe('opened')
    expect((await open(PIN, NOW + HOUR)).kind).toBe('dropped')
    expect(browser.kept.size).toBe(0)
  })
  it('of sites that nobody opens any more are dropped too', async () => {
    await seal('one')
    await seal('other', NOW + 2 * HOUR)
    await dropOverdue(NOW + HOUR)
    expect(await sealedAt('Rigger', 'one', NOW)).toBeNull()
    expect(await sealedAt('Rigger', 'other', NOW)).not.toBeNull()
  })
  it('are nobody else’s, and go when their person signs out', async () => {
    await seal()
    expect((await openSecrets('Keeper', 'gullhaven', PIN, NOW)).kind).toBe('dropped')
    expect(await sealedAt('Rigger', 'gullhaven', NOW)).not.toBeNull()
    await forgetAnswers('Rigger')
    expect(browser.kept.size).toBe(0)
  })
})
