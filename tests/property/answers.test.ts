import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { ipv4 } from '#core/address'
import { chance } from '#core/util'
import { analyse, findingKey, withRepairs } from '#core/findings'
import { applyChanges } from '#core/edit'
import { createEngine, indexPlan, down, atInstant } from '#core/queries'
import type { Plan } from '#core/schema'
import { formatServices, includes, intersect, isNothing, minus, NOTHING, union } from '#core/filter'
import { computeMatrix, flowBetween, openSite, walkFlow, type Party } from '#core/reachability'
import { gullhavenPlan } from '#server/demo/gullhaven'
import { site } from '../plans'
import { randomEdit } from '../twin/random'
import { timed, plan, scenario, editedAlike } from '../fixtures/engine'
import { MOVED, NOTICED } from '../fixtures/noticed'

/** Monday and Saturday, nine o'clock. */
const WORKDAY = atInstant(9 * 60)
const WEEKEND = atInstant((5 * 24 + 9) * 60)

describe('what is said of any plan', () => {
  it.each([
    [[], timed, NOTICED],
    [[down('line')], timed, NOTICED],
    [[atInstant(9 * 60)], timed, NOTICED],
    [[down('gate.2-sw.1')], timed, NOTICED],
    [[], site(), MOVED],
  ])('notices each of a row of edits, under %j', (sky, start, edits) => {
    let held = structuredClone(start) as Plan
    const engine = createEngine()
    analyse(engine.index(held), sky)
    for (const [what, edit] of edits) {
      const next = editedAlike(engine, held, edit, sky)
      expect(next, what).not.toBe(held)
      held = next
    }
  })

  it('what is missing was meant and does not pass everywhere; what is in excess passes somewhere', () => {
    fc.assert(
      fc.property(plan, scenario, (plan, sky) => {
        for (const cell of computeMatrix(indexPlan(plan), sky).cells) {
          expect(minus(cell.missing, cell.intended)).toEqual(NOTHING)
          expect(isNothing(intersect(cell.missing, cell.allPairs))).toBe(true)
          expect(minus(cell.unexpected, union(cell.allPairs, cell.somePairs))).toEqual(NOTHING)
          if (!cell.judged) expect(cell.unexpected).toEqual(NOTHING)
        }
      }),
      { numRuns: 200 },
    )
  })

  it('a walk ends as the grid says: what passes everywhere is delivered, what passes nowhere is stopped', () => {
    fc.assert(
      fc.property(
        plan,
        scenario,
        fc.constantFrom(['tcp', 443], ['tcp', 22], ['udp', 53], ['icmp', 0]),
        (plan, sky, [proto, port]) => {
          const site = openSite(indexPlan(plan), sky)
          for (const cell of computeMatrix(indexPlan(plan), sky).cells) {
            if (!cell.example) continue
            const flow = { ...cell.example, proto: proto as 'tcp', port: Number(port) }
            const walk = walkFlow(site, flow)
            if (!walk) continue
            if (includes(cell.allPairs, proto as 'tcp', Number(port))) expect(walk.passes).toBe(true)
            else if (!includes(cell.somePairs, proto as 'tcp', Number(port))) expect(walk.passes).toBe(false)
            expect(walk.lines.at(-1)?.kind).toBe(walk.passes ? 'delivered' : 'stopped')
          }
        },
      ),
      { numRuns: 200 },
    )
  })

  it('at a moment is as a plan that has the rules and intents of that moment for good', () => {
    fc.assert(
      fc.property(plan, fc.constantFrom(WORKDAY, WEEKEND), (plan, moment) => {
        const there = ({ when }: { readonly when: string | null }) => when === null || moment === WORKDAY
        const always = <T extends { readonly when: string | null }>(items: readonly T[]) =>
          items.filter(there).map((item) => ({ ...item, when: null }))
        const fixed: Plan = {
          ...plan,
          schedules: [],
          intents: always(plan.intents),
          policies: plan.policies.map((policy) => ({ ...policy, rules: always(policy.rules) })),
        }
        const said = (grid: ReturnType<typeof computeMatrix>) =>
          grid.cells.map(
            ({ from, to, allPairs: everywhere, somePairs: somewhere, missing, unexpected: excess }) => ({
              from,
              to,
              everywhere,
              all: union(everywhere, somewhere),
              missing,
              excess,
            }),
          )
        expect(said(computeMatrix(indexPlan(plan), [moment]))).toEqual(
          said(computeMatrix(indexPlan(fixed), [])),
        )
      }),
      { numRuns: 150 },
    )
  })

  it('one accepting rule less never lets more pass', () => {
    fc.assert(
      fc.property(plan, fc.nat(8), (plan, nth) => {
        const gone = plan.policies[0]?.rules[nth]
        if (gone?.action !== 'accept') return
        const less = {
          ...plan,
          policies: plan.policies.map((policy, i) =>
            i === 0 ? { ...policy, rules: policy.rules.filter((r) => r !== gone) } : policy,
          ),
        }
        const before = computeMatrix(indexPlan(plan), [])
        computeMatrix(indexPlan(less), []).cells.forEach((cell, i) => {
          const was = before.cells[i]
          expect(was && isNothing(minus(cell.allPairs, was.allPairs))).toBe(true)
        })
      }),
      { numRuns: 300 },
    )
  })

  it('a million flows, between any two parties and addresses of any plan, each end in an answer of its own', () => {
    // Each plan is asked so many flows at once; what the walks of a few of them say must be what the flow
    // itself says.
    const [PLANS, EACH, WALKED] = [2000, 500, 2]
    let asked = 0
    let passed = 0
    const codes = new Set<string>()
    fc.assert(
      fc.property(plan, scenario, fc.integer({ min: 1, max: 2 ** 31 - 1 }), (plan, sky, seed) => {
        const site = openSite(indexPlan(plan), sky)
        const next = chance(seed)
        const pick = <T>(items: readonly T[]): T => items[Math.floor(next() * items.length)] as T
        const parties: readonly Party[] = [
          ...site.endpoints.map((endpoint): Party => ({ kind: 'endpoint', endpoint })),
          { kind: 'gateway', deviceId: 'gate' },
          { kind: 'internet' },
        ]
        const near = [
          ...site.interfaces.map((f): number => f.address),
          ...site.endpoints.flatMap((e) => e.ranges.flatMap((r): number[] => [r.from, r.to])),
        ]
        const any = () => ipv4(near.length > 0 && next() < 0.7 ? pick(near) : Math.floor(next() * 2 ** 32))
        const idOf = (party: Party) => (party.kind === 'endpoint' ? party.endpoint.id : party.kind)
        for (let n = 0; n < EACH; n++) {
          const [from, to, first, second] = [pick(parties), pick(parties), any(), any()]
          const flow = flowBetween(site, { party: from, address: first }, { party: to, address: second })
          asked++
          if (flow.stop !== null) codes.add(flow.stop)
          if (flow.stop !== null && !isNothing(flow.services))
            throw new Error(`stopped by ${flow.stop}, and passes all the same`)
          if (!isNothing(flow.services)) passed++
          if (n >= WALKED) continue
          const port = Math.floor(next() * 65536)
          const walk = walkFlow(site, {
            from: idOf(from),
            fromAddress: first,
            to: idOf(to),
            toAddress: second,
            proto: 'tcp',
            port,
          })
          if (walk && from.kind !== 'gateway' && to.kind !== 'gateway')
            expect([walk.passes, walk.lines.length < 200]).toEqual([
              includes(flow.services, 'tcp', port),
              true,
            ])
        }
      }),
      { numRuns: PLANS },
    )
    expect(asked).toBe(1_000_000)
    // Fuzz that always meets the same end would say little.
    expect(passed).toBeGreaterThan(1000)
    expect(codes.size).toBeGreaterThanOrEqual(8)
  }, 300_000)

  it('flows between addresses that are nobody’s end, and end stopped', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 0xffffffff }), fc.integer({ min: 0, max: 65535 }), (to, port) => {
        const site = openSite(indexPlan(gullhavenPlan()), [])
        const walk = walkFlow(site, {
          from: 'desks',
          fromAddress: ipv4(0x0a3d0164),
          to: 'file-server',
          toAddress: to,
          proto: 'tcp',
          port,
        })
        expect(walk?.lines.at(-1)?.kind).toMatch(/delivered|stopped/)
      }),
      { numRuns: 100 },
    )
  })
})

describe('a rule that mends a plan by chance', () => {
  it('ends what it was told for and takes nothing from an intent', () => {
    let tried = 0
    fc.assert(
      fc.property(fc.array(randomEdit, { minLength: 1, maxLength: 4 }), (edits) => {
        const plan = site((p) => edits.forEach((e) => e(p)))
        const before = analyse(indexPlan(plan), [])
        for (const finding of withRepairs(indexPlan(plan), before.findings).filter(
          (f) => ['P01', 'P06', 'P08'].includes(f.code) && f.mend,
        )) {
          tried++
          const after = applyChanges(plan, finding.mend?.changes ?? [])
          if (!after.ok) throw new Error('does not fit')
          const now = analyse(indexPlan(after.value), [])
          expect(now.findings.map(findingKey)).not.toContain(findingKey(finding))
          for (const verdict of now.grid.verdicts) {
            const was = before.grid.verdicts.find((v) => v.intentId === verdict.intentId)
            expect(
              formatServices(minus(verdict.missing, was?.missing ?? verdict.missing)),
              findingKey(finding),
            ).toBe('nothing')
          }
        }
      }),
      { seed: 68, numRuns: 150 },
    )
    expect(tried).toBeGreaterThan(20)
  })
})
