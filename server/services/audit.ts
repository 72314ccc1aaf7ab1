import type { AuditCheck, AuditLine, AuditQuery, AuditAction } from '#contracts/audit'
import { AUDIT_PAGE } from '#contracts/limits'
import { printableLine } from '#core/format'
import { now } from '#server/platform/clock'
import { csvText } from '#server/platform/csv'
import { database } from '#server/platform/database'
import { chainHash, keyAgeOf, OLDEST_KEY } from '#server/platform/secrets'
import { personNamed } from '#server/repo/people'
import type { Visitor } from '#server/platform/route'
import { asServer } from '#server/platform/scope'
import {
  addLine,
  linesAfter,
  linesBefore,
  type AuditRow,
  type NewAuditRow,
  type Readers,
} from '#server/repo/audit'

const BATCH = 5000
/** Most lines of an export. */
const MOST_EXPORTED = 200_000
const MOST_TEXT = 200

export interface Done {
  readonly who: string
  readonly what: AuditAction
  readonly site: string
  readonly subject: string
  readonly address: string
  /** Whose line it is; null for what is of none. */
  readonly organisationId: number | null
}

const short = (text: string): string => printableLine(text).slice(0, MOST_TEXT)

/** What a line says, as what its hash is made from: always written alike. */
const saidBy = ({ at, who, what, site, subject, address, organisationId }: NewAuditRow): string =>
  JSON.stringify([
    at.toISOString(),
    who,
    what,
    site,
    subject,
    address,
    // Lines from before there were organisations do not name one.
    ...(organisationId == null ? [] : [organisationId]),
  ])

export async function note({ who, site, subject, ...done }: Done): Promise<void> {
  const line = { ...done, at: now(), who: short(who), site: short(site), subject: short(subject) }
  // A line follows from the one before, whosever that is.
  await asServer(() => addLine(database(), line, (before) => chainHash(before, saidBy(line))))
}

/** Organisation of somebody who is not signed in yet; null for a name that nobody has. */
export const organisationOfName = async (name: string): Promise<number | null> =>
  (await asServer(() => personNamed(database(), name)))?.organisationId ?? null

/** Whose lines somebody reads: their organisation's, and who operates the installation those of none. */
const readBy = ({ organisation, isOperator }: Visitor): Readers => ({
  organisationId: organisation.id,
  isOperator,
})

const lineOf = ({ id, at, who, what, site, subject, address }: AuditRow): AuditLine => ({
  id,
  at: at.toISOString(),
  who,
  what: what as AuditAction,
  site,
  subject,
  address,
})

export const listAudit = async (query: AuditQuery, by: Visitor): Promise<AuditLine[]> =>
  (await asServer(() => linesBefore(database(), readBy(by), query, AUDIT_PAGE))).map(lineOf)

/** Lines, oldest first, in batches: every one, or those that somebody may read. */
async function* allLines(readers?: Readers): AsyncGenerator<AuditRow> {
  for (let last = 0; ;) {
    const from = last
    const batch = await asServer(() => linesAfter(database(), from, BATCH, readers))
    yield* batch
    const newest = batch.at(-1)
    if (!newest) return
    last = newest.id
  }
}

/** Reads the whole chain anew. */
export async function checkAudit(): Promise<AuditCheck> {
  let [count, before, brokenAt]: [number, string, number | null] = [0, '', null]
  // Keys follow one another: after a line under one, none is taken under a key from before it.
  let oldest = OLDEST_KEY
  for await (const row of allLines()) {
    const age = keyAgeOf(row.hash, before, saidBy(row), oldest)
    if (age === null) brokenAt ??= row.id
    oldest = age ?? oldest
    before = row.hash
    count++
  }
  return { count, brokenAt, newest: before }
}

export async function exportAudit(by: Visitor): Promise<string> {
  const rows: string[][] = [['id', 'at', 'who', 'what', 'site', 'subject', 'address', 'hash']]
  for await (const row of allLines(readBy(by))) {
    if (rows.length > MOST_EXPORTED) break
    rows.push([
      String(row.id),
      row.at.toISOString(),
      row.who,
      row.what,
      row.site,
      row.subject,
      row.address,
      row.hash,
    ])
  }
  return csvText(rows)
}
