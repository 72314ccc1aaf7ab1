import type { SiteSummary, TemplateSummary } from '#contracts/api'
import type { Plan } from '#core/schema'
import { api, type Answer } from '~/stores/api'

/** What a new site begins with. */
export type Beginning =
  | { readonly kind: 'plan'; readonly plan: Plan }
  | { readonly kind: 'copy'; readonly slug: string; readonly name: string }
  | { readonly kind: 'template'; readonly id: number; readonly name: string }

const isEmpty = (beginning: Beginning): boolean =>
  beginning.kind === 'plan' && beginning.plan.networks.length === 0

/** The sheet that is looked at first: what was laid out, or what is known of an empty site. */
export const firstSheetOf = (beginning: Beginning): string => (isEmpty(beginning) ? 'brief' : 'loom')

export async function beginSite(beginning: Beginning): Promise<Answer<SiteSummary>> {
  if (beginning.kind === 'copy') return api('POST', `sites/${beginning.slug}/copy`, { name: beginning.name })
  if (beginning.kind === 'template')
    return api('POST', `templates/${beginning.id}/site`, { name: beginning.name })
  // With it comes what judges a whole plan: loaded when it is wanted.
  const { planToText } = await import('#contracts/plan')
  return api('POST', 'sites', {
    text: planToText(beginning.plan),
    words: isEmpty(beginning) ? 'begun empty' : 'begun with a first plan',
  })
}

export const readTemplates = (): Promise<Answer<TemplateSummary[]>> => api('GET', 'templates')

export const removeTemplate = (id: number): Promise<Answer<unknown>> => api('DELETE', `templates/${id}`)

export const keepTemplate = (slug: string, name: string): Promise<Answer<TemplateSummary>> =>
  api('POST', `sites/${slug}/template`, { name })
