import { describe, expect, it } from 'vitest'
import { parsePrefix4, type Prefix4 } from '#core/address'
import { layAllotments, placeNetwork, type Allotment } from '#core/edit'
import type { Plan } from '#core/schema'
import { internet, rule } from '#server/demo/build'
import { aPeer, aTunnel } from '../../tests/fixtures/tunnels'
import { site, the, type LoosePlan } from '../../tests/plans'

const prefix = (text: string): Prefix4 => {
  const read = parsePrefix4(text)
  if (!read.ok) throw new Error(text)
  return read.value
}

const route = (via: string, to = '10.20.0.0/22') =>
  ({ id: 'far', deviceId: 'gate', prefix: to, via, metric: 0 }) as const

/** The small site with something that names the servers by address in every place that can. */
const named = (plan: LoosePlan) => {
  plan.routes.push(route('10.9.20.7'))
  plan.forwards.push({
    id: 'web',
    deviceId: 'gate',
    uplinkId: 'line',
    proto: 'tcp',
    from: 443,
    to: 443,
    toAddress: '10.9.20.10',
    toPort: 443,
    hairpin: true,
    note: '',
  })
  const staff = the(plan.networks, 'staff')
  Object.assign(staff, { dhcp: 'relay', relayTo: '10.9.20.10' })
  staff.options.dns = ['10.9.20.10', '192.0.2.53']
  staff.options.ntp = ['10.9.20.1']
  const part = { kind: 'prefix', prefix: '10.9.20.8/29' } as const
  plan.policies[0]?.rules.push(rule('part', part, internet, [], ''))
  plan.groups.push({ id: 'some', name: 'Some', members: [part] })
  plan.tunnels.push(
    aTunnel({
      mapped: [{ id: 'm', inside: '10.9.20.0/24', outside: '10.77.20.0/24' }],
      peers: [aPeer({ id: 'a', allowed: ['10.20.0.0/22'], theirAllowed: ['10.9.20.0/24', '10.9.0.0/16'] })],
    }),
  )
}

const moved = (plan: Plan, id: string, to: string): Plan => {
  const placed = placeNetwork(plan, id, prefix(to))
  if (!placed.ok) throw new Error(JSON.stringify(placed.problems))
  return placed.value
}

const addressesIn = (plan: Plan) => ({
  via: plan.routes[0]?.via,
  forward: plan.forwards[0]?.toAddress,
  relay: the(plan.networks, 'staff').relayTo,
  dns: the(plan.networks, 'staff').options.dns,
  ntp: the(plan.networks, 'staff').options.ntp,
  rule: plan.policies[0]?.rules.at(-1)?.from,
  group: plan.groups[0]?.members,
  inside: plan.tunnels[0]?.mapped[0]?.inside,
  theirs: plan.tunnels[0]?.peers[0]?.theirAllowed,
})

describe('what names an address of a network that moves', () => {
  it('goes along: routes, forwards, relays, name and time servers, rules, groups and tunnels', () => {
    const part = { kind: 'prefix', prefix: '10.9.44.8/29' }
    expect(addressesIn(moved(site(named), 'servers', '10.9.44.0/24'))).toEqual({
      via: '10.9.44.7',
      forward: '10.9.44.10',
      relay: '10.9.44.10',
      dns: ['10.9.44.10', '192.0.2.53'],
      ntp: ['10.9.44.1'],
      rule: part,
      group: [part],
      inside: '10.9.44.0/24',
      theirs: ['10.9.44.0/24', '10.9.0.0/16'],
    })
  })
  it('follows a thing that has no place at its old offset, and stays where the address has none', () => {
    // The box takes the lowest free address of the smaller network; .7 has no place among six.
    const now = addressesIn(moved(site(named), 'servers', '10.9.44.0/29'))
    expect([now.forward, now.relay, now.via]).toEqual(['10.9.44.2', '10.9.44.2', '10.9.20.7'])
  })
  it('is left alone where a far end has the same addresses: it may mean them', () => {
    const plan = site((draft) => {
      named(draft)
      draft.tunnels[0]!.peers[0]!.allowed = ['10.9.20.0/24']
    })
    const now = moved(plan, 'servers', '10.9.44.0/24')
    expect(now.policies[0]?.rules.at(-1)?.from).toEqual({ kind: 'prefix', prefix: '10.9.20.8/29' })
    expect(now.tunnels[0]?.peers[0]?.allowed).toEqual(['10.9.20.0/24'])
  })
  it('is carried once where two networks change places', () => {
    const plan = site((draft) => {
      draft.routes.push(route('10.9.20.7'), { ...route('10.9.10.9', '10.30.0.0/16'), id: 'other' })
    })
    const row = (networkId: string, after: string): Allotment => ({
      networkId,
      needId: null,
      name: networkId,
      vlan: 1,
      hosts: 1,
      before: null,
      after,
      what: 'moved',
      held: null,
      adopted: 0,
    })
    const swapped = layAllotments(plan, [row('servers', '10.9.10.0/24'), row('staff', '10.9.20.0/24')])
    expect(swapped.routes.map(({ via }) => via)).toEqual(['10.9.10.7', '10.9.20.9'])
  })
})
