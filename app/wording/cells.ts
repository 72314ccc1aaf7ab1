import type { Intent, Selector, Service } from '#core/schema'
import { formatServices, isNothing, minus, namedParts, NOTHING, union, type ServiceSet } from '#core/filter'
import type { MatrixCell, IntentCell } from '#core/reachability'
import type { CellProof } from '#core/prove'
import type { FlagState } from '~/ui/StatusFlag.vue'
import { count } from './findings'

/** A set by the plan's own names, and by numbers where it has none. */
export function servicesText(set: ServiceSet, services: readonly Service[]): string {
  const whole = formatServices(set)
  if (whole === 'all' || whole === 'nothing') return whole
  const { names, rest } = namedParts(set, services)
  return [...names, ...(isNothing(rest) ? [] : [formatServices(rest)])].join(', ')
}

/** The same for a cell of the grid, at most some ten characters. */
export function shortServices(set: ServiceSet, services: readonly Service[]): string {
  const whole = formatServices(set)
  if (whole === 'all' || whole === 'nothing') return whole
  const { names, rest } = namedParts(set, services)
  const total = names.length + (isNothing(rest) ? 0 : 1)
  return total === 1 && names[0] && names[0].length <= 9 ? names[0] : count(total, 'service')
}

/** Services by their names; an empty list stands for all. */
export const servicesNamed = (ids: readonly string[], services: readonly Service[]): string =>
  ids.length === 0 ? 'all' : ids.map((id) => services.find((s) => s.id === id)?.name ?? id).join(', ')

/** `Staff reach the servers (Staff to Servers: Files, Ping)`. */
export const intentWords = (
  intent: Intent,
  end: (s: Selector) => string,
  services: readonly Service[],
): string =>
  `${intent.note || intent.id} (${end(intent.from)} to ${end(intent.to)}: ` +
  `${servicesNamed(intent.services, services)})`

export interface MeantLook {
  readonly text: string
  readonly says: string
  /** True where only intents for more than the pair, or for some hosts of it, speak of it. */
  readonly derived: boolean
}
/** How a pair of the intent grid looks. */
export function meantLook({ own, others }: IntentCell, services: readonly Service[]): MeantLook {
  const all = [...own, ...others]
  const derived = own.length === 0 && others.length > 0
  if (all.length === 0) return { text: '·', says: 'nothing is meant', derived }
  const ids = [...new Set(all.flatMap((i) => i.services))]
  const words = all.some((i) => i.services.length === 0) ? null : servicesNamed(ids, services)
  const short = ids.length === 1 ? (words ?? '') : String(ids.length)
  return {
    text: words === null ? 'all' : short,
    says: `${words ?? 'everything is meant'}${derived ? ', by a wider or narrower intent' : ''}`,
    derived,
  }
}

export interface CellLook {
  readonly flag: FlagState | null
  readonly text: string
  readonly says: string
}

/** How a cell looks: what passes of what is meant, and whether it was seen. */
export function cellLook(cell: MatrixCell, proof: CellProof, services: readonly Service[]): CellLook {
  if (!isNothing(cell.unexpected))
    return {
      flag: 'cut',
      text: 'unasked',
      says: `passes unasked: ${servicesText(cell.unexpected, services)}`,
    }
  if (!isNothing(cell.missing))
    return {
      flag: 'cut',
      text: 'missing',
      says: `does not pass for all: ${servicesText(cell.missing, services)}`,
    }
  if (cell.isEmpty) return { flag: null, text: 'nobody', says: 'nobody there yet' }
  const shown = cell.judged ? cell.intended : cell.allPairs
  if (isNothing(shown)) {
    if (!cell.judged && !isNothing(cell.somePairs))
      return {
        flag: null,
        text: 'in part',
        says: `between some: ${servicesText(cell.somePairs, services)}`,
      }
    if (!cell.judged) return { flag: null, text: '–', says: 'nothing passes; no intent asked' }
    return proof === 'proven'
      ? { flag: 'full', text: '', says: 'nothing passes, as intended; proven' }
      : { flag: null, text: '·', says: 'nothing passes, as intended' }
  }
  const says = servicesText(shown, services)
  if (!cell.judged)
    return { flag: null, text: shortServices(shown, services), says: `passes, no intent asked: ${says}` }
  if (proof === 'contradicted')
    return { flag: 'cut', text: 'failed', says: `predicted to pass, was seen to fail: ${says}` }
  return {
    flag: proof === 'proven' ? 'full' : 'outline',
    text: shortServices(shown, services),
    says: `${proof === 'proven' ? 'proven' : 'predicted'}: ${says}`,
  }
}

const passing = (cell: MatrixCell): ServiceSet => union(cell.allPairs, cell.somePairs)

/**
 * How a cell looks beside the same cell in another weather: what passes there and not here, and the other way
 * round.
 */
export function changeLook(
  here: MatrixCell,
  there: MatrixCell | undefined,
  services: readonly Service[],
): CellLook {
  const [now, then] = [passing(here), there ? passing(there) : NOTHING]
  const [opened, closed] = [minus(then, now), minus(now, then)]
  if (isNothing(opened) && isNothing(closed))
    return { flag: null, text: '', says: 'the same in both weathers' }
  const part = (sign: string, set: ServiceSet) =>
    isNothing(set) ? [] : [`${sign}${shortServices(set, services)}`]
  const says = [
    ...(isNothing(opened) ? [] : [`opens ${servicesText(opened, services)}`]),
    ...(isNothing(closed) ? [] : [`closes ${servicesText(closed, services)}`]),
  ]
  return {
    flag: isNothing(closed) ? 'outline' : 'cut',
    text: [...part('+', opened), ...part('−', closed)].join(' '),
    says: says.join('; '),
  }
}
