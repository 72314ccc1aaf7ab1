// Question: for how much of the year does an uplink work whose way leads over radio links?
// Method: what its provider promises, times what each radio link on its way stands.
// Source: availabilities of what stands in series multiply (IEC 61078).
import type { PlanIndex } from '#core/queries'
import { uplinkLinks } from '#core/layer2'
import { availabilityOf, radioLinks } from '#core/radio'
import type { Uplink } from '#core/schema'

export interface OverAir {
  /** Names of both ends of each radio link on the way. */
  readonly links: readonly (readonly [string, string])[]
  /** Of the year, %; null where the uplink's own, or a link's, is not known. */
  readonly availablePct: number | null
}

/** Null for an uplink whose way leads over no radio link. */
export function availableOverAir(index: PlanIndex, uplink: Uplink): OverAir | null {
  const ids = new Set(
    uplinkLinks(index, uplink).flatMap(({ id, medium }) => (medium.kind === 'radio' ? [id] : [])),
  )
  if (ids.size === 0) return null
  const links = radioLinks(index).filter(({ id }) => ids.has(id))
  const shares = links.map((link) => availabilityOf(link)?.availablePct ?? null)
  const availablePct = shares.reduce<number | null>(
    (all, share) => (all === null || share === null ? null : (all * share) / 100),
    uplink.availablePct,
  )
  return { links: links.map(({ names }) => names), availablePct }
}
