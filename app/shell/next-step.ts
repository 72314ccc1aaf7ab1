import { STUCK, type AdoptionState } from '#core/adopt'
import { lacksOf, missingFacts, type Lack } from '#core/brief'
import type { Finding } from '#core/findings'
import type { AcceptanceTest } from '#core/prove'
import { isAgainstIntent, type ReachabilityMatrix } from '#core/reachability'
import type { DeviceId, Plan } from '#core/schema'
import type { ActionId } from './actions'
import { wordsOf } from '~/wording/findings'
import {
  ADD_UPLINK,
  AGREE_START,
  adoptionStep,
  againstIntentStep,
  factStep,
  failedTestStep,
  HAND_OVER,
  LACK_STEPS,
  NAME_PEOPLE,
  openTestStep,
} from '~/wording/next-steps'

/** The one thing to do now, and where. */
export interface NextStep {
  readonly words: string
  readonly sheet: string
  /** The button of that sheet that does it, where there is one. */
  readonly action?: ActionId
  /** The finding whose field it leads to. */
  readonly finding?: Finding
}

/** What is known of a site's work; undefined while it is not known yet. */
export interface WorkState {
  readonly plan: Plan
  readonly findings: readonly Finding[] | undefined
  readonly grid: ReachabilityMatrix | undefined
  readonly devices: readonly { readonly id: DeviceId; readonly state: AdoptionState }[] | undefined
  readonly tests: readonly AcceptanceTest[] | undefined
  /** Of each test that was tried, whether it passed. */
  readonly passed: ReadonlyMap<string, boolean>
}

const LACKING: Readonly<Record<Lack, NextStep>> = {
  gateway: { words: LACK_STEPS.gateway, sheet: 'loom', action: 'add-device' },
  networks: { words: LACK_STEPS.networks, sheet: 'addresses', action: 'add-network' },
  hosts: { words: LACK_STEPS.hosts, sheet: 'loom', action: 'add-device' },
  intents: { words: LACK_STEPS.intents, sheet: 'rules', action: 'add-intent' },
}

function ofBrief({ plan }: WorkState): NextStep | null {
  if (plan.uplinks.length === 0) return { words: ADD_UPLINK, sheet: 'brief', action: 'add-uplink' }
  const [fact] = missingFacts(plan)
  return fact ? { words: factStep(fact), sheet: 'brief' } : null
}

function ofPlan({ plan, findings = [] }: WorkState): NextStep | null {
  const [lack] = lacksOf(plan)
  if (lack) return LACKING[lack]
  const finding =
    findings.find(({ severity }) => severity === 'blocker') ??
    findings.find(({ severity }) => severity === 'warning')
  return finding ? { words: wordsOf(finding).title, sheet: finding.sheet, finding } : null
}

function ofRehearsal({ plan, grid }: WorkState): NextStep | null {
  const [lack] = lacksOf(plan)
  if (lack) return LACKING[lack]
  const wrong = grid?.cells.filter(isAgainstIntent).length ?? 0
  return wrong > 0 ? { words: againstIntentStep(wrong), sheet: 'reach' } : null
}

function ofStage({ plan }: WorkState): NextStep | null {
  const [lack] = lacksOf(plan)
  if (lack === 'gateway') return LACKING.gateway
  if (plan.work.people.length === 0) return { words: NAME_PEOPLE, sheet: 'run-sheet', action: 'name-people' }
  return plan.work.startDate === null
    ? { words: AGREE_START, sheet: 'run-sheet', action: 'name-people' }
    : null
}

function ofAdoption({ plan, devices = [] }: WorkState): NextStep | null {
  const next =
    devices.find(({ state }) => STUCK.includes(state)) ?? devices.find(({ state }) => state !== 'in-sync')
  if (!next) return null
  const name = plan.devices.find(({ id }) => id === next.id)?.name ?? next.id
  return { words: adoptionStep(name, next.state), sheet: 'roster' }
}

function ofProof({ plan, tests = [], passed }: WorkState): NextStep | null {
  const failed = tests.find(({ id }) => passed.get(id) === false)
  if (failed) return { words: failedTestStep(failed, plan), sheet: 'diagnose' }
  const open = tests.find(({ id }) => !passed.has(id))
  return open ? { words: openTestStep(open, plan), sheet: 'prove' } : null
}

const ofHandover = (work: WorkState): NextStep | null =>
  ofProof(work) ?? ((work.tests ?? []).length === 0 ? null : { words: HAND_OVER, sheet: 'hand-over' })

const STEPS: Readonly<Record<string, (work: WorkState) => NextStep | null>> = {
  brief: ofBrief,
  plan: ofPlan,
  rehearse: ofRehearsal,
  stage: ofStage,
  adopt: ofAdoption,
  prove: ofProof,
  'hand-over': ofHandover,
}

/** The one thing to do now on a stage; null where nothing is left there, or nothing can be said. */
export const nextStepOf = (stage: string, work: WorkState): NextStep | null => STEPS[stage]?.(work) ?? null
