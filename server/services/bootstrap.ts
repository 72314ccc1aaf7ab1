import { judgeRequest, type ProgressType, type RefusalReason } from '#core/adopt'
import { deviceConfig } from '#core/export'
import { compareVersions, modelNamed } from '#core/queries'
import type { DeviceId, Plan } from '#core/schema'
import type { Onboarding } from '#contracts/bootstrap'
import * as repo from '#server/repo/adoption'
import { now } from '#server/platform/clock'
import { database } from '#server/platform/database'
import { refused } from '#server/platform/route'
import { asServer } from '#server/platform/scope'
import { currentPlan, siteOf } from './plans'
import { hearOf } from './roster'

export type Answer =
  { readonly kind: 'give'; readonly onboarding: Onboarding } | { readonly kind: RefusalReason }

/** Model that a plan has for a device; empty where it does not say. */
const plannedModel = (plan: Plan | null, deviceId: DeviceId | undefined): string =>
  plan?.devices.find((device) => device.id === deviceId)?.model ?? ''

/** Decides what a device that asks for its bootstrapping data gets, and keeps that it asked. */
export async function bootstrappingData(serial: string, model: string, firmware: string): Promise<Answer> {
  const db = database()
  const holder = await repo.claimOfSerial(db, serial)
  const claim = holder && { serialKind: holder.claim.kind, claimedAtMs: holder.claim.claimedAt.getTime() }
  const plan = holder && (await currentPlan(holder.slug)).plan
  const planned = plannedModel(plan, holder?.claim.deviceId)
  // A device that does not say what it is, is held to what is planned.
  const known = modelNamed(planned === '' ? model : planned)
  const judged = judgeRequest(claim, { model, firmware }, planned, known?.minFirmware ?? '0')
  await hearOf(db, serial, model, { kind: 'asked', atMs: now().getTime(), firmware })
  if (judged !== 'give' || !holder || !plan) {
    const reason = judged === 'give' ? 'unclaimed' : judged
    await hearOf(db, serial, model, { kind: 'refused', atMs: now().getTime(), reason })
    return { kind: reason }
  }
  const configuration = JSON.stringify(deviceConfig(plan, holder.claim.deviceId) ?? {})
  const wanted = known?.plannedFirmware ?? firmware
  const image =
    compareVersions(firmware, wanted) < 0
      ? { 'boot-image': { 'os-name': 'mast-os', 'os-version': wanted } }
      : {}
  const information = {
    ...image,
    'configuration-handling': 'replace' as const,
    configuration: Buffer.from(configuration).toString('base64'),
  }
  return { kind: 'give', onboarding: { 'ietf-sztp-conveyed-info:onboarding-information': information } }
}

export async function progressReported(serial: string, type: ProgressType, message: string): Promise<void> {
  await hearOf(database(), serial, '', { kind: 'progress', atMs: now().getTime(), type, message })
}

export interface Lease {
  readonly serial: string
  readonly model: string
  readonly address: string
}

/** Keeps what a site's DHCP server told of a device: of one that is claimed there, or nowhere. */
export async function leaseNoticed(slug: string, { serial, model, address }: Lease): Promise<void> {
  await siteOf(database(), slug)
  // Who has claimed it is for the server to know: it may be somebody of another organisation.
  await asServer(async () => {
    const holder = await repo.claimOfSerial(database(), serial)
    if (holder && holder.slug !== slug) throw refused(409, 'not-claimed-here', 'serial', { text: serial })
    await hearOf(database(), serial, model, { kind: 'lease', atMs: now().getTime(), address })
  })
}
