import { describe, expect, it } from 'vitest'
import {
  adoptionState,
  isManaged,
  judgeRequest,
  PROGRESS_TYPES,
  SILENCE_LIMIT_MS,
  STEPS,
  stepsDone,
  STUCK,
  type AdoptionEvent,
  type Claim,
  type ProgressType,
  type RefusalReason,
} from '.'
import { gullhavenPlan } from '#server/demo/gullhaven'

const claim: Claim = { serialKind: 'product', claimedAtMs: 1000 }
const lease = (atMs: number): AdoptionEvent => ({ kind: 'lease', atMs, address: '10.0.0.9' })
const asked = (atMs: number): AdoptionEvent => ({ kind: 'asked', atMs, firmware: '5.2.0' })
const refused = (atMs: number, reason: RefusalReason): AdoptionEvent => ({
  kind: 'refused',
  atMs,
  reason,
})
const progress = (atMs: number, type: ProgressType): AdoptionEvent => ({
  kind: 'progress',
  atMs,
  type,
  message: '',
})
const state = (events: readonly AdoptionEvent[], nowMs = 9000, held: Claim | null = claim) =>
  adoptionState(held, events, nowMs)

describe('the state of a device', () => {
  it('goes step by step to in sync', () => {
    const events = [
      lease(2000),
      asked(2100),
      progress(2200, 'bootstrap-initiated'),
      progress(2300, 'parsing-complete'),
      progress(2400, 'boot-image-installed-rebooting'),
      asked(2500),
      progress(2600, 'config-initiated'),
      progress(2700, 'config-complete'),
      progress(2800, 'bootstrap-complete'),
    ]
    const states = [[], ...events.map((_, i) => events.slice(0, i + 1))].map((heard) => state(heard))
    expect(states).toEqual([
      'claimed',
      'addressed',
      'bootstrapping',
      'bootstrapping',
      'bootstrapping',
      'bootstrapping',
      'bootstrapping',
      'provisioning',
      'provisioning',
      'in-sync',
    ])
    expect(states.map(stepsDone)).toEqual([1, 2, 3, 3, 3, 3, 3, 4, 4, 5])
  })
  it('is planned without a claim, and unclaimed once it speaks', () => {
    expect([state([], 0, null), state([asked(1)], 0, null)]).toEqual(['planned', 'unclaimed'])
  })
  it('waits for a product serial', () => {
    expect(state([], 0, { ...claim, serialKind: 'board' })).toBe('wrong-serial')
    expect(state([asked(2000)], 9000, { ...claim, serialKind: 'certificate' })).toBe('wrong-serial')
  })
  it('silent after its lease it is not in factory state', () => {
    expect(state([lease(2000)], 2000 + SILENCE_LIMIT_MS)).toBe('addressed')
    expect(state([lease(2000)], 2001 + SILENCE_LIMIT_MS)).toBe('not-factory')
    expect(state([lease(2000), asked(2100)], 9e9)).toBe('bootstrapping')
  })
  it('refused for its firmware it stays so until it asks with a newer one', () => {
    expect(state([lease(2000), asked(2100), refused(2100, 'firmware-old')])).toBe('firmware-old')
    expect(state([lease(2000), asked(2100), refused(2100, 'firmware-old'), asked(3000)])).toBe(
      'bootstrapping',
    )
  })
  it('refused as another model it stays so until it asks again', () => {
    expect(state([lease(2000), asked(2100), refused(2100, 'wrong-model')])).toBe('wrong-model')
    expect(state([lease(2000), asked(2100), refused(2100, 'wrong-model'), asked(3000)])).toBe('bootstrapping')
  })
  it('what was heard before the claim tells nothing', () => {
    expect(state([asked(10), refused(11, 'unclaimed')])).toBe('claimed')
  })
  it('an error is told as one', () => {
    for (const type of PROGRESS_TYPES.filter((t) => t.endsWith('-error')))
      expect(state([asked(2000), progress(2100, type)])).toBe('failed')
    expect(state([asked(2000), progress(2100, 'parsing-warning')])).toBe('bootstrapping')
  })
  it('those that wait for a person have done fewer steps than all', () => {
    for (const state of STUCK) expect(stepsDone(state)).toBeLessThan(STEPS.length)
  })
})

// RFC 8572 section 7.3: the enumeration of progress-type has these groups; its members were counted by hand.
describe('progress types', () => {
  it('are 27 and each is told once', () => {
    expect(new Set(PROGRESS_TYPES).size).toBe(27)
    expect(PROGRESS_TYPES.filter((t) => t.startsWith('boot-image-'))).toHaveLength(6)
  })
})

describe('a request', () => {
  it.each([
    [null, 'S8P', '9.9.9', 'unclaimed'],
    [{ ...claim, serialKind: 'board' as const }, 'S8P', '9.9.9', 'unclaimed'],
    [claim, 'A2X', '9.9.9', 'wrong-model'],
    [claim, 'A2X', '4.8.0', 'wrong-model'],
    [claim, 'S8P', '4.8.0', 'firmware-old'],
    [claim, 'S8P', '5.0.3', 'give'],
    [claim, 's8p ', '5.0.10', 'give'],
    [claim, '', '5.0.10', 'give'],
  ])('%o by %s with %s: %s', (held, model, firmware, judged) => {
    expect(judgeRequest(held, { model, firmware }, 'S8P', '5.0.3')).toBe(judged)
  })
  it('is not judged by a model where the plan has none', () => {
    expect(judgeRequest(claim, { model: 'A2X', firmware: '5.0.3' }, '', '5.0.3')).toBe('give')
  })
})

describe('managed devices', () => {
  it('are those that are configured, not what is merely attached', () => {
    expect(
      gullhavenPlan()
        .devices.filter(isManaged)
        .map((d) => d.kind),
    ).toEqual([
      'gateway',
      'switch',
      'access-point',
      'access-point',
      'switch',
      'access-point',
      'access-point',
      'bridge-radio',
      'bridge-radio',
      'switch',
    ])
  })
})
