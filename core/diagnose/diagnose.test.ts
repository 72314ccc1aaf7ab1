import { describe, expect, it } from 'vitest'
import { hosts, link, access, cat6, ports, trunk } from '#server/demo/build'
import { asBuilt } from '#core/simulator'
import { applyChanges } from '#core/edit'
import { indexPlan } from '#core/queries'
import { testsOf, tryTests } from '#core/prove'
import { linkSpeed } from '#core/cabling'
import { gullhavenPlan } from '#server/demo/gullhaven'
import {
  diagnose,
  mistakesOf,
  sceneOf,
  seenThere,
  withMistakes,
  type Fact,
  type Look,
  type Mistake,
  type MistakeCode,
  type Observed,
} from '.'
import { looksOf } from './facts'
import { portOf, site, the } from '../../tests/plans'

const plan = site((plan) => {
  portOf(plan, 'sw', 'p4').mode = access(10)
  plan.devices.push(hosts('till', 'Till', 'Hall', 'staff', 1))
  plan.links.push(link('sw:4', 'till:1', cat6(9)))
})
const tests = testsOf(plan)
const seenWith = (mistakes: readonly Mistake[]): Observed[] =>
  tryTests(
    indexPlan(withMistakes(plan, mistakes) ?? plan),
    tests,
    mistakes.flatMap((m) => m.failed),
  ).map(({ testId, passed }) => ({ testId, passed }))
const nameOf = (m: Mistake) => `${m.code} ${JSON.stringify(m.values)}`
const find = (code: MistakeCode, values: Mistake['values'] = {}) =>
  mistakesOf(plan).find(
    (m) => m.code === code && Object.entries(values).every(([k, v]) => m.values[k] === v),
  ) as Mistake
const there = (mistakes: readonly Mistake[], look: Look, on = plan): Fact => ({
  ...look,
  got: seenThere(sceneOf(indexPlan(withMistakes(on, mistakes) ?? on), mistakes), look)?.[0] ?? '',
})
const against = (first: readonly Observed[], second: readonly Observed[]) =>
  first.filter((o, i) => o.passed !== second[i]?.passed).length

describe('the catalogue', () => {
  it('fits on the plan it was made for, mistake by mistake', () => {
    const all = mistakesOf(plan)
    expect(all.length).toBeGreaterThan(40)
    for (const mistake of all)
      expect([nameOf(mistake), applyChanges(plan, mistake.changes).ok]).toEqual([nameOf(mistake), true])
    expect(new Set(all.map(nameOf)).size).toBe(all.length)
  })
})

