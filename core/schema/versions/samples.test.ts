import { readdirSync, readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { parsePlan, planToText } from '#contracts/plan'
import { PLAN_VERSION } from '#core/format'

const FOLDER = 'tests/fixtures/plans'
const versions = readdirSync(FOLDER).map((file) => Number(/^version-(\d+)\.json$/.exec(file)?.[1]))
const sampleOf = (version: number): Record<string, unknown> =>
  JSON.parse(readFileSync(`${FOLDER}/version-${version}.json`, 'utf8'))

/** Where an older document says something that the newer one does not say at the same place. */
function lost(old: unknown, now: unknown, place = ''): string[] {
  if (typeof old !== 'object' || old === null) return Object.is(old, now) ? [] : [place]
  if (typeof now !== 'object' || now === null) return [place]
  const fields = now as Record<string, unknown>
  return Object.entries(old).flatMap(([key, value]) =>
    lost(value, fields[key in fields ? key : (RENAMED[key] ?? key)], `${place}/${key}`),
  )
}
/** Fields with other names since version 10. */
const RENAMED: Readonly<Record<string, string>> = {
  wants: 'homeNetworkId',
  fates: 'sharedRisks',
  fate: 'disposition',
}
/** `facts.cellular` was yes or no before version 7. */
const isReplaced = (place: string): boolean =>
  place === '/version' || place.endsWith('/facts/cellular') || isDangling(place)
/** Since version 10 nothing names what is not there: the samples name access points that they leave out. */
const isDangling = (place: string): boolean => place.startsWith('/ssids/0/apIds/')

// The samples of versions 2 to 18 were written by the program of that version; that of version 1 is the second's
// without what it added.
describe('a stored plan', () => {
  it('is there of every version', () => {
    expect(versions.sort((a, b) => a - b)).toEqual(Array.from({ length: PLAN_VERSION }, (_, i) => i + 1))
  })

  it.each([0, -1, 1.5, PLAN_VERSION + 1, '7', null])(
    'of version %j, which there never was, is refused',
    (version) => {
      expect(parsePlan({ ...sampleOf(7), version }).ok).toBe(false)
    },
  )

  it.each(versions)('of version %i opens, and says all that it said', (version) => {
    const old = sampleOf(version)
    expect(old['version']).toBe(version)
    const opened = parsePlan(old)
    if (!opened.ok) throw new Error(JSON.stringify(opened.problems))
    expect(opened.value.version).toBe(PLAN_VERSION)
    expect(lost(old, opened.value).filter((place) => !isReplaced(place))).toEqual([])
    expect(parsePlan(JSON.parse(planToText(opened.value)))).toEqual(opened)
  })
})
