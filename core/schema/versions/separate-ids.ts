// Question: how does a plan of version 7 or older say which of two things of one id it means?
// Method: a failure scenario, a policy route and a selector name a thing by its id alone, so ids of what can fail are
// separated: devices keep theirs, then uplinks, tunnels, peers and links take the next free one.
// References follow by their kind.
// Source: the plan's own semantics; no figures used.

import { isFields, type Fields } from './document'

const list = (value: unknown): readonly Fields[] => (Array.isArray(value) ? value.filter(isFields) : [])
const idOf = (item: Fields): string => String(item['id'] ?? '')

type Kind = 'uplink' | 'tunnel' | 'peer' | 'link'
type Renamed = Readonly<Record<Kind, Map<string, string>>>

/** New ids, by kind, for things whose id something before them has. */
function collisions(plan: Fields): Renamed {
  const taken = new Set(list(plan['devices']).map(idOf))
  const renamed: Renamed = { uplink: new Map(), tunnel: new Map(), peer: new Map(), link: new Map() }
  const tunnels = list(plan['tunnels'])
  const groups: readonly (readonly [Kind, readonly Fields[]])[] = [
    ['uplink', list(plan['uplinks'])],
    ['tunnel', tunnels],
    ['peer', tunnels.flatMap((tunnel) => list(tunnel['peers']))],
    ['link', list(plan['links'])],
  ]
  const everyId = new Set([...taken, ...groups.flatMap(([, items]) => items.map(idOf))])
  for (const [kind, items] of groups) {
    const ids = new Set(items.map(idOf))
    for (const id of ids) {
      if (!taken.has(id)) continue
      let suffix = 2
      while (everyId.has(`${id}-${suffix}`)) suffix++
      everyId.add(`${id}-${suffix}`)
      renamed[kind].set(id, `${id}-${suffix}`)
    }
    for (const id of ids) taken.add(renamed[kind].get(id) ?? id)
  }
  return renamed
}

/** A document in which every reference by kind and id, and every uplink's id, follows. */
function follow(node: unknown, renamed: Renamed): unknown {
  if (Array.isArray(node)) return node.map((item) => follow(item, renamed))
  if (!isFields(node)) return node
  const kind = node['kind']
  const own = kind === 'uplink' || kind === 'tunnel' || kind === 'peer' ? renamed[kind] : null
  return Object.fromEntries(
    Object.entries(node).map(([key, value]) => {
      if (key === 'id' && own) return [key, own.get(String(value)) ?? value]
      if (key === 'uplinkId') return [key, renamed.uplink.get(String(value)) ?? value]
      // Whoever was to survive one of two was to survive both.
      if (key === 'survives' && Array.isArray(value))
        return [key, value.flatMap((id) => [id, ...Object.values(renamed).flatMap((m) => m.get(id) ?? [])])]
      return [key, follow(value, renamed)]
    }),
  )
}

/** The plan with an id of its own for each device, uplink, tunnel, peer and link; itself where they have. */
export function separateIds(plan: Fields): Fields {
  const renamed = collisions(plan)
  if (Object.values(renamed).every((map) => map.size === 0)) return plan
  const rename = (items: unknown, kind: Kind): unknown =>
    Array.isArray(items)
      ? items.map((item: unknown) =>
          isFields(item) ? { ...item, id: renamed[kind].get(idOf(item)) ?? item['id'] } : item,
        )
      : items
  const followed = follow(plan, renamed) as Fields
  return {
    ...followed,
    uplinks: rename(followed['uplinks'], 'uplink'),
    links: rename(followed['links'], 'link'),
    tunnels: list(rename(followed['tunnels'], 'tunnel')).map((tunnel) => ({
      ...tunnel,
      peers: rename(tunnel['peers'], 'peer'),
    })),
  }
}
