import { describe, expect, it } from 'vitest'
import { inNetwork, rule, draft } from '#server/demo/build'
import { gullhavenClean } from '#server/demo/gullhaven'
import { indexPlan, MODELS } from '#core/queries'
import { linkRates } from '#core/radio'
import type { Plan } from '#core/schema'
import { site, the, type LoosePlan } from '../../tests/plans'
import { capacityOf, openSite, secondsToMove, pathSegments, walkFlow } from '.'
import { farTunnel } from '../../tests/fixtures/tunnels'

const walkOf = (plan: Plan, from: string, to: string, port = 443) => {
  const opened = openSite(indexPlan(plan), [])
  const at = (id: string) => opened.endpoints.find((e) => e.id === id)?.ranges[0]?.from ?? 0xc6336407
  const walk = walkFlow(opened, { from, fromAddress: at(from), to, toAddress: at(to), proto: 'tcp', port })
  if (!walk) throw new Error('no walk')
  return { index: indexPlan(plan), walk }
}
const told = ({ index, walk }: ReturnType<typeof walkOf>) => {
  const { there, back, unknown } = capacityOf(index, walk)
  return [
    there && `${there.mbps} by ${there.stage.kind} ${there.stage.id}`,
    back && `${back.mbps} by ${back.stage.kind} ${back.stage.id}`,
    unknown,
  ]
}

describe('what a way carries', () => {
  it('is the uplink’s upload there and its download back', () => {
    // 100 down, 20 up; the switch is an S8P, the other ends are of no known model.
    expect(told(walkOf(site(), 'desk', 'internet'))).toEqual(['20 by uplink line', '100 by uplink line', 2])
  })
  it('is a cable where that is narrower, both ways', () => {
    const plan = site((plan: LoosePlan) => {
      for (const [deviceId, portId] of [
        ['sw', 'p2'],
        ['desk', 'p1'],
      ] as const)
        the(the(plan.devices, deviceId).ports, portId).speedMbps = 10
      the(plan.devices, 'desk').model = 'S8P'
    })
    expect(told(walkOf(plan, 'desk', 'internet')).slice(0, 2)).toEqual([
      '10 by link sw.2-desk.1',
      '10 by link sw.2-desk.1',
    ])
  })
  it('is what the gateway inspects, where that is least', () => {
    const plan = site((plan) => {
      plan.models.push({
        ...draft(MODELS[0]!),
        name: 'SLOW',
        label: '',
        kind: 'gateway',
        ports: [],
        inspectionMbps: 5,
      })
      the(plan.devices, 'gate').model = 'SLOW'
    })
    expect(told(walkOf(plan, 'desk', 'box')).slice(0, 2)).toEqual([
      '5 by inspection gate',
      '5 by inspection gate',
    ])
  })
  it('is what a radio link carries, and unknown while that is not computed', () => {
    const plan = gullhavenClean()
    const carried = linkRates(indexPlan(plan), the(plan.links, 'bridge-a.radio-bridge-b.radio').id)
    const over = told(walkOf(plan, 'mast-logger', 'tide-server'))
    expect(over[0]).toBe(`${carried?.throughputMbps} by link bridge-a.radio-bridge-b.radio`)
    const unsaid = draft(plan)
    for (const { medium } of unsaid.links) if (medium.kind === 'radio') medium.radio.streams = null
    const after = told(walkOf(unsaid, 'mast-logger', 'tide-server'))
    expect(after[0]).not.toContain('bridge-a')
    expect(after[2]).toBe(Number(over[2]) + 1)
  })
  it('comes in by a port forward the other way round', () => {
    const plan = site((plan) => {
      plan.forwards.push({
        id: 'f',
        deviceId: 'gate',
        uplinkId: 'line',
        proto: 'tcp',
        from: 443,
        to: 443,
        toAddress: '10.9.20.10',
        toPort: 443,
        hairpin: false,
        note: '',
      })
      plan.policies[0]!.rules.push(rule('in', { kind: 'internet' }, inNetwork('servers'), ['https'], ''))
    })
    expect(told(walkOf(plan, 'internet', 'box')).slice(0, 2)).toEqual([
      '100 by uplink line',
      '20 by uplink line',
    ])
  })
  it('through a tunnel is what both ends’ uplinks carry, one’s upload being the other’s download', () => {
    const plan = site((plan) => {
      plan.tunnels.push(farTunnel({ downMbps: 200, upMbps: 50 }))
      plan.policies[0]!.rules.push(
        rule('t', inNetwork('staff'), { kind: 'peer', id: 'far' }, ['https'], ''),
        rule('u', { kind: 'peer', id: 'far' }, inNetwork('staff'), ['https'], ''),
      )
    })
    // Ours 100 down, 20 up.
    const walked = (from: string, to: string) => {
      const opened = openSite(indexPlan(plan), [])
      const at = (id: string) => opened.endpoints.find((e) => e.id === id)?.ranges[0]?.from ?? 0x0a140001
      const walk = walkFlow(opened, {
        from,
        fromAddress: at(from),
        to,
        toAddress: at(to),
        proto: 'tcp',
        port: 443,
      })
      return walk ? told({ index: indexPlan(plan), walk }).slice(0, 2) : null
    }
    expect(walked('desk', 'peer:far')).toEqual(['20 by uplink line', '50 by far far'])
    expect(walked('peer:far', 'desk')).toEqual(['50 by far far', '20 by uplink line'])
  })
  it('counts each stage once, in order', () => {
    const { index, walk } = walkOf(gullhavenClean(), 'admin-desk', 'internet')
    const stages = pathSegments(index, walk).map((s) => `${s.kind} ${s.id}`)
    expect(new Set(stages).size).toBe(stages.length)
    expect(stages).toContain('uplink fibre')
  })
  // 10^9 bytes are 8,000 Mb; of 1,538 octets on the wire 1,460 are payload (RFC 793 over RFC 791 over IEEE
  // 802.3).
  it('takes so long to move so much', () =>
    expect(secondsToMove(1, 100)).toBeCloseTo((8000 / 100) * (1538 / 1460), 6))
})
