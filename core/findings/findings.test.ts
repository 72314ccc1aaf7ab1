import { describe, expect, it } from 'vitest'
import { portOf, site, the } from '../../tests/plans'
import {
  access,
  cat6,
  fixed,
  hosts,
  inNetwork,
  internet,
  link,
  network,
  rule,
  theDevice,
  trunk,
} from '#server/demo/build'
import { gullhavenPlan } from '#server/demo/gullhaven'
import { indexPlan, down } from '#core/queries'
import { applyChanges } from '#core/edit'
import type { Plan } from '#core/schema'
import {
  staff,
  servers,
  rules,
  strip,
  spare,
  handed,
  provided,
  tunnelled,
  both,
  byAddress,
  type Change,
} from '../../tests/findings/changes'
import { CASES } from '../../tests/findings'
import { findingsOf, repaired } from '../../tests/findings/found'
import { MENDED, UNMENDED } from '../../tests/findings/mended'
import { toldOf } from '../../tests/findings/told'
import { analyse, findingKey, type Finding, type FindingCode } from '.'

const said = (finding: Finding) => finding.values as Readonly<Record<string, unknown>>
const ofCode = (change: Change, code: FindingCode) => findingsOf(change).filter((f) => f.code === code)

describe('the small site', () => {
  it('is quiet', () => expect(findingsOf(() => undefined)).toEqual([]))
})

const saying = ({ severity, place, values, mend }: Finding): readonly string[] => [
  `${severity} ${place.join('.')} ${JSON.stringify(values)}`,
  ...(mend?.changes ?? []).map((change) => `  mend ${JSON.stringify(change)}`),
]

describe.each(CASES)('%s: %s', (code, meaning, place, raises, nearby) => {
  // One test, since each change is analysed once: what covers it is what judges all that is said.
  it('is found, at its place, as grave and with the values and changes that it should have', () => {
    const found = ofCode(raises, code)
    expect(found.map((f) => f.place.join('.'))).toContain(place)
    expect(found.flatMap(saying)).toEqual(toldOf(code, meaning))
  })
  it('is not found in a plan close by', () => {
    expect(ofCode(nearby, code)).toEqual([])
  })
})

const mendable = (change: Change, code: FindingCode) => ofCode(change, code).filter((f) => f.mend)
describe.each(CASES.filter(([code]) => MENDED.includes(code)))('%s: %s', (code, meaning, __, raises) => {
  it('is gone after its mend, where the repair is certain', () => {
    const plan = site(raises)
    const mends = mendable(raises, code)
    expect(mends.length > 0).toBe(!UNMENDED.includes(`${code}: ${meaning}`))
    for (const finding of mends) {
      const mended = applyChanges(plan, finding.mend?.changes ?? [])
      if (!mended.ok) throw new Error(`the mend of ${findingKey(finding)} is refused`)
      const left = analyse(indexPlan(mended.value), []).findings.map(findingKey)
      expect(left).not.toContain(findingKey(finding))
    }
  })
})

