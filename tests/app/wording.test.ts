import './globals'
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { analyse } from '#core/findings'
import { changesBetween } from '#core/edit'
import { atInstant, down, indexPlan, upstreamDown, type FailureScenario } from '#core/queries'
import { computeMatrix, openSite, walkFlow } from '#core/reachability'
import { testsOf } from '#core/prove'
import { gullhavenPlan } from '#server/demo/gullhaven'
import { mendWords, tally, wordsOf } from '~/wording/findings'
import { changeText } from '~/wording/changes'
import { cellLook, servicesText } from '~/wording/cells'
import { sentenceOf } from '~/wording/problems'
import { namesIn, scenarioWords } from '~/wording/names'
import { capacityWords, walkWords } from '~/wording/walk'
import { testWords } from '~/wording/proof'
import { topologyGraphOf, portRowsOf } from '~/features/topology/topology-graph'
import { curve, thickness } from '~/features/topology/topology-layout'
import { shortAddress } from '~/features/addresses/columns'
import { THREADS, threadOf } from '~/theme/threads'
import { base, site, the, portOf } from '../plans'

const plan = gullhavenPlan()
const analysis = analyse(indexPlan(plan), [])
const sourcesIn = (folder: string): string[] =>
  readdirSync(folder, { withFileTypes: true, recursive: true })
    .filter((e) => e.isFile() && /(?<!\.test)\.ts$/.test(e.name))
    .map((e) => readFileSync(join(e.parentPath, e.name), 'utf8'))

