// Question: what goes with something that is taken out of a plan?
// Method: whatever is nothing without it: cables to a device, an SSID of a network, what is forwarded on a line; again
// until nothing dangles.
// Source: the plan's own semantics; no figures used.
import { danglingReferences, type DanglingReference } from '#core/queries'
import type { Plan } from '#core/schema'

type Path = readonly (string | number)[]

/** A document without some items of lists, by their paths. */
function without(node: unknown, gone: readonly Path[]): unknown {
  if (gone.length === 0 || typeof node !== 'object' || node === null) return node
  const below = (key: string | number) =>
    gone.filter((path) => path.length > 1 && path[0] === key).map((path) => path.slice(1))
  const isGone = (key: string | number) => gone.some((path) => path.length === 1 && path[0] === key)
  if (Array.isArray(node))
    return node.flatMap((item: unknown, i) => (isGone(i) ? [] : [without(item, below(i))]))
  return Object.fromEntries(Object.entries(node).map(([key, item]) => [key, without(item, below(key))]))
}

const itemOf = ({ path, itemSteps }: DanglingReference): Path => path.slice(0, itemSteps)

/** The plan without what names something that is gone; the very same where nothing does. */
export function withoutDangling(plan: Plan): Plan {
  const gone = danglingReferences(plan).filter(({ code }) => code === 'names-nothing')
  return gone.length === 0 ? plan : withoutDangling(without(plan, gone.map(itemOf)) as Plan)
}
