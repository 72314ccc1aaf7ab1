// Question: how far is a device on its way under management, and what is to be done next?
// Method: the state is derived from the claim and what was heard since; silence after a lease is itself a
// sign.
// Source:
// RFC 8572 section 7.3 (progress types of report-progress); the silence limit is common practice.
import { compareVersions, type SerialKind, hasTrait } from '#core/queries'
import type { Device } from '#core/schema'

export type ProgressType =
  | 'bootstrap-initiated'
  | 'parsing-initiated'
  | 'parsing-warning'
  | 'parsing-error'
  | 'parsing-complete'
  | 'boot-image-initiated'
  | 'boot-image-warning'
  | 'boot-image-error'
  | 'boot-image-mismatch'
  | 'boot-image-installed-rebooting'
  | 'boot-image-complete'
  | 'pre-script-initiated'
  | 'pre-script-warning'
  | 'pre-script-error'
  | 'pre-script-complete'
  | 'config-initiated'
  | 'config-warning'
  | 'config-error'
  | 'config-complete'
  | 'post-script-initiated'
  | 'post-script-warning'
  | 'post-script-error'
  | 'post-script-complete'
  | 'bootstrap-warning'
  | 'bootstrap-error'
  | 'bootstrap-complete'
  | 'informational'

/** The enumeration of RFC 8572 section 7.3, in its order. */
export const PROGRESS_TYPES: readonly ProgressType[] = [
  'bootstrap-initiated',
  'parsing-initiated',
  'parsing-warning',
  'parsing-error',
  'parsing-complete',
  'boot-image-initiated',
  'boot-image-warning',
  'boot-image-error',
  'boot-image-mismatch',
  'boot-image-installed-rebooting',
  'boot-image-complete',
  'pre-script-initiated',
  'pre-script-warning',
  'pre-script-error',
  'pre-script-complete',
  'config-initiated',
  'config-warning',
  'config-error',
  'config-complete',
  'post-script-initiated',
  'post-script-warning',
  'post-script-error',
  'post-script-complete',
  'bootstrap-warning',
  'bootstrap-error',
  'bootstrap-complete',
  'informational',
]

/** Why a device that asks gets nothing. */
export type RefusalReason = 'unclaimed' | 'wrong-model' | 'firmware-old'

export type AdoptionEvent =
  | { readonly kind: 'lease'; readonly atMs: number; readonly address: string }
  | { readonly kind: 'asked'; readonly atMs: number; readonly firmware: string }
  | { readonly kind: 'refused'; readonly atMs: number; readonly reason: RefusalReason }
  | {
      readonly kind: 'progress'
      readonly atMs: number
      readonly type: ProgressType
      readonly message: string
    }

export type AdoptionState =
  | 'planned'
  | 'claimed'
  | 'addressed'
  | 'bootstrapping'
  | 'provisioning'
  | 'in-sync'
  | 'unclaimed'
  | 'wrong-serial'
  | 'wrong-model'
  | 'not-factory'
  | 'firmware-old'
  | 'failed'

/** Devices that are brought under management; the controller itself is what manages. */
export function isManaged(device: Device): boolean {
  return hasTrait(device, 'managed')
}

/**
 * How long a device that has an address may stay silent before it is taken to be not in factory state
 * (practice).
 */
export const SILENCE_LIMIT_MS = 300_000

/** States that wait for a person. */
export const STUCK: readonly AdoptionState[] = [
  'unclaimed',
  'wrong-serial',
  'wrong-model',
  'not-factory',
  'firmware-old',
  'failed',
]

export interface Claim {
  readonly serialKind: SerialKind
  readonly claimedAtMs: number
}

/**
 * State of a device at a time.
 * @param claim null for a device nobody has claimed
 * @param events oldest first; those before the claim tell nothing about it
 * @param nowMs the reader's time; the state moves with it only from `addressed` to `not-factory`
 */
export function adoptionState(
  claim: Claim | null,
  events: readonly AdoptionEvent[],
  nowMs: number,
  silenceLimitMs = SILENCE_LIMIT_MS,
): AdoptionState {
  if (claim === null) return events.length > 0 ? 'unclaimed' : 'planned'
  if (claim.serialKind !== 'product') return 'wrong-serial'
  const since = events.filter((e) => e.atMs >= claim.claimedAtMs)
  const state = since.reduce(stateAfter, 'claimed')
  const leasedAtMs = since.findLast((e) => e.kind === 'lease')?.atMs ?? 0
  return state === 'addressed' && nowMs - leasedAtMs > silenceLimitMs ? 'not-factory' : state
}

/** State of a claimed device after one event more. */
function stateAfter(state: AdoptionState, event: AdoptionEvent): AdoptionState {
  switch (event.kind) {
    case 'lease':
      return 'addressed'
    case 'asked':
      return 'bootstrapping'
    case 'refused':
      return event.reason === 'unclaimed' ? 'claimed' : event.reason
    default:
      return afterProgress(state, event.type)
  }
}

/** A progress report of RFC 8572. */
function afterProgress(state: AdoptionState, type: string): AdoptionState {
  if (type.endsWith('-error')) return 'failed'
  if (type === 'bootstrap-complete') return 'in-sync'
  if (type.startsWith('config-')) return 'provisioning'
  return state === 'provisioning' || state === 'in-sync' ? state : 'bootstrapping'
}

/** Steps a device has done, for the roster's columns. */
export const STEPS = ['claimed', 'addressed', 'bootstrapping', 'provisioning', 'in-sync'] as const

/** How many of STEPS are behind a device in a state; a stuck one keeps what it had. */
export function stepsDone(state: AdoptionState): number {
  switch (state) {
    case 'planned':
    case 'unclaimed':
    case 'wrong-serial':
      return 0
    case 'claimed':
      return 1
    case 'addressed':
    case 'not-factory':
    case 'wrong-model':
    case 'firmware-old':
      return 2
    case 'bootstrapping':
    case 'failed':
      return 3
    case 'provisioning':
      return 4
    case 'in-sync':
      return 5
  }
}

/** Whether a device says that it is another model than the plan has in its place; not where either says nothing. */
export function isOtherModel(said: string, planned: string): boolean {
  const [one, other] = [said, planned].map((model) => model.trim().toLowerCase())
  return one !== '' && other !== '' && one !== other
}

/** What a device says of itself when it asks. */
interface Asking {
  readonly model: string
  readonly firmware: string
}

/**
 * Whether the controller hands out a configuration: the device must be claimed by its product serial, be what the
 * plan has in that place (what is made for other ports fits nowhere), and be new enough.
 * @param planned model of the device it is claimed for; empty where the plan does not say
 */
export function judgeRequest(
  claim: Claim | null,
  asking: Asking,
  planned: string,
  minFirmware: string,
): 'give' | RefusalReason {
  if (claim === null || claim.serialKind !== 'product') return 'unclaimed'
  if (isOtherModel(asking.model, planned)) return 'wrong-model'
  return compareVersions(asking.firmware, minFirmware) < 0 ? 'firmware-old' : 'give'
}
