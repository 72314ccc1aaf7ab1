import type { AuditCheck, AuditLine, AuditQuery, AuditAction } from '#contracts/audit'
import { AUDIT_PAGE } from '#contracts/limits'
import { printableLine } from '#core/format'
import { now } from '#server/platform/clock'
import { csvText } from '#server/platform/csv'
import { database } from '#server/platform/database'
import { chainHash } from '#server/platform/secrets'
import { addLine, linesAfter, linesBefore, type AuditRow, type NewAuditRow } from '#server/repo/audit'

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
}

const short = (text: string): string => printableLine(text).slice(0, MOST_TEXT)

/** What a line says, as what its hash is made from: always written alike. */
const saidBy = ({ at, who, what, site, subject, address }: NewAuditRow): string =>
  JSON.stringify([at.toISOString(), who, what, site, subject, address])

export async function note({ who, what, site, subject, address }: Done): Promise<void> {
  const line = { at: now(), who: short(who), what, site: short(site), subject: short(subject), address }
  await addLine(database(), line, (before) => chainHash(before, saidBy(line)))
}

const lineOf = ({ id, at, who, what, site, subject, address }: AuditRow): AuditLine => ({
  id,
  at: at.toISOString(),
  who,
  what: what as AuditAction,
  site,
  subject,
  address,
})

export const listAudit = async (query: AuditQuery): Promise<AuditLine[]> =>
  (await linesBefore(database(), query, AUDIT_PAGE)).map(lineOf)

/** Every line, oldest first, in batches. */
async function* allLines(): AsyncGenerator<AuditRow> {
  for (let last = 0; ;) {
    const batch = await linesAfter(database(), last, BATCH)
    yield* batch
    const newest = batch.at(-1)
    if (!newest) return
    last = newest.id
  }
}

/** Reads the whole chain anew. */
export async function checkAudit(): Promise<AuditCheck> {
  let [count, before, brokenAt]: [number, string, number | null] = [0, '', null]
  for await (const row of allLines()) {
    if (brokenAt === null && row.hash !== chainHash(before, saidBy(row))) brokenAt = row.id
    before = row.hash
    count++
  }
  return { count, brokenAt, newest: before }
}

export async function exportAudit(): Promise<string> {
  const rows: string[][] = [['id', 'at', 'who', 'what', 'site', 'subject', 'address', 'hash']]
  for await (const row of allLines()) {
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
