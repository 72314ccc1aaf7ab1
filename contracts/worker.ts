import type { Diagnosis, Fact, Observed } from '#core/diagnose'
import type { Analysis, Finding } from '#core/findings'
import type { AlarmRun } from '#core/failover'
import type { Change } from '#core/edit'
import type { Plan, Probe, DeviceId } from '#core/schema'
import type { FailureScenario } from '#core/queries'
import type { Crew, Happened, Timetable } from '#core/schedule'
import type { RuleUsage } from '#core/filter'
import type { Remedy } from '#core/remedy'
import type { Emitter, Floor, LevelGrid, RoomSignal } from '#core/wifi'
import type {
  FlowChange,
  FlowRef,
  FlowText,
  ReachabilityMatrix,
  InsideCalls,
  IntentLoss,
  Walk,
} from '#core/reachability'

// Between the page and its workers.
// Every request has a number; a late answer is told by it.
// A worker keeps the plan it was given, and is then told only what changed: the parts that did not change
// stay the same objects, and so do the answers about them.

export type PlanNews =
  | { readonly kind: 'whole'; readonly plan: Plan }
  /** From the plan last sent to the next one. */
  | { readonly kind: 'changes'; readonly changes: readonly Change[] }

export type WorkerRequest =
  | { readonly kind: 'find'; readonly number: number; readonly news: PlanNews }
  | {
      readonly kind: 'analyse'
      readonly number: number
      readonly news: PlanNews
      readonly scenario: FailureScenario
    }
  /** `typed`: another flow than `flow`, which lends it the ends that it does not name. */
  | {
      readonly kind: 'walk'
      readonly number: number
      readonly scenario: FailureScenario
      readonly flow: FlowRef
      readonly ipv6: boolean
      readonly typed: FlowText | null
    }
  | {
      readonly kind: 'impact'
      readonly number: number
      readonly scenario: FailureScenario
      readonly blind: boolean
    }
  /** `six`: of the plan's IPv6 side. */
  | {
      readonly kind: 'grid'
      readonly number: number
      readonly scenario: FailureScenario
      readonly ipv6: boolean
    }
  /** Mends for findings that the grid shows, of the plan held: too slow to be sought with each answer. */
  | { readonly kind: 'repair'; readonly number: number; readonly findings: readonly Finding[] }
  | { readonly kind: 'calls'; readonly number: number; readonly scenario: FailureScenario }
  /** What the rules of a gateway are there for, of the plan held. */
  | { readonly kind: 'hits'; readonly number: number; readonly deviceId: DeviceId }
  | {
      readonly kind: 'alarms'
      readonly number: number
      readonly probe: Probe
      readonly lossPct: number
      readonly seed: number
    }
  | { readonly kind: 'difference'; readonly number: number; readonly before: Plan; readonly after: Plan }

export type WorkerAnswer =
  /** Findings that need no grid: they come first. */
  | {
      readonly kind: 'found'
      readonly number: number
      readonly findings: readonly Finding[]
      readonly tookMs: number
    }
  | {
      readonly kind: 'analysis'
      readonly number: number
      readonly analysis: Analysis
      readonly tookMs: number
    }
  | { readonly kind: 'walked'; readonly number: number; readonly walk: Walk | null }
  /** What the intents lose under a failure scenario; null where the worker has no plan yet. */
  | { readonly kind: 'impact'; readonly number: number; readonly lost: readonly IntentLoss[] | null }
  /**
   * The grid of the plan held, under another scenario; null where the worker has no plan yet, or the plan no
   * IPv6.
   */
  | { readonly kind: 'gridded'; readonly number: number; readonly grid: ReachabilityMatrix | null }
  /** The findings that have a mend now. */
  | { readonly kind: 'repaired'; readonly number: number; readonly findings: readonly Finding[] }
  /** Who inside reaches what is handed inside, by its outside address. */
  | { readonly kind: 'called'; readonly number: number; readonly calls: readonly InsideCalls[] }
  | { readonly kind: 'hit'; readonly number: number; readonly hits: readonly RuleUsage[] }
  | { readonly kind: 'different'; readonly number: number; readonly flows: readonly FlowChange[] }
  | { readonly kind: 'alarmed'; readonly number: number; readonly run: AlarmRun }
  /** The changes did not fit the plan that the worker holds: it must be sent whole. */
  | { readonly kind: 'lost'; readonly number: number }
  | { readonly kind: 'defect'; readonly number: number; readonly message: string }