describe('mends', () => {
  it('exist where the repair is certain, and only there', () => {
    const has = CASES.filter(([code, , , raises]) => mendable(raises, code).length > 0).map(([code]) => code)
    expect(new Set(has)).toEqual(new Set(MENDED))
  })
  it('copper between buildings moves to free fibre ports with their light, and nothing else is said of it then', () => {
    const plan = gullhavenPlan()
    const finding = analyse(indexPlan(plan), []).findings.find((f) => f.code === 'E07')
    const mended = applyChanges(plan, finding?.mend?.changes ?? [])
    if (!mended.ok) throw new Error('the mend does not fit')
    expect(the(mended.value.links, 'lab-switch.21-boat-switch.1')).toMatchObject({
      a: { portId: 'p27' },
      b: { portId: 'p9' },
      medium: { kind: 'fibre', grade: 'OS2', lengthM: 140 },
    })
    expect(
      analyse(indexPlan(mended.value), [])
        .findings.filter((f) => ['E02', 'E06', 'E07', 'E10'].includes(f.code))
        .map((f) => f.place.join('.')),
    ).toEqual(['devices.lab-switch.ports.p22'])
  })
  it('a pool is made where something is left to hand out', () => {
    const none =
      (exclusions: readonly { from: string; to: string }[]): Change =>
      (plan) => {
        Object.assign(staff(plan), { pool: null, expected: 0, exclusions: [...exclusions] })
      }
    expect(ofCode(none([]), 'A25').map((f) => f.mend !== null)).toEqual([true])
    expect(
      ofCode(none([{ from: '10.9.10.1', to: '10.9.10.254' }]), 'A25').map((f) => f.mend !== null),
    ).toEqual([false])
  })
  it('a port is not set to its hosts’ network where another mistake makes up for it', () => {
    const native =
      (ours: number, theirs: number): Change =>
      (plan) => {
        portOf(plan, 'gate', 'p2').mode = trunk(ours, 99, 20)
        portOf(plan, 'sw', 'p1').mode = trunk(theirs, 99)
        portOf(plan, 'sw', 'p2').mode = access(20)
      }
    // Staff’s frames are untagged on the trunk, in VLAN 20 beyond it, and so at the desk.
    expect(ofCode(native(10, 20), 'E11').map((f) => f.mend)).toEqual([null])
    expect(ofCode(native(10, 10), 'E11').map((f) => f.mend?.values)).toMatchObject([{ vlan: 10 }])
  })
  it('a tunnel moves to a port that is not forwarded', () => {
    const full: Change = (plan) => {
      tunnelled(plan, { endpoint: null }, {})
      plan.tunnels.push({ ...structuredClone(the(plan.tunnels, 'wg')), id: 'late', name: 'Late', peers: [] })
      handed(plan, 'line')
      Object.assign(plan.forwards[0]!, { proto: 'udp', from: 51_821, to: 51_822 })
    }
    expect(ofCode(full, 'V24').map((f) => f.mend?.values)).toEqual([{ port: 51_823 }])
  })
  it('a pool grows over nothing that is fixed', () => {
    const crowded: Change = (plan) => {
      staff(plan).expected = 150
      staff(plan).fixed.push(fixed('10.9.10.220', 'Printer', null))
    }
    expect(ofCode(crowded, 'A10').map((f) => f.mend)).toEqual([null])
  })
})

describe('a tunnel', () => {
  it('that leads nowhere says why', () => {
    const stops = (change: Change) => ofCode(change, 'V05').map((f) => said(f)['stops'])
    expect(stops((p) => (tunnelled(p, {}, {}), void rules(p).pop()))).toEqual([['rule'], ['rule']])
    expect(stops((p) => tunnelled(p, { theirAllowed: [] }, {}))).toEqual([['peer-refuses', 'peer-sends-not']])
  })
  const found = (change: Change, code: string) =>
    analyse(indexPlan(site(change)), []).findings.filter((f) => f.code === code)
  it('carries what the narrower of both uplinks does: one end’s upload is the other’s download', () => {
    // Ours 100 down, 20 up.
    expect(found((p) => tunnelled(p, { downMbps: 200, upMbps: 50 }, {}), 'V10')[0]?.values).toMatchObject({
      out: 20,
      outBy: 'Line',
      back: 50,
      backBy: 'a',
    })
    expect(found((p) => tunnelled(p, { downMbps: 10, upMbps: 500 }, {}), 'V10')[0]?.values).toMatchObject({
      out: 10,
      outBy: 'a',
      back: 100,
      backBy: 'Line',
    })
  })
  it('is lost for as long as a name is looked after and remembered, together', () => {
    expect(found((p) => tunnelled(p, { endpoint: null }, {}), 'V17').map((f) => said(f)['most'])).toEqual([
      360,
    ])
  })
  it('that meets a network of ours has it moved where neither end has anything', () => {
    const clash: Change = (p) => tunnelled(p, {}, { allowed: ['10.9.10.0/24', '10.9.0.0/23'] })
    const plan = site(clash)
    const mend = found(clash, 'V04')[0]?.mend
    const moved = mend && applyChanges(plan, mend.changes)
    if (!moved?.ok) throw new Error('not mended')
    // The first /24 of 10.9.0.0/16 that is not far, not ours and not the tunnel's.
    expect(moved.value.networks.find((n) => n.id === 'staff')?.subnet).toBe('10.9.2.0/24')
    expect(analyse(indexPlan(moved.value), []).findings.filter((f) => f.code === 'V04')).toEqual([])
  })
})

