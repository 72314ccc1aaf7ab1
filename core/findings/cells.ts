// What a cell of the reach matrix says, as findings need it.
import { minus, NOTHING, union, type ServiceSet } from '#core/filter'
import { cellsOf, type MatrixCell, type ReachabilityMatrix } from '#core/reachability'

/** What passes in a cell, for some at least. */
export const passing = (cell: MatrixCell | undefined): ServiceSet =>
  cell ? union(cell.allPairs, cell.somePairs) : NOTHING
export const cellIn = (matrix: ReachabilityMatrix, from: string, to: string): MatrixCell | undefined =>
  cellsOf(matrix)(from, to)

/**
 * What passes by IPv6 in a cell and no intent asks for, beyond what IPv4 lets through unasked as well.
 * @param four the matrix of IPv4
 */
export const ipv6Excess = (ipv4: ReachabilityMatrix, cell: MatrixCell): ServiceSet =>
  minus(cell.unexpected, cellIn(ipv4, cell.from, cell.to)?.unexpected ?? NOTHING)
