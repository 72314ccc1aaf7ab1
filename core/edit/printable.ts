// Question: is every text that an edit brings one printable line?
// Method: what the edit left alone is the same object and is not looked into; in the rest, what cannot be printed is
// taken out as a field of one line would.
// Source: the schema's own rule, see `isPrintableLine`.
import { isPrintableLine, printableLine } from '#core/format'
import type { Plan } from '#core/schema'

function cleaned(before: unknown, after: unknown): unknown {
  if (before === after) return after
  if (typeof after === 'string') return isPrintableLine(after) ? after : printableLine(after)
  if (typeof after !== 'object' || after === null) return after
  const old = (typeof before === 'object' ? (before ?? {}) : {}) as Readonly<Record<string, unknown>>
  const entries = Object.entries(after).map(([key, item]) => [key, cleaned(old[key], item)] as const)
  if (entries.every(([key, item]) => item === (after as Readonly<Record<string, unknown>>)[key])) return after
  return Array.isArray(after) ? entries.map(([, item]) => item) : Object.fromEntries(entries)
}

/** The plan after an edit, its new texts as printable lines; the very same where they are already. */
export const withPrintableTexts = (before: Plan, after: Plan): Plan => cleaned(before, after) as Plan
