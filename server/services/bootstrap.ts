import { judgeRequest, type ProgressType } from '#core/adopt'
import { deviceConfig } from '#core/export'
import { compareVersions, modelNamed } from '#core/queries'
import type { Onboarding } from '#contracts/bootstrap'
import * as repo from '#server/repo/adoption'
import { now } from '#server/platform/clock'
import { database } from '#server/platform/database'
import { currentPlan } from './plans'
import { hearOf } from './roster'

export type Answer =
  | { readonly kind: 'give'; readonly onboarding: Onboarding }
  | { readonly kind: 'unclaimed' }
  | { readonly kind: 'firmware-old' }

/** Decides what a device that asks for its bootstrapping data gets, and keeps that it asked. */
export async function bootstrappingData(serial: string, model: string, firmware: string): Promise<Answer> {
  const db = database()
  const holder = await repo.claimOfSerial(db, serial)
  const claim = holder && { serialKind: holder.claim.kind, claimedAtMs: holder.claim.claimedAt.getTime() }
  const known = modelNamed(model)
  const judged = judgeRequest(claim, firmware, known?.minFirmware ?? '0')
  await hearOf(db, serial, model, { kind: 'asked', atMs: now().getTime(), firmware })
  if (judged !== 'give' || !holder) {
    const reason = judged === 'firmware-old' ? judged : 'unclaimed'
    await hearOf(db, serial, model, { kind: 'refused', atMs: now().getTime(), reason })
    return { kind: reason }
  }
  const { plan } = await currentPlan(holder.slug)
  const configuration = JSON.stringify(deviceConfig(plan, holder.claim.deviceId) ?? {})
  const planned = known?.plannedFirmware ?? firmware
  const image =
    compareVersions(firmware, planned) < 0
      ? { 'boot-image': { 'os-name': 'mast-os', 'os-version': planned } }
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

export async function leaseNoticed(serial: string, model: string, address: string): Promise<void> {
  await hearOf(database(), serial, model, { kind: 'lease', atMs: now().getTime(), address })
}
