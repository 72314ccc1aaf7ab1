import Papa from 'papaparse'
import type { PastClaim, Roster, RosterRow, Stranger } from '#contracts/api'
import { groupBy } from '#core/util'
import { isManaged, type AdoptionEvent } from '#core/adopt'
import { readSerialList } from '#core/ingest'
import { parseSerial, type SerialKind } from '#core/queries'
import type { Plan, DeviceId } from '#core/schema'
import * as repo from '#server/repo/adoption'
import { now } from '#server/platform/clock'
import { keeper } from '#server/platform/keeper'
import { database, type Queries } from '#server/platform/database'
import { tell } from '#server/platform/news'
import { Refused, refused } from '#server/platform/route'
import { asServer } from '#server/platform/scope'
import { settings } from '#server/platform/settings'
import { keyStatesAt } from './device-keys'
import { currentPlan, siteAndPlan, siteOf } from './plans'
import { enqueueWebhooks } from './webhooks'

type Past = Awaited<ReturnType<typeof repo.pastClaimsOf>>[number]
type Heard = Awaited<ReturnType<typeof repo.eventsOfStrangers>>
const bySerial = (rows: Heard) => groupBy(rows, (row) => row.serial)
/** The newest word matters most and old ones pile up: so many are told of each device. */
const MOST_EVENTS = 60
const eventsIn = (rows: Heard | undefined): AdoptionEvent[] =>
  (rows ?? []).slice(-MOST_EVENTS).map((row) => row.event)

const pastClaim = (claim: Past): PastClaim => ({
  serial: claim.serial,
  claimedAtMs: claim.claimedAt.getTime(),
  releasedAtMs: claim.releasedAt.getTime(),
  releasedBy: claim.releasedBy,
})

const keep = keeper<Pick<Roster, 'rows' | 'strangers'>>()

export async function rosterOf(slug: string): Promise<Roster> {
  const [
    mark,
    {
      siteId,
      current: { plan, revision, savedAt },
    },
  ] = await Promise.all([
    // What is heard of a box that nobody has claimed is of no organisation.
    asServer(() => repo.rosterMark(database(), now())),
    siteAndPlan(slug),
  ])
  const told = await keep(siteId, `${revision} ${savedAt} ${mark}`, () => whoIsWhere(siteId, plan))
  return { ...told, silenceLimitMs: settings().silenceLimitMs, nowMs: now().getTime() }
}

async function whoIsWhere(siteId: number, plan: Plan): Promise<Pick<Roster, 'rows' | 'strangers'>> {
  const db = database()
  const [keys, claims, past, claimed, unclaimed] = await Promise.all([
    keyStatesAt(siteId),
    repo.claimsOf(db, siteId),
    repo.pastClaimsOf(db, siteId),
    repo.eventsOfSite(db, siteId),
    asServer(() => repo.eventsOfStrangers(database(), siteId)),
  ])
  const heard = bySerial(claimed)
  const rows = plan.devices.filter(isManaged).map(({ id: deviceId }): RosterRow => {
    const before = past.filter((claim) => claim.deviceId === deviceId).map(pastClaim)
    const claim = claims.find((other) => other.deviceId === deviceId)
    if (!claim)
      return {
        deviceId,
        serial: null,
        claim: null,
        claimedBy: null,
        key: null,
        saysModel: '',
        past: before,
        events: [],
      }
    const { serial, kind: serialKind, claimedAt, claimedBy } = claim
    const words = heard.get(serial)
    return {
      deviceId,
      serial,
      claim: { serialKind, claimedAtMs: claimedAt.getTime() },
      claimedBy,
      key: keys.get(serial) ?? null,
      saysModel: words?.findLast(({ model }) => model !== '')?.model ?? '',
      past: before,
      events: eventsIn(words),
    }
  })
  const strangers = [...bySerial(unclaimed)].map(([serial, events]): Stranger => ({
    serial,
    model: events.findLast(({ model }) => model !== '')?.model ?? '',
    events: eventsIn(events),
  }))
  return { rows, strangers }
}

type Site = Awaited<ReturnType<typeof siteOf>>

interface Wanted {
  readonly serial: string
  readonly kind: SerialKind
  readonly deviceId: DeviceId
  /** Where it was asked for, as a refusal tells it. */
  readonly place: string
}

