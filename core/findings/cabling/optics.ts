// Question: do a cable, its sockets and its transceivers fit?
// Method: each end's socket against the medium, each transceiver against the fibre, both against each other.
// Source: IEEE 802.3-2022 (transceivers and their reach).
import { opticFor, OPTICS } from '#core/cabling'
import { endsOf, findPort, specOf, type PlanIndex } from '#core/queries'
import type { Link, Medium, OpticName, PortGroup, PortRef } from '#core/schema'
import { draft, labelOf, portPlace, set, type Draft, type Mend } from '../finding'

interface End {
  readonly ref: PortRef
  readonly spec: PortGroup | null
  readonly optic: OpticName | null
  readonly label: { readonly device: string; readonly port: string }
}
type Fibre = Extract<Medium, { kind: 'fibre' }>

/** No transceiver of a home site is faster than this; Mb/s. */
const USUAL_OPTIC_MBPS = 1000

/** A cable in a socket of the other kind. */
function misfitOf(spec: PortGroup | null, medium: Medium): 'copper-in-sfp' | 'fibre-in-copper' | null {
  if (spec?.kind === 'sfp' && medium.kind === 'copper') return 'copper-in-sfp'
  return spec?.kind === 'copper' && medium.kind === 'fibre' ? 'fibre-in-copper' : null
}

/** A transceiver that both ends can use over a fibre; null where there is none. */
function betterOptic(medium: Fibre, ends: readonly End[], spec: PortGroup): OpticName | null {
  const common = spec.speedsMbps.filter((mbps) =>
    ends.every((e) => !e.spec || e.spec.speedsMbps.includes(mbps)),
  )
  return opticFor(
    medium.grade,
    medium.lengthM,
    common.filter((mbps) => mbps <= USUAL_OPTIC_MBPS),
  )
}

/** A socket without a transceiver, or with one that does not reach over the fibre. */
function reachFindings(medium: Fibre, ends: readonly End[], { ref, spec, optic, label }: End): Draft[] {
  const reaches = optic !== null && OPTICS[optic].reachM[medium.grade] >= medium.lengthM
  if (reaches || spec?.kind !== 'sfp') return []
  const better = betterOptic(medium, ends, spec)
  const mend: Mend | null = better && {
    code: 'optic',
    values: { optic: better, port: label.port },
    changes: [set([...portPlace(ref), 'optic'], optic, better)],
  }
  const values = {
    kind: optic === null ? ('no-optic' as const) : ('optic-and-fibre' as const),
    ...label,
    optic: optic ?? ('' as const),
    grade: medium.grade,
    lengthM: medium.lengthM,
  }
  return [draft('E10', 'blocker', portPlace(ref), values, mend)]
}

/** Both transceivers reach, and do not speak to each other. */
function pairFindings(link: Link, [first, second]: readonly End[]): Draft[] {
  if (!first?.optic || !second?.optic) return []
  const [optic, other] = [OPTICS[first.optic], OPTICS[second.optic]]
  if (optic.wavelengthNm === other.wavelengthNm && optic.speedMbps === other.speedMbps) return []
  const values = {
    kind: 'optics-differ' as const,
    ...first.label,
    optic: first.optic,
    otherOptic: second.optic,
  }
  return [draft('E10', 'blocker', ['links', link.id, 'medium'], values)]
}

export function opticFindings(index: PlanIndex, link: Link): Draft[] {
  const { medium } = link
  if (medium.kind !== 'copper' && medium.kind !== 'fibre') return []
  const ends = endsOf(link).map((ref) => ({
    ref,
    spec: specOf(index, ref),
    optic: findPort(index, ref)?.optic ?? null,
    label: labelOf(index, ref),
  }))
  const misfits = ends.flatMap(({ ref, spec, label }) => {
    const kind = misfitOf(spec, medium)
    return kind ? [draft('E10', 'blocker', portPlace(ref), { kind, ...label })] : []
  })
  if (medium.kind !== 'fibre' || misfits.length > 0) return misfits
  const short = ends.flatMap((end) => reachFindings(medium, ends, end))
  return short.length > 0 ? short : pairFindings(link, ends)
}
