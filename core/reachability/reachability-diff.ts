// Question: which flows does a change to a plan, or to what has failed, open and close?
// Method: the grids of both, cell by cell: what passes between some pair of hosts after and not before, and
// the other way round.
import { isNothing, minus, NOTHING, union, type ServiceSet } from '#core/filter'
import type { MatrixCell } from './cell'
import type { ReachabilityMatrix } from './matrix'

export interface FlowChange {
  readonly from: string
  readonly to: string
  readonly opened: ServiceSet
  readonly closed: ServiceSet
}

const passing = (cell: MatrixCell | undefined): ServiceSet =>
  cell ? union(cell.allPairs, cell.somePairs) : NOTHING

/**
 * Cells in which something opened or closed, in the order of the newer grid; rows and columns that are gone
 * come last.
 */
export function flowsChanged(before: ReachabilityMatrix, after: ReachabilityMatrix): FlowChange[] {
  const keyed = (grid: ReachabilityMatrix) => new Map(grid.cells.map((c) => [`${c.from}>${c.to}`, c]))
  const [was, is] = [keyed(before), keyed(after)]
  return [...new Set([...is.keys(), ...was.keys()])].flatMap((key) => {
    const [first, second] = [passing(was.get(key)), passing(is.get(key))]
    const [opened, closed] = [minus(second, first), minus(first, second)]
    const [from = '', to = ''] = key.split('>')
    return isNothing(opened) && isNothing(closed) ? [] : [{ from, to, opened, closed }]
  })
}
