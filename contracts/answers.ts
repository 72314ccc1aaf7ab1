import { z } from './zod'
import type { AdoptionEvent, Claim } from '#core/adopt'
import type { AcceptanceTest } from '#core/prove'
import type { IntentLoss } from '#core/reachability'
import type { Frozen, Plan } from '#core/schema'
import type { LabSign } from '#core/simulator'

// What is answered to programs: each thing once, as a schema, from which its type and its description are made.

const count = z.number().int().min(0)
/** ISO 8601, in UTC. */
const moment = z.iso.datetime()
/** Milliseconds since 1970. */
const momentMs = z.number()

/** The plan as it is kept; described apart, once. */
const plan = z.custom<Plan>().meta({ $ref: '#/components/schemas/Plan' })

/** What stands in a plan, and how much of it is proven: by numbers alone. */
const siteDigest = z.strictObject({
  /** Lacks what any site has. */
  isEmpty: z.boolean(),
  hasUplink: z.boolean(),
  /** Facts of the brief that are missing. */
  facts: count,
  blockers: count,
  warnings: count,
  /** Pairs with an intent, and those that are not as intended. */
  cells: count,
  wrong: count,
  /** Somebody is named, and a first day agreed. */
  isScheduled: z.boolean(),
  /** Devices that are to be adopted. */
  devices: count,
  tests: count,
  proven: count,
})
export interface SiteDigest extends Frozen<z.infer<typeof siteDigest>> {}

/** How a site stands; `adopted`: devices that have taken their configuration. */
const standing = siteDigest.extend({ adopted: count })
export interface Standing extends Frozen<z.infer<typeof standing>> {}

const siteSummary = z.strictObject({ slug: z.string(), name: z.string(), revision: count })
export interface SiteSummary extends Frozen<z.infer<typeof siteSummary>> {}

/** A site as the list of all sites has it. */
const siteLine = siteSummary.extend({
  savedAt: moment,
  author: z.string(),
  /** Out of the way, and not to be edited. */
  isArchived: z.boolean(),
  /** Null while it is being found out. */
  standing: standing.nullable(),
})
export interface SiteLine extends Frozen<z.infer<typeof siteLine>> {}

/** What the rest of the fleet has to know of a site's addresses. */
const fleetSite = z.strictObject({
  slug: z.string(),
  name: z.string(),
  supernet: z.string(),
  subnets: z.array(z.strictObject({ name: z.string(), subnet: z.string(), tunnel: z.boolean() })),
})

const planAt = z.strictObject({
  slug: z.string(),
  revision: count,
  savedAt: moment,
  author: z.string(),
  plan,
})
export interface PlanAt extends Omit<Frozen<z.infer<typeof planAt>>, 'plan'> {
  readonly plan: Plan
}

const revisionLine = z.strictObject({ revision: count, at: moment, author: z.string(), words: z.string() })
export interface RevisionLine extends Frozen<z.infer<typeof revisionLine>> {}

/** A revision's plan, and the one of the revision before; null of the first. */
const revision = z.strictObject({ plan, before: plan.nullable(), line: revisionLine })
export interface Revision {
  readonly plan: Plan
  readonly before: Plan | null
  readonly line: RevisionLine
}

const claim: z.ZodType<Claim> = z.strictObject({
  serialKind: z.enum(['product', 'board', 'certificate']),
  claimedAtMs: momentMs,
})
const adoptionEvent = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('lease'), atMs: momentMs, address: z.string() }),
  z.strictObject({ kind: z.literal('asked'), atMs: momentMs, firmware: z.string() }),
  z.strictObject({
    kind: z.literal('refused'),
    atMs: momentMs,
    reason: z.enum(['unclaimed', 'wrong-model', 'firmware-old']),
  }),
  z.strictObject({
    kind: z.literal('progress'),
    atMs: momentMs,
    /** RFC 8572, section 7.3: `progress-type`. */
    type: z.custom<Extract<AdoptionEvent, { kind: 'progress' }>['type']>().meta({ type: 'string' }),
    message: z.string(),
  }),
]) satisfies z.ZodType<AdoptionEvent>