/** What is told of a box: what was done with it, or what it said. */
interface Adoption {
  readonly serial: string
  readonly device: DeviceId
  readonly what: string
  readonly who: string
}
const tellAdoption = (tx: Queries, { id, slug }: Pick<Site, 'id' | 'slug'>, told: Adoption): Promise<void> =>
  enqueueWebhooks(tx, id, 'adoption.changed', { site: slug, ...told })

/** What of a box is told to programs; null for what is heard all the time. */
function toldOf(event: AdoptionEvent): string | null {
  if (event.kind === 'refused') return `refused: ${event.reason}`
  return event.kind === 'progress' ? event.type : null
}

/** Claims a serial for a device of a site; refuses where either is taken by another. */
async function claimOne(tx: Queries, site: Site, wanted: Wanted, claimedBy: string): Promise<void> {
  const { serial, kind, deviceId, place } = wanted
  if (await repo.addClaim(tx, { siteId: site.id, deviceId, serial, kind, claimedAt: now(), claimedBy }))
    return tellAdoption(tx, site, { serial, device: deviceId, what: 'claimed', who: claimedBy })
  const holder = await repo.claimOfSerial(tx, serial)
  // The same claim, made again.
  if (holder?.slug === site.slug && holder.claim.deviceId === deviceId) return
  if (holder)
    throw refused(409, 'serial-claimed', place, {
      text: serial,
      device: holder.claim.deviceId,
      site: holder.slug,
    })
  const isServed = (await repo.claimsOf(tx, site.id)).some((claim) => claim.deviceId === deviceId)
  throw isServed
    ? refused(409, 'device-claimed', place, { text: deviceId })
    : refused(409, 'serial-elsewhere', place, { text: serial })
}

async function claimAll(slug: string, all: readonly Wanted[], claimedBy: string): Promise<void> {
  await database().transaction(async (tx) => {
    const site = await siteOf(tx, slug)
    for (const wanted of all) await claimOne(tx, site, wanted, claimedBy)
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
  await claimAll(slug, [{ ...parsed.value, deviceId, place: 'serial' }], claimedBy)
}

/** Claims a pasted list: all of it, or nothing. */
export async function claimList(slug: string, csv: string, claimedBy: string): Promise<void> {
  const { plan } = await currentPlan(slug)
  const table = Papa.parse<string[]>(csv, { skipEmptyLines: false })
  const { claims, problems } = readSerialList(table.data, plan.devices.filter(isManaged))
  if (problems.length > 0) throw new Refused(400, problems)
  const all = claims.map((claim) => ({ ...claim, place: `row ${claim.row}, column "serial"` }))
  await claimAll(slug, all, claimedBy)
}

/** Gives a claim up; what was heard of the box, and that it served here, is kept. */
async function release(tx: Queries, site: Site, serial: string, releasedBy: string): Promise<DeviceId> {
  const deviceId = await repo.endClaim(tx, { siteId: site.id, serial, releasedAt: now(), releasedBy })
  if (deviceId === null) throw refused(404, 'no-such-claim', serial)
  await tellAdoption(tx, site, { serial, device: deviceId, what: 'released', who: releasedBy })
  return deviceId
}

export async function releaseClaim(slug: string, serial: string, releasedBy: string): Promise<void> {
  await database().transaction(async (tx) => {
    await release(tx, await siteOf(tx, slug), serial, releasedBy)
    await tell(tx, { site: slug, topic: 'roster' })
  })
}

/** Another box serves as the device from now on: both steps, or neither. */
export async function replaceClaim(
  slug: string,
  serial: string,
  nextText: string,
  person: string,
): Promise<void> {
  const next = parseSerial(nextText, 'serial')
  if (!next.ok) throw new Refused(400, next.problems)
  await database().transaction(async (tx) => {
    const site = await siteOf(tx, slug)
    const deviceId = await release(tx, site, serial, person)
    await claimOne(tx, site, { ...next.value, deviceId, place: 'serial' }, person)
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
  const what = toldOf(event)
  if (!holder || what === null) return
  const { siteId, deviceId } = holder.claim
  await tellAdoption(queries, { id: siteId, slug: holder.slug }, { serial, device: deviceId, what, who: '' })
}
