import { z } from 'zod'
import type { AdoptionEvent, Claim } from '#core/adopt'
import type { Problem } from '#core/util'
import type { IntentLoss } from '#core/reachability'
import type { LabSign } from '#core/simulator'
import { arePrintableLines, isPassphrase, isPublicKey } from '#core/format'
import { line, type Plan, type DeviceId } from '#core/schema'
import type { AcceptanceTest } from '#core/prove'
import { MOST_PHOTO_BYTES } from './limits'
import type { Role, SiteRoles } from './roles'
import type { DeviceKeyState } from './bootstrap'
import type { Standing } from './standing'

// What crosses the wire between the application and its server.

/** Largest number that the database counts to: 32 bits with a sign. */
const MOST_COUNTED = 2 ** 31 - 1
export const isCounted = (value: number): boolean =>
  Number.isInteger(value) && value >= 1 && value <= MOST_COUNTED
const revisionNumber = z.number().int().min(1).max(MOST_COUNTED)
/** Printable text of several lines. */
const lines = (most: number) => z.string().max(most).refine(arePrintableLines, 'printable')

/** Where in a document, RFC 6901; never the whole of it, which no difference replaces. */
const pointer = line(400).regex(/^\//, 'pointer')

/** One RFC 6902 operation. Only those that a difference of two documents produces. */
export const patchOpSchema = z.discriminatedUnion('op', [
  z.strictObject({ op: z.literal('add'), path: pointer, value: z.unknown() }),
  z.strictObject({ op: z.literal('replace'), path: pointer, value: z.unknown() }),
  z.strictObject({ op: z.literal('remove'), path: pointer }),
])
export type PatchOp = z.infer<typeof patchOpSchema>

export const savePlanSchema = z.strictObject({
  baseRevision: revisionNumber,
  patch: z.array(patchOpSchema).min(1).max(20_000),
  words: line(300),
})
export const restoreSchema = z.strictObject({
  baseRevision: revisionNumber,
  revision: revisionNumber,
})

/** Names what is sent, so that it counts once however often it comes. */
const idempotencyKey = line(40, 1).optional()
/** `open`: what was told before was a mistake, and the step is to be done. */
const STEP_STATES = ['started', 'done', 'failed', 'skipped', 'open'] as const

export const claimSchema = z.strictObject({
  key: idempotencyKey,
  serial: line(40, 1),
  deviceId: line(80, 1),
})
export const replaceSchema = z.strictObject({ serial: line(40, 1) })
export const claimListSchema = z.strictObject({ csv: z.string().min(1).max(200_000) })
export const importSiteSchema = z.strictObject({
  text: z.string().min(1),
  /** What its first revision is called; where it was read from a file, nothing. */
  words: line(300).optional(),
})
/** The name of what is made from a plan: a site, or a template. */
export const namedSchema = z.strictObject({ name: line(80, 1) })
export const archiveSchema = z.strictObject({ isArchived: z.boolean() })
/** For what needs no more than to be asked. */
export const emptySchema = z.strictObject({})
export const labPowerSchema = z.strictObject({
  serial: line(40, 1),
  action: z.enum(['power-on', 'reset', 'update']),
})
export const tickSchema = z.strictObject({ key: idempotencyKey, item: line(400, 1), done: z.boolean() })
/** What became of a step of the run sheet, as whoever does it tells. */
export const stepRecordSchema = z.strictObject({
  key: idempotencyKey,
  activityId: line(200, 1),
  state: z.enum(STEP_STATES),
  /** When it was so, by the clock of whoever tells it: it may have waited for a network. */
  at: z.iso.datetime({ offset: true }),
  reading: line(200),
  note: lines(1000),
  /** Who of the plan's people does it; empty where that is not said. */
  person: line(80),
  /** Id of the newest record of the step that whoever tells has seen; 0 where none. */
  knows: z.number().int().min(0).max(Number.MAX_SAFE_INTEGER).default(0),
  /** What the plan said then: the values that stood on the card. */
  values: z
    .array(z.strictObject({ field: line(40, 1), value: line(160) }))
    .max(40)
    .default([]),
})

export const photoSchema = z.strictObject({
  key: idempotencyKey,
  activityId: line(200, 1),
  at: z.iso.datetime({ offset: true }),
  /** The JPEG in base64. */
  jpeg: z.base64().max(Math.ceil((MOST_PHOTO_BYTES / 3) * 4) + 4),
})
/** A photograph of a step; its picture has an address of its own. */
export interface StepPhoto {
  readonly id: number
  readonly activityId: string
  readonly at: string
  readonly who: string
}

export const askLabSchema = z.strictObject({ revision: revisionNumber })

export const recordResultSchema = z.strictObject({
  key: idempotencyKey,
  testId: line(400, 1),
  revision: revisionNumber,
  passed: z.boolean(),
  vantage: line(120, 1),
  value: line(200),
  note: lines(1000),
})

/** A record of a step; records are added to, the newest of a step counts. */
export interface StepRecord {
  readonly id: number
  readonly activityId: string
  readonly state: (typeof STEP_STATES)[number]
  readonly at: string
  readonly who: string
  readonly reading: string
  readonly note: string
  /** Id of who of the plan's people does it; empty where that was not said. */
  readonly person: string
  readonly knows: number
  readonly values: readonly { readonly field: string; readonly value: string }[]
}

export interface Me {
  readonly name: string
  readonly organisation: string
  /** At every site of the organisation; null for who is at single sites alone. */
  readonly role: Role | null
  readonly siteRoles: SiteRoles
  /** Adds organisations. */
  readonly isOperator: boolean
  /** Whether they have one, beside single sign-on. */
  readonly hasPassword: boolean
  /** Whether the organisation asks everybody for a second factor, and whether they have one. */
  readonly needsFactor: boolean
  readonly hasFactor: boolean
}

/** A plan that was kept for sites to come. */
export interface TemplateSummary {
  readonly id: number
  readonly name: string
  readonly keptAt: string
  readonly keptBy: string
}

export interface SiteSummary {
  readonly slug: string
  readonly name: string
  readonly revision: number
}

/** A site as the list of all sites has it. */
export interface SiteLine extends SiteSummary {
  readonly savedAt: string
  readonly author: string
  /** Out of the way, and not to be edited. */
  readonly isArchived: boolean
  /** Null while it is being found out. */
  readonly standing: Standing | null
}

/** Sites by their slugs, `SITES_PAGE` at most; a page that is not full is the last. */
export const sitesQuerySchema = z.strictObject({
  /** Slug after which it goes on. */
  after: line(80, 1).optional(),
})

/** A site that can be brought back. */
export interface DeletedSite {
  readonly slug: string
  readonly name: string
  readonly deletedAt: string
  readonly deletedBy: string
}

export interface PlanAt {
  readonly slug: string
  readonly revision: number
  readonly savedAt: string
  readonly author: string
  readonly plan: Plan
}

export interface RevisionLine {
  readonly revision: number
  readonly at: string
  readonly author: string
  readonly words: string
}

/** A box that served as a device before. */
export interface PastClaim {
  readonly serial: string
  readonly claimedAtMs: number
  readonly releasedAtMs: number
  readonly releasedBy: string
}

export interface RosterRow {
  readonly deviceId: DeviceId
  readonly serial: string | null
  readonly claim: Claim | null
  readonly claimedBy: string | null
  /** Null where nothing was made for it: it shows a certificate of its maker's, or has not come yet. */
  readonly key: DeviceKeyState | null
  /** Model that the device says it is; empty where it said nothing yet. */
  readonly saysModel: string
  /** Oldest first. */
  readonly past: readonly PastClaim[]
  readonly events: readonly AdoptionEvent[]
}

/** A device that asked and that nobody has claimed. */
export interface Stranger {
  readonly serial: string
  readonly model: string
  readonly events: readonly AdoptionEvent[]
}

export interface Roster {
  readonly rows: readonly RosterRow[]
  readonly strangers: readonly Stranger[]
  readonly silenceLimitMs: number
  /** The server's time; states that move with time are judged by it. */
  readonly nowMs: number
}

export interface LabDevice {
  readonly serial: string
  /** Device of the plan that it stands for; empty for a spare. */
  readonly deviceId: DeviceId
  readonly boardSerial: string
  readonly label: string
  readonly model: string
  readonly firmware: string
  readonly factory: boolean
  readonly power: 'off' | 'starting' | 'on'
  readonly sign: LabSign
}

export interface ProofResult {
  readonly testId: string
  readonly revision: number
  readonly passed: boolean
  readonly value: string
  readonly who: string
  readonly at: string
  readonly vantage: string
  readonly note: string
  readonly source: 'lab' | 'hand'
  /** It was recorded as passed, and what was read does not keep what the plan promises now. */
  readonly contradicted: boolean
}

export interface Proof {
  readonly revision: number
  readonly tests: readonly AcceptanceTest[]
  /** The newest result of each test. */
  readonly results: readonly ProofResult[]
}

/** A pair of keys that was made here; the private one is never told with it. */
export interface TunnelKey {
  /** Id of a tunnel or of a peer. */
  readonly owner: string
  readonly publicKey: string
  readonly madeAt: string
  readonly madeBy: string
  readonly shownAt: string | null
  readonly shownBy: string | null
}
export const keyOwnerSchema = z.strictObject({ owner: line(80, 1) })
/** `next`: with the key that the peer changes to. */
export const showKeySchema = z.strictObject({
  owner: line(80, 1),
  next: z.boolean().default(false),
})
/** A private key made elsewhere, on its way to be sealed. */
export const takeKeySchema = z.strictObject({
  owner: line(80, 1),
  privateKey: z.string().refine(isPublicKey, 'key'),
})

/** That an SSID has a passphrase here; it is never told with it. */
export interface Passphrase {
  readonly ssidId: string
  readonly setAt: string
  readonly setBy: string
  readonly shownAt: string | null
  readonly shownBy: string | null
}
/** `sameAs`: names of other SSIDs with the same passphrase. */
export interface KeptPassphrase {
  readonly sameAs: readonly string[]
}
export interface ShownPassphrase {
  readonly passphrase: string
  /** What stations make of it, as 64 hexadecimal digits. */
  readonly preSharedKey: string
  /** Of a code by which a telephone joins. */
  readonly joinText: string
}
export const showPassphraseSchema = z.strictObject({ ssid: line(80, 1) })
/** Null: one is generated. */
export const setPassphraseSchema = z.strictObject({
  ssid: line(80, 1),
  passphrase: z.string().max(63).refine(isPassphrase, 'passphrase').nullable(),
})

/** What one end of a radio link last read. */
export interface RadioLevel {
  readonly linkId: string
  readonly end: 'a' | 'b'
  readonly dBm: number
  readonly who: string
  readonly at: string
  readonly simulated: boolean
}
const linkEnd = { link: line(80, 1), end: z.enum(['a', 'b']) }
/** A reading as radios show it: "-65 dBm", "70 %". */
export const levelSchema = z.strictObject({ ...linkEnd, reading: line(20, 1) })
/** Turns a simulated antenna of the lab; degrees from true north over east, and above the horizon. */
export const labAimSchema = z.strictObject({
  ...linkEnd,
  azimuthDeg: z.number().min(0).max(360),
  tiltDeg: z.number().min(-90).max(90),
})

/** A what-if run on the server: every single failure of a revision, or every pair of some things. */
export const startRunSchema = z.strictObject({
  kind: z.enum(['singles', 'pairs']),
  things: z.array(line(100, 1)).max(2000),
  revision: revisionNumber,
})
export type StartRun = z.infer<typeof startRunSchema>
export interface RunLine {
  readonly id: number
  readonly revision: number
  readonly kind: 'singles' | 'pairs'
  readonly things: readonly string[]
  readonly askedAt: string
  readonly askedBy: string
  readonly state: 'waiting' | 'running' | 'done' | 'stopped' | 'failed'
  readonly tried: number
  readonly total: number
  readonly finishedAt: string | null
}
/** What failed, and what that takes from the intents; of a pair, what only both together take. */
export interface RunRow {
  readonly things: readonly string[]
  readonly lost: readonly IntentLoss[]
}
export interface Run extends RunLine {
  /** Null until the run is done. */
  readonly result: readonly RunRow[] | null
}

/** An item of a checklist that is done. */
export interface Tick {
  readonly item: string
  readonly who: string
  readonly at: string
}

/** The body of every refusal. */
export interface Refusal {
  readonly problems: readonly Problem[]
  /** Only for `stale-revision`: the plan as it is now. */
  readonly current?: PlanAt
  /** Only for a defect of ours: the number to quote. */
  readonly reference?: string
}

/**
 * What live updates say: which part of a site has news; an empty site means every site.
 * The receiver reads it anew.
 */
export interface News {
  readonly site: string
  readonly topic: 'plan' | 'roster' | 'lab' | 'proof' | 'ticks' | 'runs' | 'levels' | 'steps' | 'photos'
}
