import { down, indexPlan } from '#core/queries'
import { describe, expect, it } from 'vitest'
import { inNetwork, internet, rule, theDevice } from '#server/demo/build'
import type { FailureScenario } from '#core/queries'
import { formatServices } from '#core/filter'
import { aTunnel } from '../../tests/fixtures/tunnels'
import { site, the } from '../../tests/plans'
import { handedOver } from '../../tests/twin/cases-ipv6'
import { callFromInside, callsFromInside, matrixOf, openIpv6Site, walkFlow, INTERNET, type Site } from '.'
import { type Change, rules, spare, opened, ip, OUT, between } from '../../tests/fixtures/ways'

describe('port forwards', () => {
  const handed: Change = (plan) => {
    plan.forwards.push({
      id: 'web',
      deviceId: 'gate',
      uplinkId: 'line',
      proto: 'tcp',
      from: 8443,
      to: 8445,
      toAddress: '10.9.20.10',
      toPort: 443,
      hairpin: false,
      note: '',
    })
    rules(plan).push(rule('f', internet, theDevice('box'), ['https'], ''))
  }
  const fromOutside = (s: Site) => between(s, 'internet', OUT, 'box', '10.9.20.10')
  it('let in what they name and the rules accept, under the port inside', () => {
    expect(fromOutside(opened(handed))).toBe('tcp 443')
    expect(fromOutside(opened((p) => (handed(p), void rules(p).pop())))).toBe('nothing')
    expect(fromOutside(opened(() => undefined))).toBe('not-addressable')
  })
  it('need an uplink that can be called', () => {
    expect(fromOutside(opened(handed, [down('line')]))).toBe('no-uplink')
    expect(fromOutside(opened((p) => (handed(p), spare(p)), [down('line')]))).toBe('shared-address')
    expect(fromOutside(opened((p) => (handed(p), void (the(p.uplinks, 'line').outside = 'shared'))))).toBe(
      'shared-address',
    )
    const behind: Change = (p) => (handed(p), void (the(p.uplinks, 'line').facts.modem = 'routing'))
    expect(fromOutside(opened(behind))).toBe('shared-address')
    expect(
      fromOutside(opened((p) => (behind(p), void (the(p.uplinks, 'line').facts.modemForwards = true)))),
    ).toBe('tcp 443')
  })
  it('may lead back to the gateway, by one of its addresses: its port stays its own, and is got by another', () => {
    const back =
      (toPort: number): Change =>
      (plan) => {
        handed(plan)
        for (const policy of plan.policies) policy.input = 'accept'
        Object.assign(plan.forwards[0]!, { toAddress: '10.9.20.1', from: 443, to: 443, toPort })
      }
    const atGateway = (change: Change) => between(opened(change), 'internet', OUT, 'gateway', OUT)
    expect(atGateway(back(443))).toBe('all')
    expect(atGateway(back(22))).toBe('tcp 0-442 444-65535, udp all, icmp')
  })
  it('are told in the walk', () => {
    const lines =
      walkFlow(opened(handed), {
        from: INTERNET,
        fromAddress: ip(OUT),
        to: 'box',
        toAddress: ip('10.9.20.10'),
        proto: 'tcp',
        port: 443,
      })?.lines ?? []
    expect(lines.map((l) => l.kind).slice(0, 2)).toEqual(['forwarded', 'route'])
    expect(lines.at(-1)?.kind).toBe('delivered')
  })
})

