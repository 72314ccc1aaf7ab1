// Question: how can IPv6 prefixes stand inside the 32 bits of an IPv4 address, so that each lies in the same
// others as before?
// Method: prefixes form a tree by what lies in what; each is given a block of 10.0.0.0/8 large enough for its
// children and its own hosts, children from the start of their parent, the largest first, so that each lies
// on its own boundary.
// Source: buddy allocation, common practice; only which prefix lies in which matters to forwarding and rules.
import { contains6, formatPrefix6, ipv4, type Prefix4, type Prefix6 } from '#core/address'
import { by } from '#core/util'

const EVERYWHERE: Prefix6 = { groups: [0, 0, 0, 0, 0, 0, 0, 0], length: 0 }
export const ROOT: Prefix4 = { base: ipv4(0x0a000000), length: 8 }

interface PrefixTree {
  readonly prefix: Prefix6
  readonly children: PrefixTree[]
  /** Addresses of its block: a power of two that holds its children and some of its own. */
  size: number
}

const sizeOf = (length: number): number => 2 ** (32 - length)
const powerOfTwo = (n: number): number => 2 ** Math.ceil(Math.log2(n))

/**
 * The prefixes as a tree.
 * @param room addresses that a prefix needs of its own, by its text; 1 where none is given
 */
function prefixTree(prefixes: readonly Prefix6[], room: ReadonlyMap<string, number>): PrefixTree {
  // Shortest first, so that each finds its parent before itself.
  const distinct = [...new Map(prefixes.map((p) => [formatPrefix6(p), p])).values()]
    .filter((p) => p.length > 0)
    .sort(by((p) => p.length, formatPrefix6))
  const root: PrefixTree = { prefix: EVERYWHERE, children: [], size: 0 }
  for (const prefix of distinct) {
    let parent = root
    const inner = () => parent.children.find((child) => contains6(child.prefix, prefix))
    for (let next = inner(); next; next = inner()) parent = next
    parent.children.push({ prefix, children: [], size: 0 })
  }
  const measure = (node: PrefixTree): number => {
    const children = node.children.reduce((sum, child) => sum + measure(child), 0)
    node.size = powerOfTwo(children + (room.get(formatPrefix6(node.prefix)) ?? 1))
    return node.size
  }
  measure(root)
  return root
}

/** The block of each prefix, by its text; null where they need more than there is. */
export function layOutPrefixes(
  prefixes: readonly Prefix6[],
  room: ReadonlyMap<string, number>,
): ReadonlyMap<string, Prefix4> | null {
  const root = prefixTree(prefixes, room)
  if (root.size > sizeOf(ROOT.length)) return null
  const blocks = new Map<string, Prefix4>()
  const place = (node: PrefixTree, base: number, size: number) => {
    blocks.set(formatPrefix6(node.prefix), { base: ipv4(base), length: 32 - Math.log2(size) })
    let next = base
    for (const child of [...node.children].sort(by((c) => -c.size))) {
      place(child, next, child.size)
      next += child.size
    }
  }
  place(root, ROOT.base, sizeOf(ROOT.length))
  return blocks
}
