import { describe, expect, it } from 'vitest'
import { site, the, type LoosePlan } from '../../tests/plans'
import { inNetwork, link, rule } from '#server/demo/build'
import { BLANK_PORT } from '#core/edit'
import { indexPlan, type FailureScenario, down } from '#core/queries'
import { formatServices } from '#core/filter'
import { computeMatrix, GATEWAY, matrixOf as wholeGrid, INTERNET, openSite, verdictsOf } from '.'
import { type Change, gridOf, passes, endpoint, walkOf, stopOf } from '../../tests/fixtures/reachability'

describe('the grid of the small site', () => {
  it.each([
    ['staff', 'servers', 'tcp 443, icmp'],
    ['servers', 'staff', 'nothing'],
    ['staff', INTERNET, 'all'],
    ['servers', INTERNET, 'nothing'],
    [INTERNET, 'staff', 'nothing'],
    ['staff', GATEWAY, 'tcp 53, udp 53, icmp'],
    ['servers', GATEWAY, 'tcp 53, udp 53, icmp'],
    [INTERNET, GATEWAY, 'nothing'],
    [GATEWAY, 'servers', 'all'],
    [GATEWAY, INTERNET, 'all'],
  ])('%s to %s: %s', (from, to, services) => {
    expect(passes(from, to)).toBe(services)
  })

  it('has nothing missing and nothing in excess', () => {
    const { grid } = gridOf()
    expect(
      grid.cells.filter(
        (cell) =>
          formatServices(cell.missing) !== 'nothing' ||
          (cell.judged && formatServices(cell.unexpected) !== 'nothing'),
      ),
    ).toEqual([])
    expect(grid.keys).toEqual(['staff', 'servers', 'management', GATEWAY, INTERNET])
  })

  it('is the same for the same plan, and has not touched it', () => {
    const plan = site()
    const before = JSON.stringify(plan)
    expect(JSON.stringify(computeMatrix(indexPlan(plan), []))).toBe(
      JSON.stringify(computeMatrix(indexPlan(plan), [])),
    )
    expect(JSON.stringify(plan)).toBe(before)
  })
})

describe('verdicts of some intents alone', () => {
  it('are those of the whole grid, under any failure', () => {
    for (const failed of [[], ['line'], ['sw'], ['sw.2-desk.1']]) {
      const plan = site((p) => void p.policies[0]?.rules.shift())
      const opened = openSite(indexPlan(plan), failed.map(down))
      expect(verdictsOf(opened, plan.intents)).toEqual(wholeGrid(opened).verdicts)
      expect(verdictsOf(opened, plan.intents.slice(1, 2))).toEqual(wholeGrid(opened).verdicts.slice(1, 2))
    }
  })
})

describe('rules', () => {
  const rules = (p: LoosePlan) => p.policies[0]?.rules ?? []
  it('a drop before an accept wins, one after it does nothing', () => {
    const drop = {
      ...rule('d', inNetwork('staff'), inNetwork('servers'), ['https'], ''),
      action: 'drop' as const,
    }
    expect(passes('staff', 'servers', (p) => void rules(p).unshift(drop))).toBe('icmp')
    expect(passes('staff', 'servers', (p) => void rules(p).push(drop))).toBe('tcp 443, icmp')
  })
  it('replies follow an accepted flow without a rule of their own', () => {
    expect(passes('staff', 'servers')).not.toBe('nothing')
    expect(passes('servers', 'staff')).toBe('nothing')
  })
  it('what no intent names is in excess, what an intent misses is missing', () => {
    const opened = gridOf(
      (p) => void rules(p).push(rule('x', inNetwork('servers'), inNetwork('staff'), ['ssh'], '')),
    ).cell('servers', 'staff')
    expect(formatServices(opened.unexpected)).toBe('tcp 22')
    const closed = gridOf((p) => void rules(p).splice(0, 1))
    expect(formatServices(closed.cell('staff', 'servers').missing)).toBe('tcp 443, icmp')
    expect(closed.grid.verdicts.find((v) => v.intentId === 'i1')).toMatchObject({
      example: { from: 'desk', to: 'box' },
    })
  })
  it('a rule for one address parts its network', () => {
    const change: Change = (plan) => {
      rules(plan).push({
        ...rule('half', { kind: 'prefix', prefix: '10.9.10.128/25' }, inNetwork('servers'), ['ssh'], ''),
      })
    }
    const cell = gridOf(change).cell('staff', 'servers')
    expect([formatServices(cell.allPairs), formatServices(cell.somePairs)]).toEqual([
      'tcp 443, icmp',
      'tcp 22',
    ])
  })
  it('the walk names the rule that decides', () => {
    expect(walkOf('staff', 'servers')?.lines.find((l) => l.kind === 'rule')).toMatchObject({
      ruleId: 'r1',
      number: 1,
      action: 'accept',
    })
    expect(walkOf('servers', 'staff')?.lines.find((l) => l.kind === 'rule')).toMatchObject({
      ruleId: null,
      action: 'drop',
    })
    expect(stopOf('servers', 'staff')).toBe('rule')
  })
})

