import { askHeavy } from '#server/platform/heavy'
import { refused } from '#server/platform/route'
import { currentPlan } from './plans'

/** Error: no-such-file. */
export async function exported(
  slug: string,
  file: string,
): Promise<{ text: string; type: string; name: string }> {
  const { plan } = await currentPlan(slug)
  if (file === 'site.json')
    return { text: await askHeavy('planToText', plan), type: 'application/json', name: `${slug}-site.json` }
  const [, name = ''] = /^(\w+)\.csv$/.exec(file) ?? []
  const text = await askHeavy('tableText', plan, name)
  if (text === null) throw refused(404, 'no-such-file', file)
  return { text, type: 'text/csv; charset=utf-8', name: `${slug}-${file}` }
}
