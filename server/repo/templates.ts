import { and, asc, count, eq } from 'drizzle-orm'
import type { TemplateSummary } from '#contracts/api'
import type { Plan } from '#core/schema'
import { templates } from '#server/db/schema'
import type { Queries } from '#server/platform/database'
import { organisationNow } from '#server/platform/scope'

const { id, name, keptAt, keptBy } = templates
const mine = () => eq(templates.organisationId, organisationNow())

/** By name, without the plans themselves. */
export async function allTemplates(queries: Queries): Promise<TemplateSummary[]> {
  const rows = await queries
    .select({ id, name, keptAt, keptBy })
    .from(templates)
    .where(mine())
    .orderBy(asc(name))
  return rows.map((row) => ({ ...row, keptAt: row.keptAt.toISOString() }))
}

export async function countTemplates(queries: Queries): Promise<number> {
  const [row] = await queries.select({ all: count() }).from(templates).where(mine())
  return row?.all ?? 0
}

export interface NewTemplate {
  readonly name: string
  readonly document: Plan
  readonly keptAt: Date
  readonly keptBy: string
}

/** Null where the name is taken. */
export async function addTemplate(queries: Queries, entry: NewTemplate): Promise<number | null> {
  const [made] = await queries
    .insert(templates)
    .values({ organisationId: organisationNow(), ...entry })
    .onConflictDoNothing()
    .returning({ id })
  return made?.id ?? null
}

export async function templateWith(queries: Queries, templateId: number) {
  const [row] = await queries
    .select()
    .from(templates)
    .where(and(eq(id, templateId), mine()))
  return row ?? null
}

/** False where there was none. */
export async function removeTemplate(queries: Queries, templateId: number): Promise<boolean> {
  return (
    (
      await queries
        .delete(templates)
        .where(and(eq(id, templateId), mine()))
        .returning({ id })
    ).length > 0
  )
}
