import { planToText } from '#contracts/plan'
import { TABLES } from '#core/export'
import { csvText } from '#server/platform/csv'
import { refused } from '#server/platform/route'
import { currentPlan } from './plans'

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
    text: csvText([table.columns, ...table.rows(plan)]),
    type: 'text/csv; charset=utf-8',
    name: `${slug}-${file}`,
  }
}
