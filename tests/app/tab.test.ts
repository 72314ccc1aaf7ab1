import { afterEach, describe, expect, it, vi } from 'vitest'

/** Locks as a browser gives them out (Web Locks API, W3C): one holder a name, the next waits or gives up. */
function fakeLocks() {
  const holders = new Map<string, Promise<unknown>>()
  return {
    hold: (name: string, until: Promise<unknown>) => void holders.set(name, until),
    async request(name: string, { signal }: { signal: AbortSignal }, use: () => Promise<unknown>) {
      const givenUp = new Promise<never>((_, refuse) =>
        signal.addEventListener('abort', () => refuse(new DOMException('given up', 'AbortError'))),
      )
      await Promise.race([holders.get(name), givenUp])
      const used = use()
      holders.set(name, used)
      return used
    },
  }
}

/** A page of a tab that was called "known" before, and whose name is held until `until`. */
async function pageOf(until: Promise<unknown>, patience: AbortSignal): Promise<string> {
  const locks = fakeLocks()
  locks.hold('mast-tab/known', until)
  const kept = new Map([['mast-tab', 'known']])
  vi.stubGlobal('navigator', { locks })
  vi.stubGlobal('sessionStorage', {
    getItem: (key: string) => kept.get(key),
    setItem: (key: string, value: string) => kept.set(key, value),
  })
  vi.spyOn(AbortSignal, 'timeout').mockReturnValue(patience)
  vi.resetModules()
  const { thisTab } = await import('~/stores/tab')
  return thisTab()
}

afterEach(() => {
  vi.unstubAllGlobals()
  vi.restoreAllMocks()
})

describe('the name of a tab', () => {
  it('stays over a reload, although the page before lets go of it a little later', async () => {
    const goes = new Promise((gone) => setTimeout(gone))
    expect(await pageOf(goes, new AbortController().signal)).toBe('known')
  })

  it('is a new one in a tab that was copied from one that lives', async () => {
    const patience = new AbortController()
    setTimeout(() => patience.abort())
    expect(await pageOf(new Promise(() => {}), patience.signal)).not.toBe('known')
  })
})
