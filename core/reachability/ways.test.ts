import { down, upstreamDown } from '#core/queries'
import { describe, expect, it } from 'vitest'
import { inNetwork, link } from '#server/demo/build'
import { BLANK_PORT } from '#core/edit'
import { includes } from '#core/filter'
import { the } from '../../tests/plans'
import { flowBetween, walkFlow, INTERNET, type Site } from '.'
import {
  type Change,
  spare,
  opened,
  ip,
  party,
  OUT,
  between,
  PROBE,
  fromDesk,
} from '../../tests/fixtures/ways'

describe('several uplinks', () => {
  it('a dark uplink is given up where it is probed, and swallows everything where it is not', () => {
    const probed: Change = (p) => (spare(p), void (the(p.uplinks, 'line').probe = PROBE))
    expect(fromDesk(opened(probed, [upstreamDown('line')]))).toBe('all')
    expect(fromDesk(opened(spare, [upstreamDown('line')]))).toBe('upstream-down')
    expect(fromDesk(opened(spare, [down('line')]))).toBe('all')
    expect(fromDesk(opened(spare, [down('line'), down('spare')]))).toBe('no-uplink')
  })
  it('of routes to one prefix the lower metric is used', () => {
    const of = (first: number, second: number) =>
      opened(
        (plan) =>
          void plan.routes.push(
            { id: 'a', deviceId: 'gate', prefix: '10.8.0.0/16', via: '10.9.10.2', metric: first },
            { id: 'b', deviceId: 'gate', prefix: '10.8.0.0/16', via: '10.9.20.2', metric: second },
          ),
      )
    const used = (s: Site) => s.routes.get('gate')?.entries.find((r) => r.kind === 'static')?.via
    expect([used(of(5, 9)), used(of(9, 5))]).toEqual(['10.9.10.2', '10.9.20.2'])
  })
})

describe('policy routes', () => {
  const choose =
    (orElse: 'next' | 'refuse'): Change =>
    (plan) => {
      spare(plan)
      plan.policyRoutes.push({
        id: 'c',
        deviceId: 'gate',
        from: inNetwork('staff'),
        services: ['https'],
        out: { kind: 'uplink', id: 'spare' },
        orElse,
        note: '',
      })
    }
  const exitOf = (site: Site, port: number) =>
    walkFlow(site, {
      from: 'desk',
      fromAddress: ip('10.9.10.100'),
      to: INTERNET,
      toAddress: ip(OUT),
      proto: 'tcp',
      port,
    })?.lines.flatMap((line) => {
      if (line.kind === 'translate') return [line.exit.id]
      if (line.kind === 'stopped') return [line.code]
      return []
    })
  it('send the services they name by their uplink, and the rest in order', () => {
    const site = opened(choose('next'))
    expect([exitOf(site, 443), exitOf(site, 22)]).toEqual([['spare'], ['line']])
    expect(fromDesk(site)).toBe('all')
  })
  it('take the next uplink, or refuse, while theirs is down', () => {
    expect(exitOf(opened(choose('next'), [down('spare')]), 443)).toEqual(['line'])
    const refused = opened(choose('refuse'), [down('spare')])
    expect(exitOf(refused, 443)).toEqual(['route-refused'])
    expect(fromDesk(refused)).toBe('tcp 0-442 444-65535, udp all, icmp')
  })
  it('leave alone what has a route of its own', () => {
    expect(
      between(opened(choose('refuse'), [down('spare')]), 'desk', '10.9.10.100', 'box', '10.9.20.10'),
    ).toBe('tcp 443, icmp')
  })
  it('come before a static default route, which has the rest', () => {
    const site = opened(
      (plan) => (
        choose('next')(plan),
        void plan.routes.push({
          id: 'd',
          deviceId: 'gate',
          prefix: '0.0.0.0/0',
          via: '10.9.20.77',
          metric: 0,
        })
      ),
    )
    // The next hop of the static route is nobody: what the policy route took still passes.
    expect(fromDesk(site)).toBe('tcp 443')
  })
})

describe('an uplink that a policy route chooses', () => {
  it('swallows what takes it while it is dark and nobody probes, and nothing else', () => {
    const chosen: Change = (plan) => (
      spare(plan),
      void plan.policyRoutes.push({
        id: 'c',
        deviceId: 'gate',
        from: inNetwork('staff'),
        services: ['https'],
        out: { kind: 'uplink', id: 'spare' },
        orElse: 'next',
        note: '',
      })
    )
    const https = (site: Site) =>
      includes(
        flowBetween(
          site,
          { party: party(site, 'desk'), address: ip('10.9.10.100') },
          { party: party(site, 'internet'), address: ip(OUT) },
        ).services,
        'tcp',
        443,
      )
    const ssh = (site: Site) =>
      includes(
        flowBetween(
          site,
          { party: party(site, 'desk'), address: ip('10.9.10.100') },
          { party: party(site, 'internet'), address: ip(OUT) },
        ).services,
        'tcp',
        22,
      )
    expect([
      https(opened(chosen)),
      https(opened(chosen, [upstreamDown('spare')])),
      ssh(opened(chosen, [upstreamDown('spare')])),
    ]).toEqual([true, false, true])
  })
})

describe('uplinks that share', () => {
  const three: Change = (plan) => {
    spare(plan)
    the(plan.devices, 'gate').ports.push({ id: 'p4', name: '4', mode: { mode: 'wan' }, ...BLANK_PORT })
    the(plan.devices, 'internet').ports.push({ id: 'p3', name: '3', mode: { mode: 'plain' }, ...BLANK_PORT })
    plan.links.push(link('internet:3', 'gate:4', { kind: 'line' }))
    plan.uplinks.push({
      ...structuredClone(the(plan.uplinks, 'spare')),
      id: 'third',
      name: 'Third',
      portId: 'p4',
    })
  }
  it('two that wait share when it is their turn: what one of them loses in the dark is promised to nobody then', () => {
    expect([
      fromDesk(opened(three)),
      fromDesk(opened(three, [upstreamDown('third')])),
      fromDesk(opened(three, [down('line'), down('spare')])),
    ]).toEqual(['all', 'all', 'all'])
    expect(fromDesk(opened(three, [down('line'), upstreamDown('third')]))).toBe('upstream-down')
    expect(
      fromDesk(
        opened(
          (p) => (three(p), void (the(p.uplinks, 'third').priority = 3)),
          [down('line'), upstreamDown('third')],
        ),
      ),
    ).toBe('all')
  })
  const shared: Change = (p) => (spare(p), p.uplinks.forEach((u) => (u.priority = 1)))
  it('hold each other up, and promise nothing while one of them is dark and nobody probes', () => {
    expect(fromDesk(opened(shared))).toBe('all')
    expect([
      fromDesk(opened(shared, [down('line')])),
      fromDesk(opened(shared, [down('spare')])),
      fromDesk(opened(shared, [down('line'), down('spare')])),
    ]).toEqual(['all', 'all', 'no-uplink'])
    expect([
      fromDesk(opened(shared, [upstreamDown('spare')])),
      fromDesk(opened(shared, [upstreamDown('line')])),
    ]).toEqual(['upstream-down', 'upstream-down'])
    expect(
      fromDesk(
        opened((p) => (shared(p), p.uplinks.forEach((u) => (u.probe = PROBE))), [upstreamDown('spare')]),
      ),
    ).toBe('all')
    // A line that only waits takes nobody before its time.
    expect(fromDesk(opened(spare, [upstreamDown('spare')]))).toBe('all')
  })
})