describe('failures', () => {
  it.each<[string, FailureScenario, string]>([
    ['the uplink', [down('line')], 'no-uplink'],
    ['the terminal', [down('ont')], 'no-uplink'],
    ['the cable to it', [down('ont.lan-gate.1')], 'no-uplink'],
  ])('%s down: the internet is gone, the inside stays', (_, scenario, stop) => {
    expect(passes('staff', INTERNET, undefined, scenario)).toBe('nothing')
    expect(stopOf('staff', INTERNET, undefined, scenario)).toBe(stop)
    expect(passes('staff', 'servers', undefined, scenario)).toBe('tcp 443, icmp')
  })
  it('the switch down: everybody is alone', () => {
    expect(passes('staff', 'servers', undefined, [down('sw')])).toBe('nothing')
  })
  it('the gateway down: nobody gets a lease', () => {
    expect(endpoint('desk', undefined, [down('gate')])).toMatchObject({ how: 'link-local' })
  })
  it('a second uplink takes over by priority, and one with a shared address lets nobody dial in', () => {
    const second: Change = (plan) => {
      the(plan.devices, 'gate').ports.push({ id: 'p3', name: '3', mode: { mode: 'wan' }, ...BLANK_PORT })
      the(plan.devices, 'internet').ports.push({
        id: 'p2',
        name: '2',
        mode: { mode: 'plain' },
        ...BLANK_PORT,
      })
      plan.links.push(link('internet:2', 'gate:3', { kind: 'line' }))
      plan.uplinks.push({
        ...the(plan.uplinks, 'line'),
        id: 'spare',
        name: 'Spare',
        portId: 'p3',
        priority: 2,
        outside: 'shared',
      })
      plan.policies[0]?.rules.push(
        rule('dial', { kind: 'internet' }, { kind: 'gateway' }, ['ssh'], '', 'input'),
      )
    }
    const used = (scenario: FailureScenario) =>
      walkOf('staff', INTERNET, second, scenario)?.lines.flatMap((line) =>
        line.kind === 'translate' ? [line.exit.id] : [],
      )
    expect([used([]), used([down('line')])]).toEqual([['line'], ['spare']])
    expect(passes(INTERNET, GATEWAY, second)).toBe('tcp 22')
    expect(passes(INTERNET, GATEWAY, second, [down('line')])).toBe('nothing')
    expect(stopOf(INTERNET, GATEWAY, second, [down('line')])).toBe('shared-address')
  })
})

it(
  'where no rule and no intent speaks, a default that accepts lets through unasked, and ' +
    'shows a flow that passes',
  () => {
    const opened = openSite(
      indexPlan(
        site((plan) => {
          plan.policies[0]!.forward = 'accept'
          plan.forwards.push({
            id: 'web',
            deviceId: 'gate',
            uplinkId: 'line',
            proto: 'tcp',
            from: 8443,
            to: 8443,
            toAddress: '10.9.20.10',
            toPort: 443,
            hairpin: false,
            note: '',
          })
        }),
      ),
      [],
    )
    const cell = wholeGrid(opened).cells.find((c) => c.from === INTERNET && c.to === 'servers')
    expect([formatServices(cell!.allPairs), formatServices(cell!.unexpected), cell!.example?.port]).toEqual([
      'tcp 443',
      'tcp 443',
      443,
    ])
  },
)