describe('one rule that mends what the grid shows', () => {
  const mended = (change: Change, at: string) => {
    const plan = site(change)
    const mend = repaired(plan).find((f) => f.place.join('.') === at)?.mend
    const after = mend && applyChanges(plan, mend.changes)
    if (!after?.ok) throw new Error('not mended')
    const rule = after.value.policies[0]!.rules.find(
      (r) => !plan.policies[0]!.rules.some((o) => o.id === r.id),
    )!
    return {
      rule,
      at: after.value.policies[0]!.rules.indexOf(rule),
      left: analyse(indexPlan(after.value), []).findings.map((f) => f.code),
    }
  }
  it('of two services that pass, refuses the one that nobody means', () => {
    const {
      rule: added,
      at,
      left,
    } = mended((p) => void (the(rules(p), 'r1').services = ['https', 'ping', 'ssh']), 'cells.staff.servers')
    expect([added.action, added.services, at]).toEqual(['drop', ['ssh'], 0])
    expect(left).not.toContain('P01')
  })
  it('lets an intent through before the rule that refuses it', () => {
    const shut: Change = (plan) =>
      void rules(plan).splice(1, 0, {
        ...rule('no', inNetwork('staff'), internet, [], ''),
        action: 'drop',
      })
    const { rule: added, at } = mended(shut, 'intents.i2')
    expect([added.action, added.from, added.to, added.services, at]).toEqual([
      'accept',
      inNetwork('staff'),
      internet,
      [],
      1,
    ])
  })
  it('is not told where a refusal would take away what is meant, or no rule would help', () => {
    // Staff may ask one server; a rule lets them ask all.
    const one: Change = (plan) =>
      void (
        (the(plan.intents, 'i1').to = theDevice('box')),
        strip(plan),
        plan.devices.push(hosts('second', 'Second', 'Room', 'servers', 1)),
        servers(plan).fixed.push(fixed('10.9.20.11', 'Second', 'second')),
        plan.links.push(link('strip:2', 'second:1', cat6(2))),
        void (portOf(plan, 'sw', 'p4').mode = access(20))
      )
    expect(ofCode(one, 'P01').map((f) => [said(f)['kind'], f.mend])).toEqual([['excess', null]])
    expect(ofCode((p) => void (p.uplinks.length = 0), 'P01').map((f) => f.mend)).toEqual([null])
  })
  it('is not asked for where a network is refused to itself: that has no other direction', () => {
    const itself: Change = (plan) =>
      void rules(plan).unshift({
        ...rule('no', inNetwork('staff'), inNetwork('staff'), [], ''),
        action: 'reject',
      })
    expect(ofCode(itself, 'P04')).toEqual([])
  })
  it('by IPv6 alone where IPv4 has it right', () => {
    const { rule: added, left } = mended((p) => (both(p), byAddress(p)), 'cells.staff.servers.six')
    expect([added.from.kind, added.to.kind]).toEqual(['prefix', 'prefix'])
    expect(left).not.toContain('P08')
  })
})

describe('a rule that is idle', () => {
  it('has work again as soon as the rule before it is gone, or lets less through', () => {
    const plan = site(
      (p) => void rules(p).push(rule('x', inNetwork('staff'), inNetwork('servers'), ['https'], '')),
    )
    const idle = (now: typeof plan) =>
      analyse(indexPlan(now), [])
        .findings.filter((f) => f.code === 'P02')
        .map((f) => f.place.at(-1))
    expect(idle(plan)).toEqual(['x'])
    const before = plan.policies[0]!.rules[0]!
    const at = ['policies', 'gate', 'rules', before.id]
    const edited = (change: Parameters<typeof applyChanges>[1][number]) => {
      const next = applyChanges(plan, [change])
      if (!next.ok) throw new Error(JSON.stringify(next.problems))
      return idle(next.value)
    }
    expect(edited({ kind: 'removed', path: at, before: before, after: null })).toEqual([])
    expect(
      edited({ kind: 'set', path: [...at, 'services'], before: before.services, after: ['ping'] }),
    ).toEqual([])
  })
})

