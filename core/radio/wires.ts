// Question: how fast is the wire behind each end of a radio link, and is it its own port that keeps it from more?
// Method: from the radio's other ports along the cable, through injectors, as far as a device that forwards by itself;
// the slowest cable on the way counts. Nobody's wire, or one of unknown speed, is null.
// Source: as core/cabling's speed.
import { linkSpeed, speedsOf } from '#core/cabling'
import { cableAt, endsOf, farEnd, type PlanIndex } from '#core/queries'
import type { PortRef } from '#core/schema'
import type { RadioLink } from './plan-links'

export interface WireBehind {
  readonly mbps: number
  /** The radio's own port offers no more than that. */
  readonly byOwnPort: boolean
}

/** Whether a wire takes less than the air brings, Mb/s. */
export const isNarrower = ({ mbps }: WireBehind, airMbps: number): boolean => mbps < Math.floor(airMbps)

/** So many devices in a row only pass a cable on: an injector, and one for surges (common practice). */
const MOST_PASSED = 4

/** Speeds of the cables from a port on; null for one that is not known. */
function cablesFrom(index: PlanIndex, ref: PortRef): (number | null)[] {
  const speeds: (number | null)[] = []
  let from: PortRef | null = ref
  while (from && speeds.length < MOST_PASSED) {
    const cable = cableAt(index, from)
    if (!cable) break
    speeds.push(linkSpeed(index, cable).mbps)
    const { deviceId, portId } = farEnd(cable, from)
    const passing = index.devices.get(deviceId)
    const next = passing?.kind === 'injector' ? passing.ports.find(({ id }) => id !== portId) : undefined
    from = next ? { deviceId, portId: next.id } : null
  }
  return speeds
}

/** Of a port's wire; null where there is none, or one whose speed is not known. */
function wireAt(index: PlanIndex, ref: PortRef): WireBehind | null {
  const speeds = cablesFrom(index, ref)
  const known = speeds.filter((speed) => speed !== null)
  if (known.length === 0 || known.length < speeds.length) return null
  const mbps = Math.min(...known)
  return { mbps, byOwnPort: Math.max(0, ...(speedsOf(index, ref) ?? [])) <= mbps }
}

/** The fastest wire behind each end of a link, the first end's first; null where none is known. */
export function wiresBehind(index: PlanIndex, { link }: RadioLink): (WireBehind | null)[] {
  return endsOf(link).map(({ deviceId, portId }) => {
    const others = index.devices.get(deviceId)?.ports.filter(({ id }) => id !== portId) ?? []
    const wires = others.flatMap(({ id }) => wireAt(index, { deviceId, portId: id }) ?? [])
    return wires.toSorted((one, other) => other.mbps - one.mbps)[0] ?? null
  })
}
