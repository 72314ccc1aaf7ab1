import { describe, expect, it } from 'vitest'
import { portOf, site } from '../../tests/plans'
import { trunk } from '#server/demo/build'
import { indexPlan, down } from '#core/queries'
import { currentFlow, INTERNET, openSite, walkFlow } from '.'
import { type Change, gridOf, walkOf } from '../../tests/fixtures/reachability'

describe('the walk', () => {
  it('goes hop by hop with the tag on each wire', () => {
    const lines = walkOf('staff', 'servers')?.lines ?? []
    expect(lines.map((l) => (l.kind === 'hop' ? `${l.out.deviceId} ${l.tag}` : l.kind))).toEqual([
      'host',
      'desk 0',
      'sw 10',
      'route',
      'rule',
      'gate 20',
      'sw 0',
      'delivered',
    ])
  })
  it(
    'ends at the port that drops the VLAN: the sender where it does not send, the ' +
      'receiver where it does not take',
    () => {
      const dropped = (change: Change) =>
        walkOf('staff', INTERNET, change)?.lines.flatMap((line) =>
          line.kind === 'dropped-at' ? [`${line.port.deviceId} ${line.port.portId}`] : [],
        )
      expect(dropped((p) => void (portOf(p, 'sw', 'p1').mode = trunk(99, 20)))).toEqual(['sw p1'])
      expect(dropped((p) => void (portOf(p, 'gate', 'p2').mode = trunk(99, 20)))).toEqual(['gate p2'])
    },
  )
  it('is null where an end is gone', () => {
    const flow = gridOf().cell('staff', 'servers').example
    expect(flow && walkFlow(openSite(indexPlan(site()), [down('box')]), flow)).toBeNull()
  })
})

describe('a flow whose end has another address by now', () => {
  it('starts from what it may have, and keeps what it still has', () => {
    const opened = openSite(indexPlan(site()), [])
    const flow = {
      from: 'desk',
      fromAddress: 0xa9fe0101,
      to: 'box',
      toAddress: 0x0a09140a,
      proto: 'tcp' as const,
      port: 443,
    }
    expect(walkFlow(opened, currentFlow(opened, flow))).toMatchObject({
      passes: true,
      fromText: '10.9.10.100',
      toText: '10.9.20.10',
    })
    expect(currentFlow(opened, { ...flow, fromAddress: 0x0a090a70 }).fromAddress).toBe(0x0a090a70)
  })
})
