import { aPeer, aTunnel } from '../../tests/fixtures/tunnels'
import { describe, expect, it } from 'vitest'
import { formatIpv4, parseIpv4, type Ipv4 } from '#core/address'
import { analyse } from '#core/findings'
import { indexPlan, translateSource, mapsOf, translateDestination } from '.'
import { mapApart } from '#core/edit'
import { site, the, type LoosePlan } from '../../tests/plans'

const ip = (text: string): Ipv4 => {
  const read = parseIpv4(text)
  if (!read.ok) throw new Error(text)
  return read.value
}
const peer = (id: string, allowed: string[]) =>
  aPeer({
    id,
    name: id,
    allowed,
    theirAllowed: ['10.9.10.0/24', '10.9.20.0/24'],
    endpoint: `${id}.example:51820`,
    keepaliveS: 25,
  })
const clashing = (plan: LoosePlan) => {
  plan.tunnels.push(
    aTunnel({
      address: '10.200.0.1/24',
      peers: [peer('far', ['10.200.0.2/32', '10.9.0.0/20']), peer('other', ['10.128.1.0/24'])],
    }),
  )
}

describe('a translation one to one', () => {
  // RFC 3022 section 2.1: a static assignment keeps the host part; both ways are each other's inverse.
  it('keeps an address’s place in its prefix, both ways, and leaves every other address alone', () => {
    const maps = mapsOf({ mapped: [{ id: 'm', inside: '192.168.1.0/24', outside: '10.99.1.0/24' }] })
    expect(formatIpv4(translateSource(maps, ip('192.168.1.7')))).toBe('10.99.1.7')
    expect(formatIpv4(translateDestination(maps, ip('10.99.1.255')))).toBe('192.168.1.255')
    for (const text of ['192.168.0.255', '192.168.2.0', '10.99.2.0'])
      expect([translateSource(maps, ip(text)), translateDestination(maps, ip(text))]).toEqual([
        ip(text),
        ip(text),
      ])
    for (let n = 0; n < 256; n++)
      expect(translateDestination(maps, translateSource(maps, ip(`192.168.1.${n}`)))).toBe(
        ip(`192.168.1.${n}`),
      )
  })
  it('of prefixes that are not of one length is none', () => {
    expect(mapsOf({ mapped: [{ id: 'm', inside: '192.168.1.0/24', outside: '10.99.1.0/25' }] })).toEqual([])
  })
})

describe('two networks of the same addresses', () => {
  it('are told apart by two free prefixes, each of the length of what it stands for', () => {
    const plan = site(clashing)
    const made = mapApart(plan, 'wg', 'far', 'staff')
    if (!made.ok) throw new Error(JSON.stringify(made.problems))
    // 10.128.1.0/24 is the other peer's; a /20 needs a place of its own.
    expect([made.value.ours, made.value.theirs]).toEqual(['10.128.0.0/24', '10.128.16.0/20'])
    const tunnel = the(made.value.plan.tunnels, 'wg')
    expect(tunnel.mapped).toEqual([{ id: 'map-staff', inside: '10.9.10.0/24', outside: '10.128.0.0/24' }])
    expect(the(tunnel.peers, 'far')).toMatchObject({
      allowed: ['10.200.0.2/32', '10.128.16.0/20'],
      theirAllowed: ['10.9.20.0/24', '10.128.0.0/24'],
    })
    expect(the(tunnel.peers, 'other')).toEqual(the(the(plan.tunnels, 'wg').peers, 'other'))
    const said = (p: typeof plan) => analyse(indexPlan(p), []).findings.filter((f) => f.code === 'V04').length
    expect([said(plan), said(made.value.plan)]).toEqual([1, 0])
  })
  it('says why it cannot', () => {
    const plan = site(clashing)
    const why = (...args: [string, string, string]) => {
      const made = mapApart(plan, ...args)
      return made.ok ? '' : made.problems[0]?.code
    }
    expect([why('wg', 'nobody', 'staff'), why('wg', 'far', 'nowhere'), why('wg', 'other', 'staff')]).toEqual([
      'no-such-peer',
      'no-such-peer',
      'no-clash',
    ])
  })
})
