// Question: at what speed does a link come up, and what keeps it from being faster?
// Method: each end offers what its model and its setting allow; the highest common speed that the medium
// carries is taken.
// Source:
// IEEE 802.3-2022 clause 28 (auto-negotiation); reach as in media.ts.
import { endsOf, findPort, specOf, type PlanIndex } from '#core/queries'
import type { Link, PortRef } from '#core/schema'
import { copperSpeed, OPTICS } from './media'

export interface LinkSpeed {
  /** Null where the ends agree on none, or where nothing is known of an end. */
  readonly mbps: number | null
  /** Highest speed that both ends offer, whatever lies between; null where nothing is known. */
  readonly offeredMbps: number | null
  readonly limit: 'none' | 'ends' | 'medium' | 'optics' | 'no-common' | 'unknown'
}

const UNKNOWN: LinkSpeed = { mbps: null, offeredMbps: null, limit: 'unknown' }

/** Speeds an end offers; null where its model is not known. A forced speed is the only one offered. */
export function speedsOf(index: PlanIndex, ref: PortRef): readonly number[] | null {
  const spec = specOf(index, ref)
  const port = findPort(index, ref)
  if (!port) return null
  if (port.optic !== null && spec?.kind === 'sfp')
    return spec.speedsMbps.filter((s) => s === OPTICS[port.optic as keyof typeof OPTICS].speedMbps)
  if (port.speedMbps !== null) return [port.speedMbps]
  return spec ? spec.speedsMbps : null
}

/** The speed of a link as planned. Wi-Fi and the provider's line have none of their own here. */
export function linkSpeed(index: PlanIndex, link: Link): LinkSpeed {
  const [first, second] = endsOf(link).map((ref) => speedsOf(index, ref))
  if (!first || !second || link.medium.kind === 'line' || link.medium.kind === 'wifi') return UNKNOWN
  const common = first.filter((s) => second.includes(s))
  const offeredMbps = common.length === 0 ? null : Math.max(...common)
  if (offeredMbps === null) return { mbps: null, offeredMbps, limit: 'no-common' }
  const { medium } = link
  if (medium.kind === 'radio') return { mbps: offeredMbps, offeredMbps, limit: 'ends' }
  if (medium.kind === 'copper') {
    const mbps = copperSpeed(medium.category, medium.lengthM, first, second)
    return { mbps, offeredMbps, limit: mbps === offeredMbps ? 'ends' : 'medium' }
  }
  const optics = endsOf(link).map((ref) => findPort(index, ref)?.optic ?? null)
  const [one, other] = optics
  if (!one || !other) return UNKNOWN
  const light = [OPTICS[one], OPTICS[other]] as const
  const reaches = light.every((o) => o.reachM[medium.grade] >= medium.lengthM)
  const alike = light[0].wavelengthNm === light[1].wavelengthNm && light[0].speedMbps === light[1].speedMbps
  return reaches && alike
    ? { mbps: offeredMbps, offeredMbps, limit: 'ends' }
    : { mbps: null, offeredMbps, limit: 'optics' }
}
