import { describe, expect, it } from 'vitest'
import { inNetwork, internet, rule, theDevice, toGateway } from '#server/demo/build'
import { indexPlan, type Plan, type Rule, type Weather } from '#core/model'
import { formatServices } from '#core/policy'
import { site, the, type LoosePlan } from '../../tests/plans'
import { gridOf, openSite, openSix, walkFlow } from '.'

// IPv6 by hand: hosts take an address of the prefix they hear (RFC 4862); nothing is translated; unique local addresses have no way
// outside (RFC 4193); a rule for IPv4 addresses meets no IPv6 packet (nft(8): `ip saddr` depends on IPv4).

type Change = (p: LoosePlan) => void
const prefixed: Change = (p) => {
  for (const [id, prefix6] of [['management', '2001:db8:5:99::/64'], ['staff', '2001:db8:5:10::/64'], ['servers', '2001:db8:5:20::/64']] as const) Object.assign(the(p.networks, id), { prefix6, mode6: 'slaac' })
  the(p.uplinks, 'line').facts.delegated6 = '2001:db8:5::/48'
}
const six = (change: Change = () => undefined, weather: Weather = []) => {
  const opened = openSix(site((p) => (prefixed(p), change(p))), weather)
  if (!opened) throw new Error('no IPv6 here')
  return opened
}
const passes = (from: string, to: string, change: Change = () => undefined, weather: Weather = []) => {
  const cell = gridOf(six(change, weather)).cells.find((c) => c.from === from && c.to === to)
  return cell ? formatServices(cell.everywhere) : ''
}
const rules = (p: LoosePlan): Rule[] => p.policies[0]?.rules as unknown as Rule[]
const add = (...more: Rule[]): Change => (p) => void rules(p).push(...more)

