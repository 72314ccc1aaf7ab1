import Papa from 'papaparse'
import { planToText } from '#contracts/plan'
import { TABLES } from '#core/export'
import { refused } from '#server/platform/route'
import { currentPlan } from './plans'

/** RFC 4180 text; cells that a spreadsheet would run as a formula are made harmless. */
const csv = (columns: readonly string[], rows: readonly (readonly string[])[]): string =>
  `${Papa.unparse([[...columns], ...rows.map((r) => [...r])], { escapeFormulae: true })}\r\n`

/** Error: no-such-file. */
export async function exported(
  slug: string,
  file: string,
): Promise<{ text: string; type: string; name: string }> {
  const { plan } = await currentPlan(slug)
  if (file === 'site.json')
    return { text: planToText(plan), type: 'application/json', name: `${slug}-site.json` }
  const [, name = ''] = /^(\w+)\.csv$/.exec(file) ?? []
  const table = Object.hasOwn(TABLES, name) ? TABLES[name] : undefined
  if (!table) throw refused(404, 'no-such-file', file)
  return {
    text: csv(table.columns, table.rows(plan)),
    type: 'text/csv; charset=utf-8',
    name: `${slug}-${file}`,
  }
}
