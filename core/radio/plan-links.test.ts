import { describe, expect, it } from 'vitest'
import { BLANK_RADIO, connect } from '#core/edit'
import { indexPlan } from '#core/queries'
import type { Plan, RadioSettings } from '#core/schema'
import { gullhavenPlan } from '#server/demo/gullhaven'
import { ratesOf } from './link-rates'
import { freeRadioPorts, radioLinks, surveyedDbm } from './plan-links'

const with_ = (change: (radio: RadioSettings) => RadioSettings): Plan => {
  const plan = gullhavenPlan()
  const links = plan.links.map((link) =>
    link.medium.kind === 'radio'
      ? { ...link, medium: { ...link.medium, radio: change(link.medium.radio) } }
      : link,
  )
  return { ...plan, links }
}
const only = (plan: Plan) => {
  const [first, ...rest] = radioLinks(indexPlan(plan))
  if (!first || rest.length > 0) throw new Error('one radio link is expected')
  return first
}

describe('the radio links of a plan', () => {
  it('are computed once everything is said, in the order of their ends', () => {
    const { path, unsaid, names } = only(gullhavenPlan())
    expect([unsaid, names]).toEqual([[], ['Skerry bridge, end A', 'Skerry bridge, end B']])
    expect([path?.mhz, path?.widthMhz, path?.lengthM, path?.antennasM]).toEqual([5600, 40, 3400, [14, 9]])
  })
  it('will read what was surveyed, and what their antennas gain over that of the survey', () => {
    const surveyed = (readDbm: number | null, gainDbi: number | null) =>
      surveyedDbm(
        only(
          with_((radio) => ({
            ...radio,
            ends: { ...radio.ends, a: { ...radio.ends.a, gainDbi: 30, survey: { readDbm, gainDbi } } },
          })),
        ),
        'a',
      )
    expect(surveyed(-74, 13)).toBe(-57)
    expect([surveyed(null, 13), surveyed(-74, null)]).toEqual([null, null])
  })
  it('say what is still to be said, and are not computed until then', () => {
    const { path, unsaid } = only(with_(() => BLANK_RADIO))
    expect(path).toBeNull()
    expect(unsaid.map((one) => ('end' in one ? `${one.what} ${one.end}` : one.what))).toEqual([
      'frequency',
      'width',
      'antenna a',
      'power a',
      'gain a',
      'feeder a',
      'antenna b',
      'power b',
      'gain b',
      'feeder b',
    ])
    const half = only(
      with_((radio) => ({ ...radio, ends: { ...radio.ends, b: { ...radio.ends.b, gainDbi: null } } })),
    )
    expect([half.path, half.unsaid]).toEqual([null, [{ what: 'gain', end: 'b' }]])
  })
  it('carry what the slower direction does, and nothing is said of radios that are not', () => {
    const even = ratesOf(only(gullhavenPlan()))
    const louder = ratesOf(
      only(with_((radio) => ({ ...radio, ends: { ...radio.ends, a: { ...radio.ends.a, powerDbm: 23 } } }))),
    )
    expect(louder?.onAirMbps[0]).toBeGreaterThan(even?.onAirMbps[0] ?? 0)
    expect(louder?.onAirMbps[1]).toBe(even?.onAirMbps[1])
    expect(louder?.throughputMbps).toBe(even?.throughputMbps)
    expect(ratesOf(only(with_((radio) => ({ ...radio, generation: null }))))).toBeNull()
  })
  it('leave out what was surveyed behind a far end that came nearer', () => {
    const plan = gullhavenPlan()
    const shorter = plan.links.map((link) =>
      link.medium.kind === 'radio' ? { ...link, medium: { ...link.medium, lengthM: 1000 } } : link,
    )
    expect(only({ ...plan, links: shorter }).path?.points.map(({ atM }) => atM)).toEqual([60, 150])
  })
  it('begin between two bridges whose radios are free', () => {
    const plan = gullhavenPlan()
    expect(freeRadioPorts(indexPlan(plan))).toEqual([])
    const apart = { ...plan, links: plan.links.filter(({ medium }) => medium.kind !== 'radio') }
    const [first, second, ...rest] = freeRadioPorts(indexPlan(apart))
    if (!first || !second) throw new Error('two free radios are expected')
    expect(rest).toEqual([])
    const joined = connect(apart, first, second, { kind: 'radio', lengthM: 0, radio: BLANK_RADIO })
    expect(joined.ok && only(joined.value).unsaid[0]).toEqual({ what: 'distance' })
    expect(joined.ok && freeRadioPorts(indexPlan(joined.value))).toEqual([])
  })
})
