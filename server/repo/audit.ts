import { and, asc, desc, eq, gt, isNull, lt, or, sql, type SQL } from 'drizzle-orm'
import type { AuditAction, AuditQuery } from '#contracts/audit'
import { auditLines } from '#server/db/schema'
import type { Queries } from '#server/platform/database'

export type AuditRow = typeof auditLines.$inferSelect
export type NewAuditRow = Omit<typeof auditLines.$inferInsert, 'id' | 'hash'>

/** One line is added after the other, by whichever server, so that each follows from the one before. */
const LINE_LOCK = 610_063

/** @param hashOf the hash of a line after the one that has a hash; the first comes after an empty one */
export async function addLine(
  queries: Queries,
  line: NewAuditRow,
  hashOf: (before: string) => string,
): Promise<void> {
  await queries.transaction(async (tx) => {
    await tx.execute(sql`select pg_advisory_xact_lock(${LINE_LOCK})`)
    const [last] = await tx
      .select({ hash: auditLines.hash })
      .from(auditLines)
      .orderBy(desc(auditLines.id))
      .limit(1)
    await tx.insert(auditLines).values({ ...line, hash: hashOf(last?.hash ?? '') })
  })
}

/** An organisation; who operates the installation reads what is of none, too. */
export interface Readers {
  readonly organisationId: number
  readonly isOperator: boolean
}
const readableBy = ({ organisationId, isOperator }: Readers): SQL | undefined =>
  or(
    eq(auditLines.organisationId, organisationId),
    isOperator ? isNull(auditLines.organisationId) : undefined,
  )

/** How often something was done since, in an organisation. */
export const countLines = (
  queries: Queries,
  organisationId: number,
  what: AuditAction,
  since: Date,
): Promise<number> =>
  queries.$count(
    auditLines,
    and(eq(auditLines.organisationId, organisationId), eq(auditLines.what, what), gt(auditLines.at, since)),
  )

/** Newest first. */
export const linesBefore = (
  queries: Queries,
  readers: Readers,
  { before, who, what, site }: AuditQuery,
  most: number,
): Promise<AuditRow[]> =>
  queries
    .select()
    .from(auditLines)
    .where(
      and(
        readableBy(readers),
        before === undefined ? undefined : lt(auditLines.id, before),
        who === undefined ? undefined : eq(auditLines.who, who),
        what === undefined ? undefined : eq(auditLines.what, what),
        site === undefined ? undefined : eq(auditLines.site, site),
      ),
    )
    .orderBy(desc(auditLines.id))
    .limit(most)

/** Oldest first. */
export const linesAfter = (
  queries: Queries,
  id: number,
  most: number,
  readers?: Readers,
): Promise<AuditRow[]> =>
  queries
    .select()
    .from(auditLines)
    .where(and(gt(auditLines.id, id), readers && readableBy(readers)))
    .orderBy(asc(auditLines.id))
    .limit(most)
