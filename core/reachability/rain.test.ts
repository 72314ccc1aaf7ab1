import { describe, expect, it } from 'vitest'
import { parsePlan } from '#contracts/plan'
import { availableOverAir } from '#core/failover'
import { analyse } from '#core/findings'
import { conditionText, down, indexPlan, RAIN } from '#core/queries'
import { availabilityOf, lostInRain, radioLinks, spareDb } from '#core/radio'
import type { Link, Plan, RadioSettings } from '#core/schema'
import { gullhavenClean } from '#server/demo/gullhaven'
import { impactOf, singleFailures } from '.'

const changed = (plan: Plan, change: (link: Link) => Link): Plan => ({
  ...plan,
  links: plan.links.map(change),
})
const withRadio = (change: (radio: RadioSettings) => RadioSettings): Plan =>
  changed(gullhavenClean(), (link) =>
    link.medium.kind === 'radio'
      ? { ...link, medium: { ...link.medium, radio: change(link.medium.radio) } }
      : link,
  )
/** At 60 GHz a shower takes what 5.6 GHz does not notice. */
const fragile = withRadio((radio) => ({ ...radio, mhz: 60_000, rainMmPerHour: 60 }))
const bridge = (plan: Plan) => radioLinks(indexPlan(plan))[0]

describe('heavy rain', () => {
  it('takes the radio links that do not stand it, as if each of them were down', () => {
    const index = indexPlan(fragile)
    const id = bridge(fragile)?.id ?? ''
    expect([...lostInRain(index)]).toEqual([id])
    const lost = impactOf(index, [RAIN])
    expect(lost.length).toBeGreaterThan(0)
    expect(lost).toEqual(impactOf(index, [down(id)]))
  })

  it('takes a link whose weaker direction has nothing left in it, and none with a little to spare', () => {
    const path = bridge(gullhavenClean())?.path
    if (!path) throw new Error('the bridge is computed')
    const [out, back] = [spareDb(path, 0).rain, spareDb(path, 1).rain]
    expect([out, back].every((spare) => spare > 2)).toBe(true)
    /** The first end sends so much weaker that this is left of its direction. */
    const lostWith = (leftDb: number) =>
      lostInRain(
        indexPlan(
          withRadio(({ ends, ...radio }) => ({
            ...radio,
            ends: { ...ends, a: { ...ends.a, powerDbm: (ends.a.powerDbm ?? 0) - out + leftDb } },
          })),
        ),
      ).size
    expect([lostWith(-0.5), lostWith(0.5)]).toEqual([1, 0])
  })

  it('is what an intent can be asked to survive, by a name that no thing of the plan has', () => {
    const told = (plan: Plan) =>
      analyse(indexPlan(plan), []).findings.filter(
        ({ code, values }) => code === 'P01' && 'under' in values && values.under?.kind === 'rain',
      )
    const asked: Plan = {
      ...fragile,
      intents: fragile.intents.map((intent) => ({ ...intent, survives: ['rain'] })),
    }
    expect(told(asked).length).toBeGreaterThan(0)
    expect(told({ ...asked, links: gullhavenClean().links })).toEqual([])
    expect(parsePlan(asked).ok).toBe(true)
  })

  it('takes nothing where they stand it, and is only tried where a link can be held against it', () => {
    const sturdy = gullhavenClean()
    expect(lostInRain(indexPlan(sturdy)).size).toBe(0)
    expect(impactOf(indexPlan(sturdy), [RAIN])).toEqual([])
    const texts = (plan: Plan) => singleFailures(plan).map(conditionText)
    expect(texts(sturdy)).toContain('rain:')
    expect(texts(withRadio((radio) => ({ ...radio, rainMmPerHour: null })))).not.toContain('rain:')
    expect(texts(withRadio((radio) => ({ ...radio, widthMhz: null })))).not.toContain('rain:')
  })
})

describe('an uplink over the air', () => {
  it('works as much of the year as it and the radio links on its way do together', () => {
    const [uplink] = gullhavenClean().uplinks
    if (!uplink) throw new Error('the demo has an uplink')
    const radio = bridge(fragile)?.link.medium
    const plan: Plan = {
      ...changed(fragile, (link) =>
        radio &&
        [link.a, link.b].some((end) => end.deviceId === uplink.deviceId && end.portId === uplink.portId)
          ? { ...link, medium: radio }
          : link,
      ),
      uplinks: [{ ...uplink, availablePct: 99.5 }],
    }
    const link = radioLinks(indexPlan(plan)).find(
      ({ link: one }) => one.a.deviceId === uplink.deviceId || one.b.deviceId === uplink.deviceId,
    )
    const share = (link && availabilityOf(link)?.availablePct) ?? Number.NaN
    expect(share).toBeLessThan(100)
    const found = availableOverAir(indexPlan(plan), plan.uplinks[0] ?? uplink)
    expect(found?.links).toEqual([link?.names])
    expect(found?.availablePct).toBeCloseTo((99.5 * share) / 100, 9)
    const unknown = { ...uplink, availablePct: null }
    expect(availableOverAir(indexPlan(plan), unknown)?.availablePct).toBeNull()
  })

  it('an uplink by cables and lines alone has none', () => {
    const plan = gullhavenClean()
    expect(plan.uplinks.map((uplink) => availableOverAir(indexPlan(plan), uplink))).toEqual(
      plan.uplinks.map(() => null),
    )
  })
})