/** A box that served as a device before. */
const pastClaim = z.strictObject({
  serial: z.string(),
  claimedAtMs: momentMs,
  releasedAtMs: momentMs,
  releasedBy: z.string(),
})
export interface PastClaim extends Frozen<z.infer<typeof pastClaim>> {}

/** How a claimed device shows that it is the one, where it has no certificate of its maker's. */
const deviceKeyState = z.enum(['secret-made', 'secret-expired', 'bound', 'revoked'])
export type DeviceKeyState = z.infer<typeof deviceKeyState>

const rosterRow = z.strictObject({
  deviceId: z.string(),
  serial: z.string().nullable(),
  claim: claim.nullable(),
  claimedBy: z.string().nullable(),
  /** Null where nothing was made for it: it shows a certificate of its maker's, or has not come yet. */
  key: deviceKeyState.nullable(),
  /** Model that the device says it is; empty where it said nothing yet. */
  saysModel: z.string(),
  /** Oldest first. */
  past: z.array(pastClaim),
  events: z.array(adoptionEvent),
})
export interface RosterRow extends Frozen<z.infer<typeof rosterRow>> {}

/** A device that asked and that nobody has claimed. */
const stranger = z.strictObject({ serial: z.string(), model: z.string(), events: z.array(adoptionEvent) })
export interface Stranger extends Frozen<z.infer<typeof stranger>> {}

const roster = z.strictObject({
  rows: z.array(rosterRow),
  strangers: z.array(stranger),
  silenceLimitMs: z.number(),
  /** The server's time; states that move with time are judged by it. */
  nowMs: momentMs,
})
export interface Roster extends Frozen<z.infer<typeof roster>> {}

const labDevice = z.strictObject({
  serial: z.string(),
  /** Device of the plan that it stands for; empty for a spare. */
  deviceId: z.string(),
  boardSerial: z.string(),
  label: z.string(),
  model: z.string(),
  firmware: z.string(),
  factory: z.boolean(),
  power: z.enum(['off', 'starting', 'on']),
  sign: z.custom<LabSign>().meta({ type: 'string' }),
})
export interface LabDevice extends Frozen<z.infer<typeof labDevice>> {}

const acceptanceTest = z.strictObject({
  id: z.string(),
  kind: z.enum(['passes', 'nothing-else', 'lease', 'failover', 'level']),
  from: z.string(),
  to: z.string(),
  intentId: z.string().nullable(),
  /** Device, link or uplink to take down first; empty for none. */
  under: z.string(),
  services: z.string(),
  withinS: z.number().nullable(),
  level: z.strictObject({ linkId: z.string(), end: z.enum(['a', 'b']), leastDbm: z.number() }).nullable(),
}) satisfies z.ZodType<AcceptanceTest>

const proofResult = z.strictObject({
  testId: z.string(),
  revision: count,
  passed: z.boolean(),
  value: z.string(),
  who: z.string(),
  at: moment,
  vantage: z.string(),
  note: z.string(),
  source: z.enum(['lab', 'hand']),
  /** It was recorded as passed, and what was read does not keep what the plan promises now. */
  contradicted: z.boolean(),
})
export interface ProofResult extends Frozen<z.infer<typeof proofResult>> {}

const proof = z.strictObject({
  revision: count,
  tests: z.array(acceptanceTest),
  /** The newest result of each test. */
  results: z.array(proofResult),
})
export interface Proof extends Frozen<z.infer<typeof proof>> {}

/** A pair of keys that was made here; the private one is never told with it. */
const tunnelKey = z.strictObject({
  /** Id of a tunnel or of a peer. */
  owner: z.string(),
  publicKey: z.string(),
  madeAt: moment,
  madeBy: z.string(),
  shownAt: moment.nullable(),
  shownBy: z.string().nullable(),
})
export interface TunnelKey extends Frozen<z.infer<typeof tunnelKey>> {}

