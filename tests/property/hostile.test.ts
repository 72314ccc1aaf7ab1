import { hostileName, renamed } from '../fixtures/hostile'
import { inOldWords } from '../fixtures/old-words'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { parsePlan } from '#contracts/plan'
import { deviceFiles, devicesWithFiles } from '#core/export'
import { withPrintableTexts } from '#core/edit'
import type { Plan } from '#core/schema'
import { gullhavenPlan } from '#server/demo/gullhaven'

// Unicode 15: general categories Cc, Cs, Zl, Zp, and the property Bidi_Control (UAX 9).
const UNPRINTABLE: readonly (readonly [name: string, character: string])[] = [
  ['NUL', '\u0000'],
  ['the end of a line', '\n'],
  ['a carriage return', '\r'],
  ['a tab', '\t'],
  ['an escape', '\u001B'],
  ['DEL', '\u007F'],
  ['NEL of ISO 6429', '\u0085'],
  ['a line separator', '\u2028'],
  ['a paragraph separator', '\u2029'],
  ['an override to the left', '\u202E'],
  ['an isolate', '\u2066'],
  ['a mark to the right', '\u200F'],
  ['an Arabic letter mark', '\u061C'],
  ['half a surrogate pair', '\uD83D'],
]

type Leaf = { readonly path: readonly (string | number)[]; readonly text: string }
/** Every text of a document. */
function textsOf(node: unknown, path: readonly (string | number)[] = []): Leaf[] {
  if (typeof node === 'string') return [{ path, text: node }]
  if (typeof node !== 'object' || node === null) return []
  return Object.entries(node).flatMap(([key, item]) =>
    textsOf(item, [...path, Array.isArray(node) ? Number(key) : key]),
  )
}
function withText(plan: Plan, path: readonly (string | number)[], text: string): Plan {
  const copy = structuredClone(plan)
  let node = copy as unknown as Record<string | number, unknown>
  for (const key of path.slice(0, -1)) node = node[key] as Record<string | number, unknown>
  node[path.at(-1) ?? ''] = text
  return copy
}
/** One text of each kind of field. */
function oneOfEach(plan: Plan): Leaf[] {
  const kinds = new Map<string, Leaf>()
  for (const leaf of textsOf(plan)) {
    const kind = leaf.path.map((key) => (typeof key === 'number' ? '*' : key)).join('.')
    if (!kinds.has(kind)) kinds.set(kind, leaf)
  }
  return [...kinds.values()]
}

describe('texts of a plan', () => {
  const plan = gullhavenPlan()
  const fields = oneOfEach(plan)

  it.each(UNPRINTABLE)('take no %s, wherever they stand', (_, character) => {
    expect(fields.length).toBeGreaterThan(100)
    const taken = fields.filter(
      ({ path, text }) => parsePlan(withText(plan, path, `${text}${character}x`)).ok,
    )
    expect(taken.map(({ path }) => path.join('.'))).toEqual([])
  })

  it('say where they hold what cannot be printed', () => {
    const read = parsePlan(withText(plan, ['networks', 2, 'name'], 'Two\nlines'))
    expect(read).toMatchObject({
      ok: false,
      problems: [{ code: 'not-printable', place: 'networks[2].name' }],
    })
  })

  it('take other letters, signs and pictures', () => {
    const texts = ['Größe 10 µm', 'Ναυαγοσώστης', 'منارة', '灯台 №7', '👩‍🔧 “on call”']
    for (const text of texts) expect(parsePlan(withText(plan, ['networks', 2, 'name'], text)).ok).toBe(true)
  })

  it('of an older plan become printable as it is opened', () => {
    const old = { ...inOldWords(withText(plan, ['networks', 2, 'name'], 'Two\nlines')), version: 8 }
    const read = parsePlan(old)
    expect(read.ok && read.value.networks[2]?.name).toBe('Two lines')
  })

  // RFC 1123 section 2.1.
  it.each([
    'two words',
    '-edge.example',
    'edge-.example',
    'a..b',
    'dot.example.',
    'x'.repeat(64),
    'a,b',
    'a"b',
  ])('name no domain %j', (domain) => {
    const at = ['networks', 2, 'options', 'domain']
    expect(parsePlan(withText(plan, at, domain))).toMatchObject({
      ok: false,
      problems: [{ code: 'not-a-domain', place: 'networks[2].options.domain' }],
    })
  })
})

const linesOf = (plan: Plan) =>
  devicesWithFiles(plan).flatMap((device) =>
    deviceFiles(plan, device.id, 1).map(
      (file) => `${device.id} ${file.name}: ${file.text.split('\n').length}`,
    ),
  )

describe('files made from a hostile plan', () => {
  const plan = gullhavenPlan()
  const usual = linesOf(renamed(plan, 'Plain'))
  it('have as many lines as with plain names, each', () => {
    fc.assert(
      fc.property(hostileName, (text) => {
        expect(linesOf(renamed(plan, text))).toEqual(usual)
      }),
      { numRuns: 40 },
    )
  })

  it('have none more where the schema is passed by', () => {
    const text = 'x\nPostUp = reboot\r\n[Peer]\u2028reboot'
    expect(linesOf(renamed(plan, text))).toEqual(usual)
  })
})

describe('an edit', () => {
  const plan = gullhavenPlan()
  it('brings printable lines, whatever is pasted, and leaves the rest the same objects', () => {
    const after = withText(plan, ['networks', 2, 'name'], '\u200ETwo\tlines\n')
    const edited = { ...plan, networks: after.networks }
    const cleaned = withPrintableTexts(plan, edited)
    expect(cleaned.networks[2]?.name).toBe('Two lines ')
    expect(cleaned.devices).toBe(plan.devices)
    expect(parsePlan(cleaned).ok).toBe(true)
  })
  it('that brings nothing else is taken as it is', () => {
    const edited = { ...plan, site: { ...plan.site, name: 'Größe' } }
    expect(withPrintableTexts(plan, edited)).toBe(edited)
    expect(withPrintableTexts(plan, plan)).toBe(plan)
  })
  it('that adds or takes out things is cleaned, too', () => {
    const [first, second, ...more] = plan.devices
    const edited = { ...plan, devices: [{ ...first!, place: 'a\u0000b' }, ...more, second!] } as Plan
    expect(withPrintableTexts(plan, edited).devices.map((d) => d.id)).toEqual(edited.devices.map((d) => d.id))
    expect(withPrintableTexts(plan, edited).devices[0]?.place).toBe('a b')
  })
})
