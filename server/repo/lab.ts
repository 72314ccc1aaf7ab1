import { asc, eq, inArray } from 'drizzle-orm'
import type { LabFault } from '#core/simulator'
import { labDevices, labFaults, sites } from '#server/db/schema'
import type { Queries } from '#server/platform/database'

export type LabRow = typeof labDevices.$inferSelect
export type NewLabDevice = typeof labDevices.$inferInsert

export async function shelfOf(queries: Queries, siteId: number): Promise<LabRow[]> {
  return queries
    .select()
    .from(labDevices)
    .where(eq(labDevices.siteId, siteId))
    .orderBy(asc(labDevices.label), asc(labDevices.serial))
}

export async function labDeviceWith(queries: Queries, serial: string) {
  const [found] = await queries
    .select({ device: labDevices, slug: sites.slug })
    .from(labDevices)
    .innerJoin(sites, eq(sites.id, labDevices.siteId))
    .where(eq(labDevices.serial, serial))
  return found ?? null
}

export async function changeLabDevice(
  queries: Queries,
  serial: string,
  change: Partial<Pick<LabRow, 'power' | 'sign' | 'firmware' | 'factory'>>,
): Promise<void> {
  await queries.update(labDevices).set(change).where(eq(labDevices.serial, serial))
}

/** After a restart no stand-in is running: what was under way is off. */
export async function switchOffStarting(queries: Queries): Promise<void> {
  await queries.update(labDevices).set({ power: 'off', sign: 'none' }).where(eq(labDevices.power, 'starting'))
}

export async function addLabDevice(queries: Queries, device: NewLabDevice): Promise<void> {
  await addLabDevices(queries, [device])
}

export async function addLabDevices(queries: Queries, devices: readonly NewLabDevice[]): Promise<void> {
  if (devices.length > 0)
    await queries
      .insert(labDevices)
      .values([...devices])
      .onConflictDoNothing()
}

export async function removeLabDevices(queries: Queries, serials: readonly string[]): Promise<void> {
  if (serials.length > 0) await queries.delete(labDevices).where(inArray(labDevices.serial, [...serials]))
}

export async function faultOf(queries: Queries, siteId: number): Promise<LabFault | null> {
  const [row] = await queries.select().from(labFaults).where(eq(labFaults.siteId, siteId))
  return row?.fault ?? null
}

export async function setFault(queries: Queries, siteId: number, fault: LabFault): Promise<void> {
  await queries.insert(labFaults).values({ siteId, fault })
}