/** That an SSID has a passphrase here; it is never told with it. */
const passphrase = z.strictObject({
  ssidId: z.string(),
  setAt: moment,
  setBy: z.string(),
  shownAt: moment.nullable(),
  shownBy: z.string().nullable(),
  /** Why it is soon guessed; null where it is not. */
  weakness: z.enum(['short', 'guessable']).nullable(),
  /** Other SSIDs that have the same. */
  sameAs: z.array(z.string()),
})
export interface Passphrase extends Frozen<z.infer<typeof passphrase>> {}

/** What one end of a radio link last read. */
const radioLevel = z.strictObject({
  linkId: z.string(),
  end: z.enum(['a', 'b']),
  dBm: z.number(),
  who: z.string(),
  at: moment,
  simulated: z.boolean(),
})
export interface RadioLevel extends Frozen<z.infer<typeof radioLevel>> {}

/** An item of a checklist that is done. */
const tick = z.strictObject({ item: z.string(), who: z.string(), at: moment })
export interface Tick extends Frozen<z.infer<typeof tick>> {}

/** `open`: what was told before was a mistake, and the step is to be done. */
export const stepState = z.enum(['started', 'done', 'failed', 'skipped', 'open'])

/** A record of a step; records are added to, the newest of a step counts. */
const stepRecord = z.strictObject({
  id: count,
  activityId: z.string(),
  state: stepState,
  at: moment,
  who: z.string(),
  reading: z.string(),
  note: z.string(),
  /** Id of who of the plan's people does it; empty where that was not said. */
  person: z.string(),
  knows: count,
  values: z.array(z.strictObject({ field: z.string(), value: z.string() })),
})
export interface StepRecord extends Frozen<z.infer<typeof stepRecord>> {}

/** A photograph of a step; its picture has an address of its own. */
const stepPhoto = z.strictObject({ id: count, activityId: z.string(), at: moment, who: z.string() })
export interface StepPhoto extends Frozen<z.infer<typeof stepPhoto>> {}

const runLine = z.strictObject({
  id: count,
  revision: count,
  kind: z.enum(['singles', 'pairs']),
  things: z.array(z.string()),
  askedAt: moment,
  askedBy: z.string(),
  state: z.enum(['waiting', 'running', 'done', 'stopped', 'failed']),
  tried: count,
  total: count,
  finishedAt: moment.nullable(),
})
export interface RunLine extends Frozen<z.infer<typeof runLine>> {}

const interval = z.tuple([count, count])
const intentLoss = z.strictObject({
  intentId: z.string(),
  services: z.strictObject({ tcp: z.array(interval), udp: z.array(interval), icmp: z.boolean() }),
  /** A flow that fails now and passed before; addresses as numbers. */
  example: z
    .strictObject({
      from: z.string(),
      fromAddress: z.number(),
      to: z.string(),
      toAddress: z.number(),
      proto: z.enum(['tcp', 'udp', 'icmp']),
      port: z.number(),
    })
    .nullable(),
}) satisfies z.ZodType<IntentLoss>
/** What failed, and what that takes from the intents; of a pair, what only both together take. */
const runRow = z.strictObject({ things: z.array(z.string()), lost: z.array(intentLoss) })
export interface RunRow {
  readonly things: readonly string[]
  readonly lost: readonly IntentLoss[]
}
/** `result`: null until the run is done. */
const run = runLine.extend({ result: z.array(runRow).nullable() })
export interface Run extends RunLine {
  readonly result: readonly RunRow[] | null
}

/** What is answered, by the name that its description has. */
export const ANSWER_SCHEMAS = {
  SiteSummary: siteSummary,
  SiteLine: siteLine,
  FleetSite: fleetSite,
  PlanAt: planAt,
  RevisionLine: revisionLine,
  Revision: revision,
  Roster: roster,
  LabDevice: labDevice,
  Proof: proof,
  TunnelKey: tunnelKey,
  Passphrase: passphrase,
  RadioLevel: radioLevel,
  Tick: tick,
  StepRecord: stepRecord,
  StepPhoto: stepPhoto,
  RunLine: runLine,
  Run: run,
} as const
export type AnswerName = keyof typeof ANSWER_SCHEMAS
