// Question: what has failed, and what time is it?
// Method: a scenario is a list of conditions; ids of what can fail are unique across a plan, so an id is enough.
// Source: the plan's own semantics; no figures used.
import type { UplinkId } from '#core/schema'

/** One thing that is not as usual. */
export type Condition =
  /** A device, link, uplink, tunnel or peer that is down. */
  | { readonly kind: 'down'; readonly id: string }
  /** An uplink whose cable and modem are well, but beyond which nothing answers. */
  | { readonly kind: 'upstream-down'; readonly uplinkId: UplinkId }
  /** The heaviest rain that radio links are to stand, at all of them at once. */
  | { readonly kind: 'rain' }
  /** A time of the week, in minutes from Monday 00:00. */
  | { readonly kind: 'instant'; readonly minute: number }

/**
 * What is not as usual, in any order; at most one instant.
 * Empty: all well, at the usual time.
 */
export type FailureScenario = readonly Condition[]

export const down = (id: string): Condition => ({ kind: 'down', id })
export const upstreamDown = (uplinkId: UplinkId): Condition => ({ kind: 'upstream-down', uplinkId })
export const RAIN: Condition = { kind: 'rain' }
/** Stands for rain where ids of what can fail are named. */
export const RAIN_ID = 'rain'
/** What an id that an intent is to survive stands for; a thing that is called so comes first. */
export const conditionOf = (id: string, known: ReadonlySet<string>): Condition =>
  id === RAIN_ID && !known.has(id) ? RAIN : down(id)
export const atInstant = (minute: number): Condition => ({ kind: 'instant', minute })

/** Ids of what is down in a scenario. */
export const downIn = (scenario: FailureScenario): ReadonlySet<string> =>
  new Set(scenario.flatMap((condition) => (condition.kind === 'down' ? [condition.id] : [])))

/** Ids of the uplinks beyond which nothing answers in a scenario. */
export const upstreamDownIn = (scenario: FailureScenario): ReadonlySet<string> =>
  new Set(scenario.flatMap((condition) => (condition.kind === 'upstream-down' ? [condition.uplinkId] : [])))

/** Whether it rains in a scenario. */
export const isRaining = (scenario: FailureScenario): boolean =>
  scenario.some((condition) => condition.kind === 'rain')

/** Failures of a scenario, without the time of the week it may name. */
export const failuresIn = (scenario: FailureScenario): FailureScenario =>
  scenario.filter((condition) => condition.kind !== 'instant')

/** A condition as stored runs name it: one text for each, and never taken apart. */
export function conditionText(condition: Condition): string {
  switch (condition.kind) {
    case 'down':
      return condition.id
    case 'upstream-down':
      return `dark:${condition.uplinkId}`
    case 'rain':
      return 'rain:'
    case 'instant':
      return `at:${condition.minute}`
  }
}

/** The text of a scenario: the same for the same conditions, in whatever order. */
export const scenarioText = (scenario: FailureScenario): string =>
  scenario.map(conditionText).sort().join(' ')
