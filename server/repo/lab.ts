import { asc, eq } from 'drizzle-orm'
import type { LabFault } from '#core/simulator'
import { labDevices, labFaults, sites } from '#server/db/schema'
import type { Queries } from '#server/platform/database'

export type LabRow = typeof labDevices.$inferSelect

export async function shelfOf(q: Queries, siteId: number): Promise<LabRow[]> {
  return q
    .select()
    .from(labDevices)
    .where(eq(labDevices.siteId, siteId))
    .orderBy(asc(labDevices.label), asc(labDevices.serial))
}

export async function labDeviceWith(q: Queries, serial: string) {
  const [found] = await q
    .select({ device: labDevices, slug: sites.slug })
    .from(labDevices)
    .innerJoin(sites, eq(sites.id, labDevices.siteId))
    .where(eq(labDevices.serial, serial))
  return found ?? null
}

export async function changeLabDevice(
  q: Queries,
  serial: string,
  change: Partial<Pick<LabRow, 'power' | 'sign' | 'firmware' | 'factory'>>,
): Promise<void> {
  await q.update(labDevices).set(change).where(eq(labDevices.serial, serial))
}

/** After a restart no stand-in is running: what was under way is off. */
export async function switchOffStarting(q: Queries): Promise<void> {
  await q.update(labDevices).set({ power: 'off', sign: 'none' }).where(eq(labDevices.power, 'starting'))
}

export async function addLabDevice(q: Queries, device: typeof labDevices.$inferInsert): Promise<void> {
  await q.insert(labDevices).values(device)
}

export async function faultOf(q: Queries, siteId: number): Promise<LabFault | null> {
  const [row] = await q.select().from(labFaults).where(eq(labFaults.siteId, siteId))
  return row?.fault ?? null
}

export async function setFault(q: Queries, siteId: number, fault: LabFault): Promise<void> {
  await q.insert(labFaults).values({ siteId, fault })
}