describe('intents', () => {
  it('one that is not met is told once, with what does not pass', () => {
    const found = ofCode((p) => void rules(p).shift(), 'P01')
    expect(found.map((f) => [said(f)['kind'], f.place.join('.'), said(f)['services']])).toEqual([
      ['missing', 'intents.i1', 'tcp 443, icmp'],
    ])
  })
  it('one that must survive a failure is tried under it', () => {
    const survive: Change = (p) => void (the(p.intents, 'i2').survives = ['line'])
    expect(ofCode(survive, 'P01').map((f) => said(f)['under'])).toEqual([{ kind: 'down', name: 'Line' }])
    expect(ofCode((p) => (survive(p), spare(p)), 'P01')).toEqual([])
  })
  it('one whose senders are sent into tunnels gets a rule for each of them, to the tunnel', () => {
    const alone: Change = (plan) => void plan.tunnels[0]!.peers.pop()
    const withPerson: Change = (plan) => {
      provided(plan)
      plan.policyRoutes[0]!.from = { kind: 'device', id: 'desk' }
      staff(plan).fixed.push({
        ...the(plan.networks, 'servers').fixed[0]!,
        id: 'd',
        ip: '10.9.10.20',
        deviceId: 'desk',
      })
    }
    const sent: Change = (plan) => (withPerson(plan), alone(plan))
    const before = site(sent)
    const [finding] = ofCode(sent, 'P01').filter(({ place }) => place[1] === 'i2')
    expect(finding?.mend?.code).toBe('permit')
    const after = applyChanges(before, finding?.mend?.changes ?? [])
    if (!after.ok) throw new Error(JSON.stringify(after.problems))
    const added = after.value.policies[0]!.rules.filter(({ id }) => id.startsWith('added'))
    expect(added.map(({ from, to }) => [from, to])).toEqual([
      [
        { kind: 'device', id: 'desk' },
        { kind: 'tunnel', id: 'wg' },
      ],
    ])
    const keys = (plan: Plan) => repaired(plan).map(findingKey)
    expect(keys(after.value)).not.toContain(findingKey(finding!))
    expect(keys(after.value).filter((key) => !keys(before).includes(key))).toEqual([])
    // With a person in the same tunnel that rule would let the desk reach them too, which nobody means.
    expect(ofCode(withPerson, 'P01').map(({ place, mend }) => [place[1], mend?.code])).toContainEqual([
      'i2',
      undefined,
    ])
  })
  it('what a knot or a wrong gateway already explains is not told again', () => {
    expect(ofCode((p) => void (portOf(p, 'gate', 'p2').mode = trunk(99, 10)), 'P01')).toEqual([])
    expect(ofCode((p) => void (staff(p).gateway = '10.9.11.1'), 'P01')).toEqual([])
  })
})

describe('a modem that routes, in front of a tunnel that is dialled into', () => {
  const told = (modemForwards: boolean | null) =>
    ofCode((plan) => {
      tunnelled(plan, { endpoint: null }, {})
      Object.assign(the(plan.uplinks, 'line').facts, {
        modem: 'routing',
        modemForwards,
        address: '192.168.1.20/24',
      })
    }, 'V07').map((found) => [found.severity, said(found)['known'], said(found)['port'], said(found)['to']])
  it('is a blocker only where it is known that it keeps the calls', () => {
    expect(told(false)).toEqual([['blocker', true, 51_820, '192.168.1.20']])
    expect(told(null)).toEqual([['warning', false, 51_820, '192.168.1.20']])
    expect(told(true)).toEqual([])
  })
})

describe('plans that are broken in themselves', () => {
  it('end in findings, never in an exception', () => {
    const broken: readonly Change[] = [
      (p) => void (p.devices = []),
      (p) => void (p.networks = []),
      (p) => void (p.uplinks = []),
      (p) => void (p.policies = []),
      (p) => void (staff(p).subnet = 'no subnet'),
      (p) => void (staff(p).gateway = ''),
      (p) => void (staff(p).routerId = 'nobody'),
      (p) => void p.links.push(link('nobody:1', 'sw:9', cat6(1))),
      (p) => void p.links.push(link('sw:1', 'sw:4', cat6(1))),
      (plan) =>
        void plan.networks.push(
          network('twin', 10, 'Twin', '10.9.10.0/24', '10.9.10.1', null, 0, [], 'gate'),
        ),
      (p) => void (rules(p).length = 0),
      (p) => void the(p.intents, 'i1').services.push('unknown'),
    ]
    for (const change of broken)
      expect(() => analyse(indexPlan(site(change)), [down('gate'), down('nothing')])).not.toThrow()
  })
})
