// What the parts of the observatory have in common.
import type { Port, PortId } from '#core/schema'
import { trunk } from '../build'

export const LAB = 'Laboratory'
export const BOAT = 'Boathouse'
export const VISIT = 'Visitor room'
export const SKERRY = 'Skerry hut'

/** What differs between the copy with mistakes and the clean one. */
export interface Variant {
  readonly name: string
  readonly clean: boolean
}

export const ALL = [10, 20, 30, 40, 50, 60] as const
export const toBoathouse = trunk(99, 10, 30, 40, 60)
/** Ports with the light for the quay's fibre in one of them. */
export const lit = (list: readonly Port[], portId: PortId): Port[] =>
  list.map((p) => (p.id === portId ? { ...p, optic: '1000BASE-LX10' } : p))
