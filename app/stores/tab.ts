import { nanoid } from 'nanoid'

const KEY = 'mast-tab'
/** A page that is reloaded takes this long at most to let go of its name; one that was copied never does. */
const LETTING_GO_MS = 1500
const lockOf = (tab: string): string => `mast-tab/${tab}`

/** Locks exist on secure pages only; without them every other tab counts as open. */
const locks = (): LockManager | undefined => navigator.locks

/** Takes a tab's name for as long as this tab lives; false where a living tab has it. */
function takeName(tab: string): Promise<boolean> {
  const manager = locks()
  if (!manager) return Promise.resolve(true)
  return new Promise((taken) => {
    manager
      .request(lockOf(tab), { signal: AbortSignal.timeout(LETTING_GO_MS) }, () => {
        taken(true)
        // Held until the tab is closed.
        return new Promise<never>(() => {})
      })
      .catch(() => taken(false))
  })
}

async function nameOfTab(): Promise<string> {
  const known = sessionStorage.getItem(KEY)
  // After a reload the page before this may still hold the name; a copied tab brings that of a living one.
  if (known && (await takeName(known))) return known
  const tab = nanoid()
  sessionStorage.setItem(KEY, tab)
  await takeName(tab)
  return tab
}

let name: Promise<string> | undefined

/** This tab's name: the same after a reload, and no other tab's. */
export const thisTab = (): Promise<string> => (name ??= nameOfTab())

/** Whether a tab is closed for certain. */
export async function closedTabs(): Promise<(tab: string) => boolean> {
  const manager = locks()
  if (!manager) return () => false
  const held = new Set((await manager.query()).held?.map((lock) => lock.name))
  return (tab) => !held.has(lockOf(tab))
}

/** Does work that only one tab may do at a time, where tabs can be told apart. */
export const oneTabAtATime = <T>(name: string, work: () => Promise<T>): Promise<T> =>
  locks()?.request(name, work) ?? work()
