// Question: is this data a plan, and what of it is not?
// Method: older versions are raised, the schema judges the rest; a plan is written in the schema's order.
// Source: docs/file-formats.md.
import { z } from './zod'
import { PLAN_FORMAT, PLAN_VERSION } from '#core/format'
import { danglingReferences, failableLists } from '#core/queries'
import { planSchema, upgradePlan, type Plan } from '#core/schema'
import { ok, problem, refuse, type Problem, type Result } from '#core/util'
import { readJson } from './json'

/** Largest plan file read, in bytes: a site of 100,000 fixed addresses takes some 25 MB. */
export const MOST_PLAN_BYTES = 40_000_000

/** Words of an issue's path, as a person finds them in the file: `networks[2].gateway`. */
export function placeOf(path: readonly PropertyKey[]): string {
  return path.reduce<string>((text, key) => {
    if (typeof key === 'number') return `${text}[${key}]`
    if (text === '') return String(key)
    return `${text}.${String(key)}`
  }, '')
}

/** Most problems told of one file. */
const MOST_TOLD = 20

const REFINED: Readonly<Record<string, string>> = {
  ipv4: 'not-ipv4',
  ipv6: 'not-ipv6',
  sim: 'not-a-sim',
  apn: 'not-an-apn',
  prefix: 'not-prefix',
  prefix6: 'not-prefix6',
  mac: 'not-eui48',
  key: 'not-a-key',
  passphrase: 'not-a-passphrase',
  endpoint: 'not-an-endpoint',
  time: 'not-a-time',
  printable: 'not-printable',
  domain: 'not-a-domain',
}

/** Fields that are not told of again, not even to whoever sent them. */
const SECRET = /^(password|current|wanted|token|privateKey|passphrase)$/

export function problemsOf(error: z.ZodError, input: unknown): Problem[] {
  return error.issues.slice(0, MOST_TOLD).map((issue) => {
    const met = issue.path.reduce<unknown>(
      (node, key) =>
        typeof node === 'object' && node !== null ? (node as Record<PropertyKey, unknown>)[key] : undefined,
      input,
    )
    const isTold =
      (typeof met === 'string' || typeof met === 'number') && !SECRET.test(String(issue.path.at(-1)))
    const text = isTold ? String(met).slice(0, 80) : ''
    const code = issue.code === 'custom' ? (REFINED[issue.message] ?? 'not-allowed') : 'not-allowed'
    return problem(code, placeOf(issue.path), { text, reason: issue.message })
  })
}

const idOf = (item: unknown): unknown =>
  typeof item === 'object' && item !== null && 'id' in item ? item.id : undefined

/** Items of any list in a document whose id was used before in that list: lookups by id would miss them. */
function repeatedIds(node: unknown, path: readonly PropertyKey[] = []): Problem[] {
  if (typeof node !== 'object' || node === null) return []
  const inner = Object.entries(node).flatMap(([key, child]) =>
    repeatedIds(child, [...path, Array.isArray(node) ? Number(key) : key]),
  )
  if (!Array.isArray(node)) return inner
  const seen = new Set<unknown>()
  const own = node.flatMap((item, i) => {
    const id = idOf(item)
    if (typeof id !== 'string' || seen.size < seen.add(id).size) return []
    return [problem('id-twice', placeOf([...path, i, 'id']), { text: id })]
  })
  return [...own, ...inner]
}

/** Ids of what can fail that something of another kind has as well: a failure scenario could not tell them apart. */
function sharedIds(plan: Plan): Problem[] {
  const owners = new Map<string, string>()
  return failableLists(plan).flatMap(({ kind, path, items }) =>
    items.flatMap(({ id }, i) => {
      const owner = owners.get(id) ?? kind
      owners.set(id, owner)
      return owner === kind ? [] : [problem('id-twice', placeOf([...path, i, 'id']), { text: id })]
    }),
  )
}

/** Cables, SSIDs, forwards, routes and wishes that name what is not there, or what is taken. */
const unnamed = (plan: Plan): Problem[] =>
  danglingReferences(plan).map(({ code, path, text }) => problem(code, placeOf(path), { text }))

/**
 * Networks and peers of a plan at most: each meets each, so that a thousand make a million answers, which take a
 * computer some two seconds and 200 MB.
 */
export const MOST_ZONES = 1000

function crowded({ networks, tunnels }: Plan): Problem[] {
  const count = tunnels.reduce((sum, { peers }) => sum + peers.length, networks.length)
  return count > MOST_ZONES ? [problem('too-many-zones', 'networks', { count, most: MOST_ZONES })] : []
}

/**
 * Reads a plan from data, of this version or an older one.
 * Problems: not-a-plan, newer-version, id-twice, names-nothing, port-taken, from-after-to, too-many-zones, and one for
 * each field that is not allowed.
 */
export function parsePlan(input: unknown): Result<Plan> {
  const head = z.object({ format: z.literal(PLAN_FORMAT), version: z.number().int() }).safeParse(input)
  if (!head.success) return refuse(problem('not-a-plan', placeOf(head.error.issues[0]?.path ?? [])))
  if (head.data.version > PLAN_VERSION)
    return refuse(problem('newer-version', 'version', { version: head.data.version, known: PLAN_VERSION }))
  const document = upgradePlan(input as Record<string, unknown>)
  const parsed = planSchema.safeParse(document)
  if (!parsed.success) return refuse(...problemsOf(parsed.error, document))
  const plan: Plan = parsed.data
  const wrong = [...repeatedIds(plan), ...sharedIds(plan), ...unnamed(plan), ...crowded(plan)]
  return wrong.length > 0 ? refuse(...wrong.slice(0, MOST_TOLD)) : ok(plan)
}

/** Reads a plan file. Size is checked before anything else, so that garbage costs nothing. */
export function parsePlanText(text: string): Result<Plan> {
  if (text.length > MOST_PLAN_BYTES)
    return refuse(problem('too-large', '', { bytes: text.length, most: MOST_PLAN_BYTES }))
  const read = readJson(text)
  return read.ok ? parsePlan(read.value) : read
}

/**
 * The plan as a file: keys in the schema's order, two spaces, a final newline.
 * The same plan gives the same bytes.
 */
export function planToText(plan: Plan): string {
  return `${JSON.stringify(planSchema.parse(plan), null, 2)}\n`
}
