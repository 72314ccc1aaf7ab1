import { ipv4, largestIn, lastOf, gapsIn, sizeOf, type Ipv4, type Prefix4 } from '#core/address'

// The part of a block that the ruler shows, and what it means in pixels.

export interface RulerView {
  readonly from: number
  /** Addresses shown. */
  readonly size: number
}

export const wholeOf = (block: Prefix4): RulerView => ({ from: block.base, size: sizeOf(block.length) })

/**
 * A view twice as near, or half, around an address; never beyond the block, never nearer than 16 addresses.
 */
export function zoomed(block: Prefix4, view: RulerView, around: number, factor: number): RulerView {
  const whole = wholeOf(block)
  const size = Math.max(Math.min(16, whole.size), Math.min(whole.size, Math.round(view.size * factor)))
  const share = (around - view.from) / view.size
  const from = Math.round(around - share * size)
  return { from: Math.max(whole.from, Math.min(whole.from + whole.size - size, from)), size }
}

export function panned(block: Prefix4, view: RulerView, by: number): RulerView {
  const whole = wholeOf(block)
  return {
    ...view,
    from: Math.max(whole.from, Math.min(whole.from + whole.size - view.size, Math.round(view.from + by))),
  }
}

/** Ticks at powers of two: at most 16 over the view, every second one named. */
export function ticksOf(view: RulerView): { readonly at: Ipv4; readonly tall: boolean }[] {
  const step = 2 ** Math.max(0, Math.ceil(Math.log2(view.size / 16)))
  const first = Math.ceil(view.from / step) * step
  const count = Math.ceil((view.from + view.size - first) / step)
  return Array.from({ length: Math.max(0, count) }, (_, i) => ({
    at: ipv4(first + i * step),
    tall: (first / step + i) % 2 === 0,
  }))
}

/** The prefix length whose size is nearest to a stretch of addresses. */
export function lengthNear(addresses: number): number {
  return Math.max(1, Math.min(30, 32 - Math.round(Math.log2(Math.max(4, addresses)))))
}

/** Places of a length where a prefix collides with none of the others, in order. */
export function freePlaces(block: Prefix4, others: readonly Prefix4[], length: number): Ipv4[] {
  const size = sizeOf(length)
  return gapsIn(block, others).flatMap((gap) => {
    if (largestIn(gap).length > length) return []
    const first = Math.ceil(gap.from / size) * size
    const count = Math.floor((gap.to + 1 - first) / size)
    return Array.from({ length: Math.max(0, Math.min(count, 4096)) }, (_, i) => ipv4(first + i * size))
  })
}

/** The view that shows a prefix with as much again on both sides. */
export function around(block: Prefix4, prefix: Prefix4): RulerView {
  const size = Math.min(sizeOf(block.length), sizeOf(prefix.length) * 3)
  return panned(block, { from: prefix.base - Math.floor((size - sizeOf(prefix.length)) / 2), size }, 0)
}

export const isWhole = (block: Prefix4, view: RulerView): boolean =>
  view.size === sizeOf(block.length) && view.from === block.base
export const endOf = (prefix: Prefix4): number => lastOf(prefix) + 1