describe('a forward called from inside', () => {
  const handed: Change = (plan) =>
    void plan.forwards.push({
      id: 'web',
      deviceId: 'gate',
      uplinkId: 'line',
      proto: 'tcp',
      from: 8443,
      to: 8444,
      toAddress: '10.9.20.10',
      toPort: 443,
      hairpin: true,
      note: '',
    })
  const called = (change: Change, id = 'desk', scenario: FailureScenario = []) => {
    const site = opened((p) => (handed(p), change(p)), scenario)
    const endpoint = site.endpoints.find((e) => e.id === id)!
    const call = callFromInside(site, site.index.plan.forwards[0]!, endpoint, endpoint.ranges[0]!.from)
    return call.stop ?? formatServices(call.services)
  }
  it('is handed on where the forward says so, as far as the rules let its caller to the target', () => {
    // Staff may use 443 of the servers; 444, to which 8444 would be handed, they may not.
    expect(called(() => undefined)).toBe('tcp 8443')
    expect(called((p) => void (p.forwards[0]!.hairpin = false))).toBe('not-handed-back')
    expect(called((p) => void rules(p).shift())).toBe('rule')
  })
  it('is answered by a target that finds the gateway: on its link, or by it', () => {
    const typed =
      (mask: number, gateway: string): Change =>
      (plan) =>
        void Object.assign(the(plan.networks, 'servers').fixed[0]!, { mask, gateway })
    expect(called(typed(30, '10.9.10.1'))).toBe('answer-elsewhere')
    expect(called(typed(24, '10.9.10.1'))).toBe('tcp 8443')
    expect(called(typed(28, '10.9.20.1'))).toBe('tcp 8443')
    expect(called(typed(30, '10.9.20.1'))).toBe('answer-elsewhere')
  })
  it('from the target’s own network goes through the gateway, and needs a rule of its own', () => {
    expect(called(() => undefined, 'box')).toBe('rule')
    expect(
      called(
        (plan) =>
          void rules(plan).push(rule('own', inNetwork('servers'), inNetwork('servers'), ['https'], '')),
        'box',
      ),
    ).toBe('tcp 8443')
  })
  it('is told for each network exactly: what all of its hosts get through to, and what only some do', () => {
    const told = (change: Change) =>
      callsFromInside(opened((p) => (handed(p), change(p)))).map((third) => [
        third.networkId,
        formatServices(third.allPairs),
        formatServices(third.somePairs),
        third.stop,
      ])
    expect(told(() => undefined)).toEqual([
      ['management', 'nothing', 'nothing', 'rule'],
      ['staff', 'tcp 8443', 'nothing', null],
      ['servers', 'nothing', 'nothing', 'rule'],
    ])
    // Half of the pool of 10.9.10.100 to .199 may use the other port too.
    const half: Change = (plan) =>
      void rules(plan).push(
        rule('half', { kind: 'prefix', prefix: '10.9.10.128/25' }, inNetwork('servers'), ['high'], ''),
      )
    expect(
      told(
        (plan) => (
          plan.services.push({
            id: 'high',
            name: 'High',
            entries: [{ proto: 'tcp', from: 444, to: 444 }],
          }),
          half(plan)
        ),
      )[1],
    ).toEqual(['staff', 'tcp 8443', 'tcp 8444', null])
  })
  // As the kernel does: half of the pool of 10.9.10.100 to .199 lies in the subnet of a tunnel.
  it('needs an answer that finds its way back: a tunnel of a subnet within takes it away', () => {
    const inside: Change = (plan) => {
      handed(plan)
      plan.tunnels.push(aTunnel({ address: '10.9.10.130/25' }))
    }
    const staff = callsFromInside(opened(inside)).find(({ networkId }) => networkId === 'staff')
    expect(staff && [formatServices(staff.allPairs), formatServices(staff.somePairs), staff.stop]).toEqual([
      'nothing',
      'tcp 8443',
      'answer-elsewhere',
    ])
  })
  it('needs an uplink whose address is the gateway’s own, and somebody at the target', () => {
    expect(called(() => undefined, 'desk', [down('line')])).toBe('uplink-down')
    expect(called((p) => void (the(p.uplinks, 'line').outside = 'shared'))).toBe('address-elsewhere')
    expect(called((p) => void (the(p.uplinks, 'line').facts.modem = 'routing'))).toBe('address-elsewhere')
    expect(called((p) => void (p.forwards[0]!.toAddress = '10.9.20.99'))).toBe('no-target')
  })
})

describe('a forward over the port of a tunnel', () => {
  it('leaves nobody who dials in, by IPv6 as little: a tunnel is carried by IPv4', () => {
    const between = (change: Change) => {
      const opened = openIpv6Site(indexPlan(site(change)), [])
      const cell =
        opened && matrixOf(opened).cells.find(({ from, to }) => from === 'peer:keeper' && to === 'servers')
      return cell ? formatServices(cell.allPairs) : ''
    }
    expect(between((plan) => (handedOver(plan), void plan.forwards.pop()))).toBe('tcp 445')
    expect(between(handedOver)).toBe('nothing')
  })
})
