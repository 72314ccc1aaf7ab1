import Papa from 'papaparse'
import type { Roster, RosterRow, Stranger } from '#contracts/api'
import { groupBy } from '#core/util'
import { isManaged, type AdoptionEvent } from '#core/adopt'
import { readSerialList, type ClaimRow } from '#core/ingest'
import { parseSerial } from '#core/queries'
import type { Plan, DeviceId } from '#core/schema'
import * as repo from '#server/repo/adoption'
import { now } from '#server/platform/clock'
import { keeper } from '#server/platform/keeper'
import { database, type Queries } from '#server/platform/database'
import { tell } from '#server/platform/news'
import { Refused, refused } from '#server/platform/route'
import { settings } from '#server/platform/settings'
import { currentPlan, siteAndPlan, siteOf } from './plans'

type Heard = Awaited<ReturnType<typeof repo.eventsOfStrangers>>
const bySerial = (rows: Heard) => groupBy(rows, (row) => row.serial)
/** The newest word matters most and old ones pile up: so many are told of each device. */
const MOST_EVENTS = 60
const eventsIn = (rows: Heard | undefined): AdoptionEvent[] =>
  (rows ?? []).slice(-MOST_EVENTS).map((row) => row.event)

const keep = keeper<Pick<Roster, 'rows' | 'strangers'>>()

export async function rosterOf(slug: string): Promise<Roster> {
  const [
    mark,
    {
      siteId,
      current: { plan, revision, savedAt },
    },
  ] = await Promise.all([repo.rosterMark(database()), siteAndPlan(slug)])
  const told = await keep(siteId, `${revision} ${savedAt} ${mark}`, () => whoIsWhere(siteId, plan))
  return { ...told, silenceLimitMs: settings().silenceLimitMs, nowMs: now().getTime() }
}

async function whoIsWhere(siteId: number, plan: Plan): Promise<Pick<Roster, 'rows' | 'strangers'>> {
  const db = database()
  const [claims, claimed, unclaimed] = await Promise.all([
    repo.claimsOf(db, siteId),
    repo.eventsOfSite(db, siteId),
    repo.eventsOfStrangers(db),
  ])
  const heard = bySerial(claimed)
  const rows = plan.devices.filter(isManaged).map((device): RosterRow => {
    const claim = claims.find((c) => c.deviceId === device.id)
    if (!claim) return { deviceId: device.id, serial: null, claim: null, claimedBy: null, events: [] }
    const { serial, kind: serialKind, claimedAt, claimedBy } = claim
    return {
      deviceId: device.id,
      serial,
      claim: { serialKind, claimedAtMs: claimedAt.getTime() },
      claimedBy,
      events: eventsIn(heard.get(serial)),
    }
  })
  const strangers = [...bySerial(unclaimed)].map(([serial, events]): Stranger => ({
    serial,
    model: events.at(-1)?.model ?? '',
    events: eventsIn(events),
  }))
  return { rows, strangers }
}

async function claimAll(slug: string, rows: readonly ClaimRow[], claimedBy: string): Promise<void> {
  await database().transaction(async (tx) => {
    const site = await siteOf(tx, slug)
    for (const [i, row] of rows.entries()) {
      const made = await repo.addClaim(tx, {
        siteId: site.id,
        deviceId: row.deviceId,
        serial: row.serial,
        kind: row.kind,
        claimedAt: now(),
        claimedBy,
      })
      if (made) continue
      const holder = await repo.claimOfSerial(tx, row.serial)
      // The same claim, made again.
      if (holder?.slug === slug && holder.claim.deviceId === row.deviceId) continue
      const place = rows.length > 1 ? `claim ${i + 1}` : 'serial'
      throw holder
        ? refused(409, 'serial-claimed', place, {
            text: row.serial,
            device: holder.claim.deviceId,
            site: holder.slug,
          })
        : refused(409, 'device-claimed', place, { text: row.deviceId })
    }
    await tell(tx, { site: slug, topic: 'roster' })
  })
}

export async function claimDevice(
  slug: string,
  serialText: string,
  deviceId: DeviceId,
  claimedBy: string,
): Promise<void> {
  const parsed = parseSerial(serialText, 'serial')
  if (!parsed.ok) throw new Refused(400, parsed.problems)
  const { plan } = await currentPlan(slug)
  if (!plan.devices.some((d) => d.id === deviceId && isManaged(d)))
    throw refused(400, 'no-such-device', 'device', { text: deviceId })
  await claimAll(slug, [{ ...parsed.value, deviceId }], claimedBy)
}

/** Claims a pasted list: all of it, or nothing. */
export async function claimList(slug: string, csv: string, claimedBy: string): Promise<number> {
  const { plan } = await currentPlan(slug)
  const table = Papa.parse<string[]>(csv, { skipEmptyLines: false })
  const rows = readSerialList(table.data, plan.devices.filter(isManaged))
  if (!rows.ok) throw new Refused(400, rows.problems)
  await claimAll(slug, rows.value, claimedBy)
  return rows.value.length
}

export async function releaseClaim(slug: string, serial: string): Promise<void> {
  await database().transaction(async (tx) => {
    const site = await siteOf(tx, slug)
    if (!(await repo.removeClaim(tx, site.id, serial))) throw refused(404, 'no-such-claim', serial)
    await tell(tx, { site: slug, topic: 'roster' })
  })
}

/** Keeps what was heard of a serial and tells whoever watches. */
export async function hearOf(
  queries: Queries,
  serial: string,
  model: string,
  event: AdoptionEvent,
): Promise<void> {
  await repo.addEvent(queries, serial, model, event)
  const holder = await repo.claimOfSerial(queries, serial)
  await tell(queries, { site: holder?.slug ?? '', topic: 'roster' })
}
