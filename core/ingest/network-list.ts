// Question: which networks does this spreadsheet list?
// Method: columns are found by their heading, in any order; every cell is checked before anything is used.
import { formatIpv4, parseIpv4, parsePrefix4, parseRange4 } from '#core/address'
import { ok, problem, refuse, type Problem, type Result } from '#core/util'

export interface NetworkRow {
  readonly vlan: number
  readonly name: string
  readonly subnet: string
  readonly gateway: string
  readonly pool: { readonly from: string; readonly to: string } | null
}

const HEADINGS: Readonly<Record<string, 'vlan' | 'name' | 'subnet' | 'gateway' | 'pool'>> = {
  vlan: 'vlan',
  'vlan id': 'vlan',
  vid: 'vlan',
  name: 'name',
  network: 'name',
  subnet: 'subnet',
  prefix: 'subnet',
  gateway: 'gateway',
  pool: 'pool',
  'dhcp pool': 'pool',
}
const NEEDED = ['vlan', 'name', 'subnet', 'gateway'] as const

/** Most rows read at once; a site has at most 4094 VLANs. */
export const MOST_ROWS = 4094

function parsePool(text: string, place: string): Result<NetworkRow['pool']> {
  if (text === '' || text === '-' || text === '—') return ok(null)
  const range = parseRange4(text, place)
  return range.ok ? ok({ from: formatIpv4(range.value.from), to: formatIpv4(range.value.to) }) : range
}

function parseRow(
  cell: (column: 'vlan' | 'name' | 'subnet' | 'gateway' | 'pool') => string,
  row: number,
): Result<NetworkRow> {
  const place = (column: string) => `row ${row}, column "${column}"`
  const problems: Problem[] = []
  const vlanText = cell('vlan')
  const vlan = Number(vlanText)
  if (!/^\d{1,4}$/.test(vlanText) || vlan < 1 || vlan > 4094)
    problems.push(problem('not-a-vlan', place('vlan'), { text: vlanText }))
  const name = cell('name')
  if (name === '' || name.length > 60)
    problems.push(problem('no-name', place('name'), { text: name.slice(0, 60) }))
  const subnet = parsePrefix4(cell('subnet'), place('subnet'))
  const gateway = parseIpv4(cell('gateway'), place('gateway'))
  const pool = parsePool(cell('pool'), place('pool'))
  for (const part of [subnet, gateway, pool]) if (!part.ok) problems.push(...part.problems)
  if (problems.length > 0 || !pool.ok) return refuse(...problems)
  return ok({ vlan, name, subnet: cell('subnet'), gateway: cell('gateway'), pool: pool.value })
}

/**
 * Reads a table whose first row is its heading; the heading is row 1.
 * Errors name the row and column; all of them are told, and nothing is used while there is one.
 * Problems: no-heading, too-many-rows, not-a-vlan, no-name, vlan-twice, and those of addresses and prefixes.
 */
export function readNetworkList(rows: readonly (readonly string[])[]): Result<readonly NetworkRow[]> {
  const heading = rows[0] ?? []
  const at = new Map<string, number>()
  heading.forEach((text, i) => {
    const column = HEADINGS[text.trim().toLowerCase()]
    if (column !== undefined && !at.has(column)) at.set(column, i)
  })
  const absent = NEEDED.filter((column) => !at.has(column))
  if (absent.length > 0) return refuse(problem('no-heading', 'row 1', { columns: absent.join(', ') }))
  if (rows.length - 1 > MOST_ROWS)
    return refuse(problem('too-many-rows', `row ${MOST_ROWS + 2}`, { most: MOST_ROWS }))
  const out: NetworkRow[] = []
  const problems: Problem[] = []
  const seen = new Map<number, number>()
  rows.slice(1).forEach((cells, i) => {
    if (cells.every((c) => c.trim() === '')) return
    const row = i + 2
    const read = parseRow((column) => cells[at.get(column) ?? -1]?.trim() ?? '', row)
    if (!read.ok) {
      problems.push(...read.problems)
      return
    }
    const first = seen.get(read.value.vlan)
    if (first !== undefined)
      problems.push(problem('vlan-twice', `row ${row}, column "vlan"`, { text: read.value.vlan, row: first }))
    seen.set(read.value.vlan, row)
    out.push(read.value)
  })
  return problems.length > 0 ? refuse(...problems) : ok(out)
}