describe('every refusal has its words', () => {
  const codes = new Set(
    ['core', 'contracts', 'server', 'app']
      .flatMap(sourcesIn)
      .flatMap((text) =>
        [...text.matchAll(/(?:problem|refused)\((?:\d+, )?'([a-z0-9-]+)'/g)].map((m) => m[1] as string),
      ),
  )
  // Told to devices or to programs, never on a screen.
  const silent = [
    'access-denied',
    'no-such-route',
    'no-such-file',
    'length-needed',
    'not-a-mask',
    'too-many-alike',
  ]
  it.each([...codes].filter((c) => !silent.includes(c)))('%s', (code) => {
    expect(sentenceOf({ code, place: '', values: {} })).not.toBe(code)
  })
  it('with place and reason as one sentence', () => {
    expect(
      sentenceOf({ code: 'not-ipv4', place: 'row 7, column "gateway"', values: { text: '10.61.2.300' } }),
    ).toBe('row 7, column "gateway": 10.61.2.300 is not an IPv4 address')
  })
})

describe('findings', () => {
  it('of the demo are told in whole words', () => {
    for (const finding of analysis.findings) {
      const words = wordsOf(finding)
      for (const text of [words.title, words.what, words.why, finding.mend ? mendWords(finding.mend) : 'x'])
        expect(text).not.toMatch(/undefined|NaN|\[object|!|^$/)
      if (finding.mend) expect(mendWords(finding.mend)).not.toBe('Mend')
    }
    expect(tally(analysis.findings)).toBe('1 blocker, 9 warnings')
    expect(tally([])).toBe('nothing to mend')
  })
})

describe('the walk, the tests and the cells', () => {
  const names = namesIn(plan)
  it('have words for every line of every cell', () => {
    const opened = openSite(indexPlan(plan), [])
    for (const cell of computeMatrix(indexPlan(plan), []).cells) {
      const walk = cell.example && walkFlow(opened, cell.example)
      for (const line of walk?.lines ?? [])
        expect(JSON.stringify(walkWords(line, names))).not.toMatch(/undefined|"outcome":""/)
      expect(cellLook(cell, 'open', plan.services).says).not.toMatch(/undefined/)
    }
    for (const test of testsOf(plan))
      expect(JSON.stringify(testWords(test, plan))).not.toMatch(/undefined|\(\)/)
  })
  it('name services as the plan does', () => {
    const cell = analysis.grid.cells.find((c) => c.from === 'instruments' && c.to === 'servers')
    expect(cell && servicesText(cell.intended, plan.services)).toBe('Time, Tide data')
    expect(cell && cellLook(cell, 'open', plan.services)).toEqual({
      flag: 'outline',
      text: '2 services',
      says: 'predicted: Time, Tide data',
    })
    expect(cell && cellLook(cell, 'proven', plan.services).flag).toBe('full')
    expect(cell && cellLook(cell, 'contradicted', plan.services).flag).toBe('cut')
  })
})

describe('changes in words', () => {
  it('name things and values', () => {
    const after = site((plan) => {
      the(plan.networks, 'staff').pool = { from: '10.9.10.50', to: '10.9.10.60' }
      portOf(plan, 'sw', 'p4').mode = { mode: 'access', vlan: 10 }
      plan.networks = plan.networks.filter((n) => n.id !== 'servers')
    })
    expect(changesBetween(base(), after).map((c) => changeText(c, [after, base()]))).toEqual([
      'Servers removed: Servers',
      'Staff · pool · from: 10.9.10.100 → 10.9.10.50',
      'Staff · pool · to: 10.9.10.199 → 10.9.10.60',
      'Switch · 4 · mode: off → access, native 10',
    ])
  })
})

describe('what a way carries', () => {
  const over = (mbps: number) => {
    const stage = {
      kind: 'link',
      id: 'bridge-a.radio-bridge-b.radio',
      thereMbps: mbps,
      backMbps: mbps,
    } as const
    return capacityWords({ there: { mbps, stage }, back: null, unknown: 0 }, namesIn(plan), 1)
  }
  it('is told in whole Mb/s, and nothing is nothing', () => {
    expect(over(72.9334)).toMatch(/^there at most 73 Mb\/s \(.*\), 1 GB in 116 s$/)
    expect(over(5.94)).toContain('at most 5.9 Mb/s')
    expect(over(0)).toMatch(/^there nothing \(/)
  })
})

describe('the Loom', () => {
  const loom = topologyGraphOf(plan, new Set(), analysis.carriedVlans, analysis.gaps)
  it('bundles the cables between two devices and runs from the internet’s side to the edge', () => {
    const desks = loom.bundles.find((b) => b.to === 'desks')
    expect(desks).toMatchObject({
      from: 'lab-switch',
      fromPorts: '2–12',
      threads: [{ vlan: 10, oneWay: false, gap: null }],
    })
    expect(desks?.links).toHaveLength(11)
    expect(loom.bundles.find((b) => b.to === 'gateway' && b.from === 'ont')?.label).toBe('PPPoE · tag 132')
    expect(loom.nodes.map((n) => n.id)).not.toContain('internet')
    expect(loom.nodes.map((n) => n.id)).not.toContain('guest-wifi')
  })
  it('ends a thread in a knot at the port that drops it', () => {
    const gap = loom.bundles.find((b) => b.to === 'bridge-a')?.threads.find((t) => t.vlan === 40)?.gap
    expect(gap).toEqual({
      at: 'from',
      port: { deviceId: 'lab-switch', portId: 'p22' },
      affected: ['skerry-cameras'],
    })
  })
  it('shows what has failed', () => {
    const stormy = analyse(indexPlan(plan), [down('bridge-a')])
    const broken = topologyGraphOf(plan, new Set(['bridge-a']), stormy.carriedVlans, stormy.gaps)
    expect(broken.bundles.filter((b) => b.failed).map((b) => b.id)).toEqual([
      'bridge-a>bridge-b',
      'lab-switch>bridge-a',
    ])
  })
  it('lists every port once for each cable', () => {
    const rows = portRowsOf(base())
    expect(rows.filter((r) => r.device.id === 'sw').map((r) => r.far)).toEqual([
      'Gateway 2',
      'Desk 1',
      'Box 1',
      '',
    ])
    // Sockets of hosts are listed where their group is looked at.
    expect(rows.some((r) => r.device.id === 'desk')).toBe(false)
    expect(
      portRowsOf(base(), 'desk')
        .filter((r) => r.device.id === 'desk')
        .map((r) => r.far),
    ).toEqual(['Switch 2'])
    expect(new Set(portRowsOf(plan).map((r) => r.id)).size).toBe(portRowsOf(plan).length)
  })
  it('draws smooth lines through the layout’s points', () => {
    expect(
      curve(
        [
          { x: 0, y: 0 },
          { x: 10, y: 4 },
        ],
        1,
      ),
    ).toBe('M0 1 C5 1 5 5 10 5')
    expect(thickness({ threads: [] })).toBeGreaterThan(0)
  })
})

describe('typing into tables', () => {
  it('addresses are as short as their subnet allows', () => {
    expect(shortAddress('10.61.7.209', the(plan.networks, 'guests'))).toBe('.7.209')
    expect(shortAddress('10.61.1.100', the(plan.networks, 'staff'))).toBe('.100')
  })
})

describe('threads', () => {
  it('are at least 24 pairs of colour and dash, all different', () => {
    expect(THREADS.length).toBeGreaterThanOrEqual(24)
    expect(new Set(THREADS.map((t) => `${t.colour} ${t.dash}`)).size).toBe(THREADS.length)
    expect(threadOf(plan.networks, 'staff')).toEqual({ colour: 'var(--deep)', dash: '' })
  })
})

describe('a failure scenario', () => {
  const timed = site((plan) => {
    plan.schedules.push({ id: 'office', name: 'Office hours', days: [1], from: '08:00', to: '18:00' })
  })
  it('is told by what is down, what is silent beyond its uplink, and the time, which is not down', () => {
    const words = (...scenario: FailureScenario) => scenarioWords(scenario, namesIn(timed))
    expect(words()).toBe('everything well')
    expect(words(down('line'), upstreamDown('line'))).toBe('Line down and no answer beyond Line')
    expect(words(atInstant(8 * 60))).toBe('Monday 08:00, Office hours')
    expect(words(atInstant(20 * 60), down('sw'))).toBe('Monday 20:00, no schedule and Switch down')
  })
})
