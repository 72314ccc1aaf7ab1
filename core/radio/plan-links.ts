// Question: which radio links does a plan have, and what is still to be said before one can be computed?
// Method: the settings of a link and of its ends, each of which may be unknown.
import type { DeviceId, Link, LinkId, LinkWidth, PortRef, RadioSettings } from '#core/schema'
import { modelOf, portKey, specOf, type PlanIndex } from '#core/queries'
import { budgetFrom, type RadioPath } from './link-budget'

type EndKey = 'a' | 'b'
/** What is not said: of the link itself, or of one end. */
export type Unsaid =
  | { readonly what: 'distance' | 'frequency' | 'width' }
  | { readonly what: 'antenna' | 'power' | 'gain' | 'feeder'; readonly end: EndKey }

export interface RadioLink {
  readonly id: LinkId
  readonly link: Link
  readonly lengthM: number
  readonly settings: RadioSettings
  /** Names of the devices at both ends. */
  readonly names: readonly [string, string]
  /** What can be computed; null while something is not said. */
  readonly path: (RadioPath & { readonly widthMhz: LinkWidth }) | null
  readonly unsaid: readonly Unsaid[]
}

const OF_END = [
  ['antenna', 'antennaM'],
  ['power', 'powerDbm'],
  ['gain', 'gainDbi'],
  ['feeder', 'feederDb'],
] as const

function unsaidOf({ mhz, widthMhz, ends }: RadioSettings, lengthM: number): Unsaid[] {
  const own = [
    [lengthM > 0, 'distance'],
    [mhz !== null, 'frequency'],
    [widthMhz !== null, 'width'],
  ] as const
  return [
    ...own.flatMap(([isSaid, what]) => (isSaid ? [] : [{ what }])),
    ...(['a', 'b'] as const).flatMap((end) =>
      OF_END.filter(([, field]) => ends[end][field] === null).map(([what]) => ({ what, end })),
    ),
  ]
}

/** @param own sensitivities of the receivers at both ends, as `sensitivityDbm` takes them */
function pathOf(
  settings: RadioSettings,
  lengthM: number,
  own: readonly [readonly number[], readonly number[]],
): RadioLink['path'] {
  const { mhz, widthMhz, polarization, rainMmPerHour, profile } = settings
  if (mhz === null || widthMhz === null || unsaidOf(settings, lengthM).length > 0) return null
  const endOf = ({ powerDbm, gainDbi, feederDb }: RadioSettings['ends']['a'], ownDbm: readonly number[]) => ({
    powerDbm: powerDbm ?? 0,
    gainDbi: gainDbi ?? 0,
    feederDb: feederDb ?? 0,
    ownDbm,
  })
  const { a: first, b: second } = settings.ends
  return {
    lengthM,
    mhz,
    widthMhz,
    polarization,
    rainMmPerHour: rainMmPerHour ?? 0,
    antennasM: [first.antennaM ?? 0, second.antennaM ?? 0],
    // A distance that was made shorter leaves points behind the far end.
    points: profile.filter(({ atM }) => atM <= lengthM),
    ends: [endOf(first, own[0]), endOf(second, own[1])],
  }
}

/** Less than this below what is computed is what an estimate may miss (common practice, without a source). */
export const TOLERANCE_DB = 6
/** What an end reads in clear weather, dBm; null while it is not computed. */
export const expectedDbm = ({ path }: Pick<RadioLink, 'path'>, end: 'a' | 'b'): number | null =>
  path && budgetFrom(path, end === 'a' ? 1 : 0).clearDbm
/**
 * What an end will read by its survey, dBm: what was heard with a small antenna, and what the real one gains over it;
 * null while one of both is not said.
 */
export function surveyedDbm({ settings }: Pick<RadioLink, 'settings'>, end: 'a' | 'b'): number | null {
  const { survey, gainDbi } = settings.ends[end]
  if (survey.readDbm === null || survey.gainDbi === null || gainDbi === null) return null
  return survey.readDbm + gainDbi - survey.gainDbi
}
/** How much less an end reads than is computed in clear weather, dB; null where it is not too little, or not known. */
export function shortfallDb(link: RadioLink, end: 'a' | 'b'): number | null {
  const { readDbm } = link.settings.ends[end]
  const expected = expectedDbm(link, end)
  if (expected === null || readDbm === null) return null
  const missing = expected - readDbm
  return missing > TOLERANCE_DB ? Math.round(missing) : null
}

/**
 * Whether a distance that was typed is another than that between two positions: by more than a hundredth, and more than
 * 20 m, as far as a position is read off (common practice, without a source).
 */
export const isOtherDistance = (typedM: number, betweenM: number): boolean =>
  Math.abs(typedM - betweenM) > Math.max(20, betweenM / 100)

/** In the plan's order. */
export function radioLinks(index: PlanIndex): RadioLink[] {
  const nameOf = (deviceId: string) => index.devices.get(deviceId)?.name ?? deviceId
  const ownOf = (deviceId: DeviceId) =>
    modelOf(index, index.devices.get(deviceId)?.model ?? '')?.sensitivityDbm ?? []
  return index.plan.links.flatMap((link): RadioLink[] => {
    const { medium } = link
    if (medium.kind !== 'radio') return []
    const { lengthM, radio: settings } = medium
    return [
      {
        id: link.id,
        link,
        lengthM,
        settings,
        names: [nameOf(link.a.deviceId), nameOf(link.b.deviceId)],
        path: pathOf(settings, lengthM, [ownOf(link.a.deviceId), ownOf(link.b.deviceId)]),
        unsaid: unsaidOf(settings, lengthM),
      },
    ]
  })
}

/** Ports of radio bridges that can be an end of a link to come; any where the model is not known. */
export function freeRadioPorts(index: PlanIndex): PortRef[] {
  const isFree = (ref: PortRef) =>
    !index.linksAt.has(portKey(ref)) && (specOf(index, ref)?.kind ?? 'radio') === 'radio'
  return index.plan.devices
    .filter(({ kind }) => kind === 'bridge-radio')
    .flatMap(({ id, ports }) => ports.map((port) => ({ deviceId: id, portId: port.id })))
    .filter(isFree)
}
