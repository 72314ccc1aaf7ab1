import { asc, count, eq } from 'drizzle-orm'
import type { TemplateSummary } from '#contracts/api'
import type { Plan } from '#core/schema'
import { templates } from '#server/db/schema'
import type { Queries } from '#server/platform/database'

const { id, name, keptAt, keptBy } = templates

/** By name, without the plans themselves. */
export async function allTemplates(queries: Queries): Promise<TemplateSummary[]> {
  const rows = await queries.select({ id, name, keptAt, keptBy }).from(templates).orderBy(asc(name))
  return rows.map((row) => ({ ...row, keptAt: row.keptAt.toISOString() }))
}

export async function countTemplates(queries: Queries): Promise<number> {
  const [row] = await queries.select({ all: count() }).from(templates)
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
  const [made] = await queries.insert(templates).values(entry).onConflictDoNothing().returning({ id })
  return made?.id ?? null
}

export async function templateWith(queries: Queries, templateId: number) {
  const [row] = await queries.select().from(templates).where(eq(id, templateId))
  return row ?? null
}

/** False where there was none. */
export async function removeTemplate(queries: Queries, templateId: number): Promise<boolean> {
  return (await queries.delete(templates).where(eq(id, templateId)).returning({ id })).length > 0
}
