import { z } from './zod'
import type { Problem } from '#core/util'
import { arePrintableLines, isPassphrase, isPublicKey } from '#core/format'
import { line } from '#core/schema'
import { stepState, type PlanAt } from './answers'
import { MOST_PHOTO_BYTES } from './limits'
import type { Role, SiteRoles } from './roles'

// What crosses the wire between the application and its server.
// What is answered to programs, too, stands in answers.ts.

export type {
  LabDevice,
  Passphrase,
  PastClaim,
  PlanAt,
  Proof,
  ProofResult,
  RadioLevel,
  RevisionLine,
  Roster,
  RosterRow,
  Run,
  RunLine,
  RunRow,
  SiteLine,
  SiteSummary,
  StepPhoto,
  StepRecord,
  Stranger,
  Tick,
  TunnelKey,
} from './answers'

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
  state: stepState,
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
