import type { SiteLine } from '#contracts/api'
import { SITES_PAGE } from '#contracts/limits'
import { readOrRemember, type ReadAnswer } from './kept-answers'

/**
 * Reads all sites, page by page; where nobody answers, those that were read last.
 * @param show called with what is there so far, at each page
 */
export async function readSites(
  person: string,
  show: (sites: readonly SiteLine[]) => void = () => undefined,
): Promise<ReadAnswer<readonly SiteLine[]>> {
  let sites: readonly SiteLine[] = []
  for (;;) {
    const last = sites.at(-1)?.slug
    const query = last === undefined ? '' : `?after=${encodeURIComponent(last)}`
    const answer = await readOrRemember<readonly SiteLine[]>(person, `sites${query}`)
    if (!answer.ok) return answer
    sites = [...sites, ...answer.value]
    show(sites)
    if (answer.value.length < SITES_PAGE) return { ok: true, value: sites }
  }
}
