// Namespaces of runs that were killed are taken away before a run begins.
import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { bash, run } from './shell'

/** What the namespaces of this process are called at their beginning. */
export const stemOf = (nth: number | string): string => `mast${process.pid}-${nth}-`

const ownerOf = (ns: string): string | undefined => /^mast(\d+)-/.exec(ns)?.[1]

/** Machines of a twin know one another; the kernel counts them all together, and has room for 1,024. */
const NEIGHBOURS = ['ipv4', 'ipv6'].map((family) => `/proc/sys/net/${family}/neigh/default/gc_thresh3`)
const WANTED = 16_384

/** Gives the kernel room for more neighbours while the twins run, where it may be given. */
function widen(): () => void {
  const before = NEIGHBOURS.map((file) => {
    try {
      const value = readFileSync(file, 'utf8')
      if (Number(value) < WANTED) writeFileSync(file, String(WANTED))
      return value
    } catch {
      return null
    }
  })
  return () => NEIGHBOURS.forEach((file, i) => before[i] && writeFileSync(file, before[i]))
}

export default async function sweep(): Promise<() => void> {
  const restore = widen()
  const { stdout } = await run('ip', ['netns', 'list']).catch(() => ({ stdout: '' }))
  const left = stdout.split('\n').flatMap((line) => {
    const [ns = ''] = line.split(' ')
    const owner = ownerOf(ns)
    return owner === undefined || existsSync(`/proc/${owner}`) ? [] : [ns]
  })
  if (left.length > 0)
    console.log(`kernel twin: ${left.length} namespaces of runs that were killed, taken away`)
  for (const ns of left) await removeNamespace(ns)
  return restore
}

/** Ends what runs in a namespace, and removes it. */
export async function removeNamespace(ns: string): Promise<void> {
  const script = `ip netns pids ${ns} 2>/dev/null | xargs -r kill -9; ip netns del ${ns}`
  await bash(['-c', script]).catch(() => undefined)
}