describe('a diagnosis', () => {
  it('of a site that is as planned finds nothing', () => {
    expect(diagnose(plan, seenWith([]))).toEqual({
      explanations: [],
      alike: 0,
      next: null,
      foreseen: [],
      tried: 1,
    })
  })
  it('finds each mistake that can be seen at all among those that explain everything', () => {
    const well = seenWith([])
    for (const mistake of mistakesOf(plan)) {
      const seen = seenWith([mistake])
      if (against(seen, well) === 0) continue
      const { explanations } = diagnose(plan, seen)
      expect([nameOf(mistake), explanations[0]?.against]).toEqual([nameOf(mistake), []])
      // Several mistakes can look the same; then this one is told, or the ones told are as common.
      const told = explanations.filter((e) => e.against.length === 0)
      const same = told.some(
        (e) => e.mistakes.length === 1 && nameOf(e.mistakes[0] as Mistake) === nameOf(mistake),
      )
      expect(same || told.every((e) => (e.mistakes[0]?.commonness ?? 0) >= mistake.commonness)).toBe(true)
    }
  }, 60_000)
  it('puts the more common of two that look alike first', () => {
    const { explanations } = diagnose(plan, seenWith([find('link-down', { link: 'gate.2-sw.1' })]))
    const told = explanations.map((e) => e.mistakes[0]?.commonness ?? 0)
    expect(told).toEqual([...told].sort((a, b) => b - a))
    expect(explanations.some((e) => e.mistakes[0]?.values['link'] === 'gate.2-sw.1')).toBe(true)
  })
  it('finds the swap of any two cables of one switch, whatever is plugged in between', () => {
    const vlanOf: Readonly<Record<string, number>> = { 2: 10, 3: 20, 4: 10, 5: 10, 6: 20 }
    const full = site((plan) => {
      the(plan.devices, 'sw').ports = ports({
        1: trunk(99, 10, 20),
        ...Object.fromEntries(Object.entries(vlanOf).map(([port, vlan]) => [port, access(vlan)])),
      })
      for (const port of ['4', '5', '6']) {
        plan.devices.push(
          hosts(`at${port}`, `At ${port}`, 'Hall', vlanOf[port] === 10 ? 'staff' : 'servers', 1),
        )
        plan.links.push(link(`sw:${port}`, `at${port}:1`, cat6(9)))
      }
    })
    const looks = looksOf(full)
    const names = Object.keys(vlanOf)
    for (const [i, one] of names.entries())
      for (const other of names.slice(i + 1)) {
        const moved = new Map([
          [`p${one}`, `p${other}`],
          [`p${other}`, `p${one}`],
        ])
        const built = structuredClone(full)
        for (const cable of built.links)
          if (cable.a.deviceId === 'sw')
            Object.assign(cable.a, { portId: moved.get(cable.a.portId) ?? cable.a.portId })
        const scene = sceneOf(indexPlan(built), [])
        const facts = looks.map((look): Fact => ({ ...look, got: seenThere(scene, look)?.[0] ?? '' }))
        const { explanations, alike } = diagnose(full, tryTests(indexPlan(built), testsOf(full)), facts)
        const best = explanations.filter((e) => e.against.length === 0)
        expect([
          one,
          other,
          best.map((e) => e.mistakes.map((m) => [m.code, m.values['port'], m.values['other']])),
        ]).toEqual([one, other, [[['cables-swapped', `p${one}`, `p${other}`]]]])
        expect(alike).toBe(1)
      }
  }, 60_000)
  it('takes two mistakes where one does not explain it', () => {
    const two = [
      find('rule-missing', { rule: the(plan.policies[0]?.rules ?? [], 'r1').id }),
      find('dhcp-off', { network: 'staff' }),
    ]
    const { explanations } = diagnose(plan, seenWith(two))
    expect(explanations[0]?.against).toEqual([])
    expect(explanations[0]?.mistakes.length).toBeLessThanOrEqual(2)
    // No pair is told of which one does as well.
    const alone = explanations.filter((e) => e.mistakes.length === 1)
    for (const pair of explanations.filter((e) => e.mistakes.length === 2)) {
      for (const one of alone.filter((e) => pair.mistakes.includes(e.mistakes[0] as Mistake)))
        expect(one.against.length).toBeGreaterThan(pair.against.length)
    }
  })
  it('does with part of the observations, and names the test that splits what is left', () => {
    const seen = seenWith([find('dhcp-off', { network: 'staff' })])
    const partly = seen.filter((o) => o.testId.startsWith('passes:')).slice(0, 2)
    const { explanations, next, alike } = diagnose(plan, partly)
    expect(explanations.length).toBeGreaterThan(1)
    if (!next) throw new Error('nothing to try')
    expect(next.bits).toBeGreaterThan(0.2)
    // Its answer leaves fewer explanations.
    const more =
      'testId' in next
        ? diagnose(plan, [...partly, ...seen.filter((o) => o.testId === next.testId)])
        : diagnose(plan, partly, [there([find('dhcp-off', { network: 'staff' })], next.look)])
    expect(partly.some((o) => 'testId' in next && o.testId === next.testId)).toBe(false)
    expect(more.alike).toBeLessThan(alike)
  })
  it('of two that fail alike tells by what was seen', () => {
    // The same tests fail; 169.254 or a stranger's address, silence or a refused handshake, tell them apart.
    const among = (mistake: Mistake, look: Look, on = plan) =>
      diagnose(
        on,
        tryTests(indexPlan(withMistakes(on, [mistake]) ?? on), testsOf(on), mistake.failed).map(
          ({ testId, passed }) => ({ testId, passed }),
        ),
        [there([mistake], look, on)],
      )
        .explanations.filter((e) => e.against.length === 0)
        .map((e) => e.mistakes.map((m) => m.code).join())
    const desk: Look = { kind: 'address', deviceId: 'desk' }
    expect(among(find('second-dhcp', { network: 'staff' }), desk)).toEqual(['second-dhcp'])
    expect(among(find('dhcp-off', { network: 'staff' }), desk)).toContain('dhcp-off')
    expect(among(find('dhcp-off', { network: 'staff' }), desk)).not.toContain('second-dhcp')
    const line: Look = { kind: 'uplink', uplinkId: 'line' }
    expect(among(find('lan-overlap'), line)).toEqual(['lan-overlap'])
    // An address as planned leaves the line itself alone, or what lies beyond it; and the rule that lets them
    // out.
    expect(among(find('upstream-down'), line)).toEqual(['rule-missing', 'upstream-down', 'rule-reversed'])
    expect(among(find('uplink-down'), line)).toEqual(expect.arrayContaining(['uplink-down', 'link-down']))
  })
  it('finds by the switch that learnt it the port a cable is in', () => {
    // Port 4 is of the same VLAN: nobody would notice, but for the table.
    const spare = site((p) => void (portOf(p, 'sw', 'p4').mode = access(10)))
    const wrong = diagnose(spare, [], [{ kind: 'mac', deviceId: 'desk', on: 'sw', got: 'p4' }])
    expect(
      wrong.explanations.map((e) => e.mistakes.map((m) => [m.code, m.values['port'], m.values['other']]))[0],
    ).toEqual([['plugged-elsewhere', 'p2', 'p4']])
    const swapped = diagnose(plan, [], [{ kind: 'mac', deviceId: 'desk', on: 'sw', got: 'p4' }])
    expect(
      swapped.explanations[0]?.mistakes.map((m) => [m.code, m.values['port'], m.values['other']]),
    ).toEqual([['cables-swapped', 'p2', 'p4']])
    expect(
      diagnose(plan, [], [{ kind: 'mac', deviceId: 'desk', on: 'sw', got: 'nowhere' }]).explanations[0]
        ?.against,
    ).toEqual([])
  })
  it('takes 100 Mb/s where more was planned for a bad pair of that cable, and no light for a cable that is out', () => {
    const fast = gullhavenPlan()
    const cable = fast.links.find(
      (l) => l.medium.kind === 'copper' && linkSpeed(indexPlan(fast), l).mbps === 1000,
    )
    if (!cable) throw new Error('no cable of 1 Gb/s')
    const told = (got: string) =>
      diagnose(fast, [], [{ kind: 'link', linkId: cable.id, got }])
        .explanations.filter((e) => e.against.length === 0)
        .map((e) => e.mistakes[0]?.code)
    expect(told('1000')).toEqual([])
    expect(told('100')).toEqual(['bad-pair'])
    expect(new Set(told('none'))).toEqual(new Set(['link-down', 'device-off']))
  })
  it('knows of a tunnel whether keys do not match or nobody calls, and of a flow whether it passes', () => {
    const far = gullhavenPlan()
    const peerId = far.tunnels[0]?.peers[0]?.id ?? ''
    const told = (got: string) =>
      diagnose(far, [], [{ kind: 'handshake', peerId, got }])
        .explanations.filter((e) => e.against.length === 0)
        .map((e) => e.mistakes[0]?.code)
    expect(told('refused')).toEqual(['key-mismatch'])
    expect(told('silent')).toContain('peer-down')
    expect(told('silent')).not.toContain('key-mismatch')
    const flow = { kind: 'flow' as const, text: '10.9.10.100 to 10.9.20.10 tcp 443' }
    expect(diagnose(plan, [], [{ ...flow, got: 'passes' }]).explanations).toEqual([])
    const ping: Fact = { kind: 'flow', text: '10.9.10.100 to 10.9.20.10 icmp', got: 'passes' }
    expect(
      diagnose(plan, [], [{ ...flow, got: 'stopped' }, ping]).explanations.map((explanation) => [
        explanation.mistakes[0]?.code,
        explanation.mistakes[0]?.values['service'],
      ]),
    ).toEqual([['service-missing', 'https']])
    expect(
      diagnose(plan, [], [{ ...flow, text: '10.9.10.100 to 10.9.20.10 tcp 22', got: 'passes' }]).explanations,
    ).toEqual([])
  })
  it('tells what explains a fact, although tests of before speak against it', () => {
    const before = seenWith([])
    const { explanations } = diagnose(plan, before, [{ kind: 'address', deviceId: 'desk', got: 'foreign' }])
    expect(explanations.map((e) => e.mistakes.map((m) => m.code))).toEqual([['second-dhcp']])
    expect(explanations[0]?.against).toContain('lease:staff')
  })
  it('may leave an observation aside that is wrong itself', () => {
    const seen = seenWith([find('dhcp-off', { network: 'staff' })])
    const lied = seen
      .map((o) => (o.testId === 'lease:staff' ? o : o))
      .map((o, i) => (i === seen.length - 1 ? { ...o, passed: !o.passed } : o))
    const { explanations } = diagnose(plan, lied, [], 1)
    expect(
      explanations.some((e) => e.against.length === 1 && e.mistakes.some((m) => m.code === 'dhcp-off')),
    ).toBe(true)
  })
  it('finds what the lab built wrong', () => {
    const rule = plan.policies[0]?.rules.find((r) => r.services.length > 1)
    const built = asBuilt(plan, {
      kind: 'service-left-out',
      deviceId: 'gate',
      ruleId: rule?.id ?? '',
      serviceId: rule?.services[0] ?? '',
    })
    const seen = tryTests(indexPlan(built), tests).map(({ testId, passed }) => ({ testId, passed }))
    expect(
      diagnose(plan, seen).explanations.some(
        (explanation) =>
          explanation.against.length === 0 &&
          explanation.mistakes[0]?.code === 'service-missing' &&
          explanation.mistakes[0].values['rule'] === rule?.id,
      ),
    ).toBe(true)
  })
})