describe('the IPv6 side of a plan', () => {
  it('is none where no network has a prefix, or none lets its hosts use it', () => {
    expect(openSix(site(), [])).toBeNull()
    expect(openSix(site((p) => (prefixed(p), p.networks.forEach((n) => (n.mode6 = 'off')))), [])).toBeNull()
  })
  it('rules by interface hold for it too; rules for IPv4 addresses do not', () => {
    expect(passes('staff', 'servers')).toBe('tcp 443, icmp')
    expect(passes('staff', 'internet')).toBe('all')
    const byAddress: Change = (p) => void Object.assign(the(rules(p) as never as { id: string }[], 'r1'), { to: theDevice('box') })
    expect(passes('staff', 'servers', byAddress)).toBe('nothing')
    expect(formatServices(gridOf(openSite(indexPlan(site(byAddress)), [])).cells.find((c) => c.from === 'staff' && c.to === 'servers')!.everywhere)).toBe('tcp 443, icmp')
    expect(passes('staff', 'servers', (p) => (byAddress(p), add(rule('p4', inNetwork('staff'), { kind: 'prefix', prefix: '10.9.20.0/24' }, ['ssh'], ''))(p)))).toBe('nothing')
  })
  it('a refusal by IPv4 address is passed by', () => {
    const refused: Change = (p) => void rules(p).unshift({ ...rule('no', inNetwork('staff'), theDevice('box'), [], ''), action: 'drop' })
    expect(passes('staff', 'servers', refused)).toBe('tcp 443, icmp')
  })
  it('rules for IPv6 prefixes hold for what lies in them, one address as well as a site', () => {
    expect(passes('staff', 'servers', add(rule('p6', inNetwork('staff'), { kind: 'prefix', prefix: '2001:db8:5:20::/64' }, ['ssh'], '')))).toBe('tcp 22 443, icmp')
    expect(passes('servers', 'staff', add(rule('p6', { kind: 'prefix', prefix: '2001:db8:5::/48' }, { kind: 'prefix', prefix: '2001:db8::/32' }, ['ssh'], '')))).toBe('tcp 22')
    // One address of many that a host may have: it passes for some, not for all.
    const one = add(rule('p6', inNetwork('staff'), { kind: 'prefix', prefix: '2001:db8:5:20::50/128' }, ['ssh'], ''))
    const cell = gridOf(six(one)).cells.find((c) => c.from === 'staff' && c.to === 'servers')
    expect([formatServices(cell!.everywhere), formatServices(cell!.somewhere)]).toEqual(['tcp 443, icmp', 'tcp 22'])
    expect(passes('servers', 'internet', add(rule('p6', inNetwork('servers'), { kind: 'prefix', prefix: '::/0' }, ['ssh'], '')))).toBe('tcp 22')
  })
  it('everybody inside can be called, as far as rules let it: nothing hides behind a translation', () => {
    expect(passes('internet', 'servers')).toBe('nothing')
    expect(passes('internet', 'servers', add(rule('in', internet, inNetwork('servers'), ['https'], '')))).toBe('tcp 443')
    const open: Change = (p) => void (p.policies[0]!.forward = 'accept')
    expect(passes('internet', 'servers', open)).toBe('all')
    expect(formatServices(gridOf(openSite(indexPlan(site(open)), [])).cells.find((c) => c.from === 'internet' && c.to === 'servers')!.everywhere)).toBe('nothing')
    expect(passes('internet', 'gateway', add(rule('in', internet, toGateway, ['ping'], '', 'input')))).toBe('icmp')
  })
  it('unique local addresses have no way outside, nor in', () => {
    const local: Change = (p) => void (the(p.networks, 'staff').prefix6 = 'fd61:6a11::/64')
    expect(passes('staff', 'internet', local)).toBe('nothing')
    expect(passes('staff', 'servers', local)).toBe('tcp 443, icmp')
    expect(passes('internet', 'staff', (p) => (local(p), void (p.policies[0]!.forward = 'accept')))).toBe('nothing')
    const opened = six(local)
    const desk = opened.endpoints.find((e) => e.id === 'desk')
    const walk = walkFlow(opened, { from: 'desk', fromAddress: desk?.ranges[0]?.from ?? 0, to: 'internet', toAddress: opened.six?.outside[0] ?? 0, proto: 'tcp', port: 443 })
    expect(walk?.lines.at(-1)).toMatchObject({ kind: 'stopped', code: 'not-global' })
  })
  it('goes by the line that delegates its prefix, and waits while that is down', () => {
    expect(passes('staff', 'internet', undefined, ['line'])).toBe('nothing')
    expect(passes('staff', 'servers', undefined, ['line'])).toBe('tcp 443, icmp')
    expect(passes('staff', 'internet', (p) => void (the(p.uplinks, 'line').facts.delegated6 = '2001:db8:6::/48'))).toBe('nothing')
  })
  it('an access VLAN that is wrong moves a host to that VLAN’s prefix, as it hears it', () => {
    const opened = six((p) => void (p.devices.find((d) => d.id === 'sw')!.ports.find((x) => x.id === 'p2')!.mode = { mode: 'access', vlan: 20 } as never))
    expect(opened.endpoints.find((e) => e.id === 'desk')?.networkId).toBe('servers')
    expect(opened.six?.text(opened.endpoints.find((e) => e.id === 'desk')!.ranges[0]!.from)).toMatch(/^2001:db8:5:20::/)
  })
  it('a network without a prefix has nobody there', () => {
    expect(passes('staff', 'servers', (p) => void (the(p.networks, 'servers').prefix6 = null))).toBe('nothing')
  })
  it('is walked in its own addresses', () => {
    const opened = six()
    const at = (id: string) => opened.endpoints.find((e) => e.id === id)!.ranges[0]!.from
    const walk = walkFlow(opened, { from: 'desk', fromAddress: at('desk'), to: 'box', toAddress: at('box'), proto: 'tcp', port: 443 })
    expect(walk?.fromText).toBe('2001:db8:5:10::2')
    expect(walk?.lines.filter((l) => l.kind === 'route').map((l) => l.prefix)).toEqual(['2001:db8:5:20::/64'])
    expect(walk?.lines.find((l) => l.kind === 'host')).toMatchObject({ address: '2001:db8:5:10::2', next: '2001:db8:5:10::1', prefixLength: 64 })
    expect(walk?.lines.at(-1)?.kind).toBe('delivered')
  })
  it('has room for as many prefixes as a large site has', () => {
    const many = site((p: LoosePlan) => {
      prefixed(p)
      for (let n = 1; n < 400; n++) p.networks.push({ ...structuredClone(the(p.networks, 'staff')), id: `n${n}`, vlan: 100 + n, name: `N${n}`, subnet: `10.9.${n % 250}.0/24`, prefix6: `2001:db8:5:${(0x1000 + n).toString(16)}::/64` })
    }) as Plan
    expect(openSix(many, [])?.interfaces.length).toBe(402)
  })
})