/** Floors with what sends there, each by its key; the one that is shown gets its levels as well. */
export interface CoverageRequest {
  readonly number: number
  readonly shown: string
  readonly floors: readonly {
    readonly key: string
    readonly floor: Floor
    readonly emitters: readonly Emitter[]
    readonly stepM: number
  }[]
}
export type CoverageAnswer =
  | {
      readonly kind: 'coverage'
      readonly number: number
      readonly shown: string
      /** Null where what is shown is not among the floors. */
      readonly grid: LevelGrid | null
      readonly signals: readonly RoomSignal[]
    }
  | { readonly kind: 'defect'; readonly number: number; readonly message: string }

export type DiagnoseRequest =
  /** `ignore`: how many observations may be wrong themselves. */
  | {
      readonly kind: 'diagnose'
      readonly plan: Plan
      readonly observed: readonly Observed[]
      readonly facts: readonly Fact[]
      readonly ignore: number
    }
  | {
      readonly kind: 'remedy'
      readonly plan: Plan
      readonly intentId: string
      readonly scenario: FailureScenario
    }
export type DiagnoseAnswer =
  | { readonly kind: 'progress'; readonly tried: number; readonly of: number }
  | { readonly kind: 'diagnosed'; readonly diagnosis: Diagnosis }
  | { readonly kind: 'remedies'; readonly remedies: readonly Remedy[] }
  | { readonly kind: 'defect'; readonly message: string }

/** A schedule is asked for, again whenever the plan or what has happened is another. */
export interface ScheduleRequest {
  readonly number: number
  readonly plan: Plan
  readonly happened: readonly (readonly [activityId: string, Happened])[]
  /** Minutes from midnight of the first day; 0 before anything has begun. */
  readonly nowMin: number
  /** How likely it ends when, and what other crews would do, are told too. */
  readonly withChances: boolean
}

/** What a schedule's end may be, and how likely. */
export interface SpreadTold {
  /** Times by which 0 %, 2 %, ... 100 % of the runs are done, minutes from midnight of the first day. */
  readonly doneBy: readonly number[]
  /** Share of the runs that are done when the schedule says so. */
  readonly asPlanned: number
  readonly withinWindow: number | null
  /** Share of the runs in which an activity held up the end, by id; those of less than 1 % are left out. */
  readonly criticality: Readonly<Record<string, number>>
}

/** What a plan with another wish would end like, at a first look: nothing is shown of it but that. */
export interface ScheduleAttempt extends Omit<ScheduleRequest, 'withChances'> {
  readonly kind: 'attempt'
}

export type ScheduleAnswer =
  | { readonly kind: 'attempted'; readonly number: number; readonly endMin: number; readonly undone: number }
  /** The first comes at once, better ones take its place. */
  | {
      readonly kind: 'timetable'
      readonly number: number
      readonly timetable: Timetable
      readonly isLast: boolean
    }
  | { readonly kind: 'spread'; readonly number: number; readonly spread: SpreadTold }
  /** More activities than a schedule is sought for. */
  | { readonly kind: 'too-many'; readonly number: number; readonly count: number; readonly most: number }
  | { readonly kind: 'crews'; readonly number: number; readonly crews: readonly Crew[] }
  | { readonly kind: 'defect'; readonly number: number; readonly message: string }
