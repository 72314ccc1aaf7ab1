// Question: in which order are devices set up, so that the laptop's address changes least?
// Method: exact: at one address everything that can be done there is done, which never costs anything; over which
// address comes next all ways are tried, each set of devices that are done once.
// Source: none; checked against all orders in the tests.

export interface BenchTask {
  readonly id: string
  /** Address of the laptop, or a word for one that it gets by DHCP. */
  readonly laptop: string
  /** What must have been set up before. */
  readonly after: readonly string[]
}

export interface BenchOrder {
  readonly ids: readonly string[]
  /** Changes of the laptop's address, the first setting not counted. */
  readonly changes: number
}

/** Beyond so many different states only the first is followed: then the order is good, and perhaps not the best. */
const MOST_STATES = 50_000

interface State {
  readonly ids: readonly string[]
  readonly laptop: string
}

/** Everything that can be set up at an address, one after the other. */
function settled({ ids, laptop }: State, tasks: readonly BenchTask[]): string[] {
  const done = [...ids]
  const isDone = new Set(done)
  for (;;) {
    const ready = tasks.find(
      (task) =>
        task.laptop === laptop && !isDone.has(task.id) && task.after.every((before) => isDone.has(before)),
    )
    if (!ready) return done
    done.push(ready.id)
    isDone.add(ready.id)
  }
}

/** Laptop addresses at which something can be done now. */
function nextAddresses(ids: readonly string[], tasks: readonly BenchTask[]): string[] {
  const isDone = new Set(ids)
  const ready = tasks.filter(
    ({ id, after }) => !isDone.has(id) && after.every((before) => isDone.has(before)),
  )
  return [...new Set(ready.map(({ laptop }) => laptop))]
}

/** The order with fewest changes of address; null where devices wait for each other in a circle. */
export function benchOrder(tasks: readonly BenchTask[]): BenchOrder | null {
  const known = new Set(tasks.map(({ id }) => id))
  const own = tasks.map((task) => ({ ...task, after: task.after.filter((id) => known.has(id)) }))
  const seen = new Set<string>()
  let states: State[] = nextAddresses([], own).map((laptop) => ({ ids: [], laptop }))
  for (let changes = 0; states.length > 0; changes++) {
    const further: State[] = []
    for (const state of states) {
      const ids = settled(state, own)
      if (ids.length === own.length) return { ids, changes }
      const key = [...ids].sort().join(' ')
      if (seen.has(key)) continue
      seen.add(key)
      further.push(...nextAddresses(ids, own).map((laptop) => ({ ids, laptop })))
    }
    states = seen.size > MOST_STATES ? further.slice(0, 1) : further
  }
  return tasks.length === 0 ? { ids: [], changes: 0 } : null
}
