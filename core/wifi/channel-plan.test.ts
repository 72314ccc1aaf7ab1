import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import loadHighs from 'highs'
import type { Plan } from '#core/schema'
import { gullhavenPlan } from '#server/demo/gullhaven'
import { planChannels, type ChannelRadio } from './channel-plan'
import { wifiSceneOf } from './scene'
import { bestChannels, conflictOf, siteChannels } from './site-channels'

const node = (id: number, choices: readonly number[] = [1, 6, 11]): ChannelRadio => ({
  id: `r${id}`,
  band: '2.4',
  widthMhz: 20,
  choices,
  fixed: null,
  foreign: [],
})
const nodes = (count: number) => Array.from({ length: count }, (_, i) => node(i))

describe('a channel plan', () => {
  it('of three that hear each other has three channels, and costs nothing', () => {
    const plan = planChannels(nodes(3), () => -60)
    expect(new Set(plan.channels)).toEqual(new Set([1, 6, 11]))
    expect([plan.cost, plan.bound]).toEqual([0, 0])
  })
  it('puts the fourth on the channel of whom it hears least', () => {
    const plan = planChannels(nodes(4), (i, j) =>
      i + j === 4 && i !== j && Math.min(i, j) === 1 ? -85 : -50,
    )
    expect(plan.channels[1]).toBe(plan.channels[3])
    expect(plan.cost).toBeCloseTo(5, 9)
  })
  it('leaves the channels of others alone, and counts what overlaps by its part', () => {
    const heard = { band: '2.4', channel: 3, widthMhz: 20, levelDbm: -50 } as const
    // Channel 3 takes 2,412 to 2,432: half of channel 1, a quarter of 6, none of 11.
    expect(planChannels([{ ...node(0), foreign: [heard] }], () => -100).channels).toEqual([11])
    const both = planChannels([{ ...node(0, [1, 6]), foreign: [heard] }], () => -100)
    expect([both.channels, both.cost]).toEqual([[6], 10])
    const other = { ...heard, band: '5' } as const
    expect(planChannels([{ ...node(0, [1]), foreign: [other] }], () => -100).cost).toBe(0)
  })
  it('keeps a channel that is fixed', () => {
    const plan = planChannels([{ ...node(0), fixed: 6 }, node(1), node(2)], () => -60)
    expect(plan.channels[0]).toBe(6)
    expect(new Set(plan.channels).size).toBe(3)
  })
  const levels = (count: number) =>
    fc.array(fc.array(fc.integer({ min: -100, max: -30 }), { minLength: count, maxLength: count }), {
      minLength: count,
      maxLength: count,
    })
  const hearing = (table: number[][]) => (i: number, j: number) =>
    Math.max(table[i]?.[j] ?? 0, table[j]?.[i] ?? 0)
  const sum = (channels: readonly number[], hears: (i: number, j: number) => number) =>
    channels.reduce(
      (total, channel, i) =>
        total +
        channels
          .slice(i + 1)
          .reduce((s, other, k) => s + (other === channel ? Math.max(0, hears(i, i + 1 + k) + 90) : 0), 0),
      0,
    )
  it('is as good as trying everything, for six', () => {
    fc.assert(
      fc.property(levels(6), (table) => {
        const hears = hearing(table)
        let least = Infinity
        for (let code = 0; code < 3 ** 6; code++) {
          const channels = Array.from(
            { length: 6 },
            (_, i) => [1, 6, 11][Math.floor(code / 3 ** i) % 3] as number,
          )
          least = Math.min(least, sum(channels, hears))
        }
        const plan = planChannels(nodes(6), hears)
        expect(plan.cost).toBeCloseTo(least, 6)
        expect(sum(plan.channels, hears)).toBeCloseTo(least, 6)
      }),
      { numRuns: 60 },
    )
  })
  /** The same as an integer programme: a 0/1 for each radio and channel, and one for each pair that shares one. */
  async function byIntegerProgramme(count: number, hears: (i: number, j: number) => number): Promise<number> {
    const channels = [1, 6, 11]
    const radios = Array.from({ length: count }, (_, i) => i)
    const pairs = radios
      .flatMap((i) => radios.slice(i + 1).map((j) => ({ i, j, costs: Math.max(0, hears(i, j) + 90) })))
      .filter(({ costs }) => costs > 0)
    const model = [
      'Minimize',
      ` cost: ${pairs.map(({ i, j, costs }) => `${costs} p_${i}_${j}`).join(' + ') || '0 x_0_1'}`,
      'Subject To',
      ...radios.map((i) => ` one_${i}: ${channels.map((channel) => `x_${i}_${channel}`).join(' + ')} = 1`),
      ...pairs.flatMap(({ i, j }) =>
        channels.map(
          (channel) => ` s_${i}_${j}_${channel}: x_${i}_${channel} + x_${j}_${channel} - p_${i}_${j} <= 1`,
        ),
      ),
      'Binary',
      ...radios.map((i) => ` ${channels.map((channel) => `x_${i}_${channel}`).join(' ')}`),
      ...pairs.map(({ i, j }) => ` p_${i}_${j}`),
      'End',
    ].join('\n')
    return (await loadHighs()).solve(model).ObjectiveValue
  }
  it('of twelve that hear some of each other is what an integer programme finds', async () => {
    await fc.assert(
      fc.asyncProperty(levels(12), async (table) => {
        // Who hears whom by chance: most pairs are walls apart.
        const hears = (i: number, j: number) => hearing(table)(i, j) - 30
        const plan = planChannels(nodes(12), hears)
        expect(plan.bound).toBe(plan.cost)
        expect(plan.cost).toBeCloseTo(await byIntegerProgramme(12, hears), 4)
      }),
      { numRuns: 4 },
    )
  }, 120_000)
  it('of many is no better than its bound, costs what it says, and no single change betters it', () => {
    fc.assert(
      fc.property(levels(20), (table) => {
        const hears = hearing(table)
        const plan = planChannels(nodes(20), hears)
        expect(plan.bound).toBeLessThanOrEqual(plan.cost + 1e-9)
        expect(sum(plan.channels, hears)).toBeCloseTo(plan.cost, 6)
        for (let i = 0; i < 20; i++)
          for (const channel of [1, 6, 11])
            expect(sum(plan.channels.with(i, channel), hears)).toBeGreaterThanOrEqual(plan.cost - 1e-6)
      }),
      { numRuns: 20 },
    )
  })
  it('of a site takes what its country permits, and says how many hang nowhere', () => {
    const base = gullhavenPlan()
    const plan: Plan = { ...base, site: { ...base.site, country: 'US' } }
    const channels = siteChannels(wifiSceneOf(plan), '2.4')
    expect(channels?.radios).toHaveLength(4)
    expect(channels?.unplaced).toBe(1)
    // The laboratory's two stay apart from each other and from the harbour's network on channel 11.
    const [first, second] = channels ? bestChannels(channels).channels : []
    expect(first).not.toBe(second)
    expect(second).not.toBe(11)
    expect(siteChannels(wifiSceneOf(plan), '6')).toBeNull()
  })
  it('that is better is found for the demo’s two access points on one channel, and nothing after it', () => {
    const plan = gullhavenPlan()
    const conflict = conflictOf(wifiSceneOf(plan), '2.4')
    expect([conflict?.loudest.first.deviceId, conflict?.loudest.second.deviceId]).toEqual([
      'lab-ap-1',
      'lab-ap-2',
    ])
    const moved = new Map(conflict?.moves.map(({ radio, channel }) => [radio.id, channel]))
    const radios = plan.wifi.radios.map((radio) => ({
      ...radio,
      channel: moved.get(radio.id) ?? radio.channel,
    }))
    expect(conflictOf(wifiSceneOf({ ...plan, wifi: { ...plan.wifi, radios } }), '2.4')).toBeNull()
    expect(conflictOf(wifiSceneOf(plan), '5')).toBeNull()
  })
  it('takes a channel without trouble before one on which it would be too strong', () => {
    const plan = gullhavenPlan()
    // Great Britain permits 23.01 dBm on 36 to 48, 20 on 52 to 64: at 21 dBm EIRP the first alone are right.
    const scene = wifiSceneOf({ ...plan, site: { ...plan.site, country: 'GB' } })
    expect(siteChannels(scene, '5')?.problem[0]?.choices).toEqual([
      36, 44, 100, 108, 116, 124, 132, 140, 149, 157,
    ])
  })
  it('that is given up is still bounded, and never said to be better than it is', () => {
    // Fourteen that all hear each other, on eight channels: too many alike to be tried to the end.
    const many = Array.from({ length: 14 }, (_, i): ChannelRadio => ({
      ...node(i, [36, 40, 44, 48, 52, 56, 60, 64]),
      band: '5',
    }))
    const plan = planChannels(many, (i, j) => -60 + ((i * 7 + j * 13) % 3))
    expect(plan.bound).toBeLessThanOrEqual(plan.cost)
    expect(plan.cost).toBeLessThan(14 * 13 * 16)
  })
})
