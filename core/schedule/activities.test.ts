import { describe, expect, it } from 'vitest'
import { gullhavenClean, gullhavenPlan } from '#server/demo/gullhaven'
import type { Draft, Plan } from '#core/schema'
import { adjust, blankPlan } from '#core/edit'
import { DAY } from '#core/queries'
import { site } from '../../tests/plans'
import { durationOf } from './activity'
import {
  activitiesOf,
  benchPlan,
  compile,
  createSearch,
  crewsOf,
  projectOf,
  timetableOf,
  type Timetable,
} from '.'

const ids = (plan: Plan): string[] => activitiesOf(plan).map(({ id }) => id)
const timetable = (plan: Plan): Timetable => {
  const compiled = compile(projectOf(plan))
  return timetableOf(compiled, createSearch(compiled, 1).best)
}
const rowOf = ({ rows }: Timetable, id: string) => {
  const row = rows.find((each) => each.id === id)
  if (row?.startMin == null || row.endMin == null) throw new Error(`${id} has no time`)
  return { ...row, startMin: row.startMin, endMin: row.endMin }
}
const isBefore = (table: Timetable, first: string, second: string): boolean =>
  rowOf(table, first).endMin <= rowOf(table, second).startMin
/** All that an activity waits for, one after the other, the last first. */
function reasonsOf({ rows }: Timetable, id: string): string[] {
  const reason = rows.find((each) => each.id === id)?.waitsFor
  return reason == null ? [] : [reason, ...reasonsOf({ rows } as Timetable, reason)]
}
/** The demo without a fixed window, so that everything finds a time. */
const open = (change: (plan: Draft<Plan>) => void = () => {}): Plan => {
  const plan = structuredClone(gullhavenPlan()) as Draft<Plan>
  plan.work.cutOver = null
  change(plan)
  return plan
}

describe('the activities of a plan', () => {
  it('of an empty site are none', () => {
    expect(activitiesOf(blankPlan('New', '10.0.0.0/16'))).toEqual([])
  })
  it('have ids that only change with what they are about', () => {
    const plan = site()
    const renamed = site((draft) => void (draft.devices[1]!.name = 'Another'))
    expect(ids(renamed)).toEqual(ids(plan))
    expect(new Set(ids(plan)).size).toBe(ids(plan).length)
  })
  it('wait only for what is there', () => {
    const all = activitiesOf(gullhavenPlan())
    const known = new Set(all.map(({ id }) => id))
    expect(all.flatMap(({ after }) => after).filter((id) => !known.has(id))).toEqual([])
  })
  it('that are left out hand their order on', () => {
    const plan = open((draft) => void (draft.work.leftOut = ['firmware', 'label', 'print']))
    const settings = activitiesOf(plan).find(({ id }) => id === 'settings:gateway')
    expect(settings?.after).toContain('sign-in:gateway')
    expect(ids(plan).filter((id) => /^(firmware|label|print)/.test(id))).toEqual([])
    // The bench's port is freed by the label alone: without it nobody holds one.
    expect(activitiesOf(plan).flatMap(({ takes }) => takes)).not.toContain('bench-port')
    expect(timetable(plan).rows.every(({ unplaced }) => unplaced === null)).toBe(true)
  })
  it('take a model’s own times, and this team’s before those', () => {
    const boot = (plan: Plan) => activitiesOf(plan).find(({ id }) => id === 'boot:gateway')?.duration
    // The catalogue's G4 starts in 120 s.
    expect(boot(open())).toEqual({ leastMin: 2, usualMin: 2, worstMin: 4, source: 'model' })
    const own = { kind: 'boot' as const, leastMin: 3, usualMin: 5, worstMin: 9 }
    expect(boot(open((draft) => void draft.work.durations.push(own)))).toMatchObject({
      usualMin: 5,
      source: 'own',
    })
  })
})

describe('several alike', () => {
  it('spread by the root of their number: 4 of 2, 10 and 30 min are 24, 40 and 80 min', () => {
    const own = new Map([['pull', { kind: 'pull', leastMin: 2, usualMin: 10, worstMin: 30 }] as const])
    expect(durationOf('pull', own, 4)).toEqual({ leastMin: 24, usualMin: 40, worstMin: 80, source: 'own' })
  })
})

describe('the rules of order', () => {
  const table = timetable(open())
  it.each([
    ['claimed before power, so that a device that calls home is known', 'claim:gateway', 'power:gateway'],
    ['the factory password before it faces a network', 'sign-in:gateway', 'connect:gateway'],
    ['firmware before configuration', 'firmware:lab-switch', 'settings:lab-switch'],
    ['a factory address is changed before it meets the live network', 'settings:gateway', 'connect:gateway'],
    ['the controller before what it adopts', 'settings:controller', 'power:boat-switch'],
    ['downloads before the old line goes', 'download', 'unplug'],
    ['the old wiring is noted before it is unplugged', 'note-wiring', 'unplug'],
    ['what stands is backed up before it is unplugged', 'back-up-old', 'unplug'],
    ['upstream before downstream', 'connect:lab-switch', 'connect:boat-switch'],
    [
      'both ends of a radio link stand before either is aimed',
      'connect:bridge-b',
      'aim:bridge-a.radio-bridge-b.radio:a',
    ],
    ['lightning protection before an outdoor device is connected', 'bond:bridge-a', 'connect:bridge-a'],
    ['proof before hand-over', 'prove:passes', 'hand-over'],
  ])('%s', (_, first, second) => {
    expect(isBefore(table, first, second)).toBe(true)
  })
  it.each([
    ['claim before power', 'claim:gateway', 'power:gateway'],
    ['the factory password before anything that faces a network', 'sign-in:gateway', 'connect:gateway'],
    ['firmware before configuration', 'firmware:lab-switch', 'settings:lab-switch'],
    ['no factory address of the live gateway on the live network', 'settings:gateway', 'connect:gateway'],
    ['nothing that cuts the line while a download waits for it', 'download', 'unplug'],
    ['the old wiring noted before it goes', 'note-wiring', 'unplug'],
    ['the controller before what it adopts', 'settings:controller', 'power:boat-switch'],
    ['protection before power outdoors', 'bond:bridge-a', 'connect:bridge-a'],
  ])('%s: who puts the first off puts the other off too, and is told why', (_, first, second) => {
    const before = rowOf(table, second).startMin
    const late = timetable(
      open(({ work }) => {
        adjust(work, first, { notBeforeMin: before + 7 * DAY })
        adjust(work, second, { notBeforeMin: 0 })
      }),
    )
    expect(rowOf(late, second).startMin).toBeGreaterThanOrEqual(rowOf(late, first).endMin)
    expect(reasonsOf(late, second)).toContain(first)
  })
  it('a laptop that is wished for twice at once goes to one after the other, and that is told', () => {
    const [one, other] = ['lab-switch', 'boat-switch']
    const at = rowOf(table, `sign-in:${one}`).startMin
    const both = timetable(
      open(({ work }) => {
        for (const id of [one, other]) adjust(work, `sign-in:${id}`, { notBeforeMin: at })
      }),
    )
    const [first, second] = [one, other].sort(
      (a, b) => rowOf(both, `sign-in:${a}`).startMin - rowOf(both, `sign-in:${b}`).startMin,
    )
    expect(isBefore(both, `settings:${first}`, `sign-in:${second}`)).toBe(true)
    expect(reasonsOf(both, `sign-in:${second}`)).toContain(`settings:${first}`)
  })
  it('the network side of an injector is plugged once the device behind it has its own address', () => {
    const plan = open((draft) => {
      const device = draft.devices.find(({ id }) => id === 'lab-switch')
      const link = draft.links.find(({ b }) => b.deviceId === 'lab-switch')
      if (!device || !link) throw new Error('the demo has another switch')
      draft.devices.push({
        ...structuredClone(device),
        id: 'injector',
        name: 'Injector',
        kind: 'injector',
        ports: [],
      })
      draft.links.push({ ...structuredClone(link), id: 'fed', a: { deviceId: 'injector', portId: 'out' } })
      link.b = { deviceId: 'injector', portId: 'in' }
    })
    expect(activitiesOf(plan).find(({ id }) => id === 'connect:injector')?.after).toContain(
      'settings:lab-switch',
    )
  })
  it('outdoor work that is wished for at night waits for the light', () => {
    const day = rowOf(table, 'connect:bridge-a').startMin
    const night = Math.ceil(day / DAY) * DAY + 60
    const late = timetable(open(({ work }) => void adjust(work, 'connect:bridge-a', { notBeforeMin: night })))
    const light = projectOf(open()).daylight?.find(({ to }) => to > night)
    expect(rowOf(late, 'connect:bridge-a').startMin).toBeGreaterThanOrEqual(light?.from ?? Infinity)
  })
  it('two devices with one factory address are never powered at once, however many ports there are', () => {
    const plan = open((draft) => {
      draft.work.benchPorts = 8
      const gateway = draft.devices.find(({ id }) => id === 'gateway')
      if (gateway) draft.devices.push({ ...structuredClone(gateway), id: 'second', name: 'Second gateway' })
    })
    const both = timetable(plan)
    const held = ['gateway', 'second'].map((id) => [
      rowOf(both, `power:${id}`).startMin,
      rowOf(both, `settings:${id}`).endMin,
    ])
    const [[from = 0, to = 0] = [], [otherFrom = 0, otherTo = 0] = []] = held
    expect(to <= otherFrom || otherTo <= from).toBe(true)
  })
  it('a device holds its factory address from power until it is changed, and waits for what adopts it', () => {
    const all = new Map(activitiesOf(open()).map((each) => [each.id, each]))
    expect(all.get('power:gateway')?.takes).toContain('address:192.168.77.1')
    expect(all.get('settings:gateway')?.frees).toContain('address:192.168.77.1')
    expect(all.get('power:boat-switch')?.after).toContain('settings:controller')
    expect(all.get('power:controller')?.after).toEqual(['unbox:controller'])
  })
  it('the laptop is back on automatic before the next device needs it', () => {
    const signs = table.rows.filter(({ kind }) => kind === 'sign-in')
    const spans = signs.map(({ about, startMin }) => [
      startMin ?? 0,
      rowOf(table, `settings:${about}`).endMin,
    ])
    const sorted = spans.sort(([first = 0], [second = 0]) => first - second)
    sorted.forEach(([, end = 0], i) => expect(end).toBeLessThanOrEqual(sorted[i + 1]?.[0] ?? Infinity))
  })
  it('outdoors by daylight alone', () => {
    const project = projectOf(open())
    const outdoors = table.rows.filter(({ limit }) => limit === 'daylight')
    expect(outdoors.length).toBeGreaterThan(5)
    for (const { startMin, endMin } of outdoors)
      expect(
        project.daylight?.some(({ from, to }) => from <= (startMin ?? -1) && (endMin ?? Infinity) <= to),
      ).toBe(true)
  })
  it('only who may works at mains and at height', () => {
    for (const { skills, personId } of table.rows.filter((row) => row.skills.includes('mains'))) {
      expect(skills).toContain('mains')
      expect(personId).toBe('electrician')
    }
  })
})

describe('the window of the cut-over', () => {
  it('holds all that cuts the line, and says when to turn back at the latest', () => {
    const table = timetable(gullhavenPlan())
    const inWindow = table.rows.filter(({ limit }) => limit === 'window')
    expect(inWindow.length).toBeGreaterThan(5)
    // Nothing before the window opens holds up the end.
    expect(table.rows.find(({ isCritical }) => isCritical)?.limit).toBe('window')
    for (const { startMin, endMin } of inWindow) {
      expect(startMin).toBeGreaterThanOrEqual(table.window?.from ?? Infinity)
      expect(endMin).toBeLessThanOrEqual(table.window?.to ?? 0)
    }
    // Worst: unplug 10, connect 20, wait 30 min; nobody knows of a lock to a MAC address.
    expect(table.turnBackMin).toBe((table.window?.to ?? 0) - 60)
  })
  it('that is too short is told, with all that waits for it', () => {
    const plan = open(
      (draft) => void (draft.work.cutOver = { date: '2026-12-11', from: '13:00', to: '13:01' }),
    )
    const table = timetable(plan)
    expect(table.rows.find(({ id }) => id === 'gate-begin')?.unplaced).toBe('window')
    expect(table.rows.find(({ id }) => id === 'hand-over')?.unplaced).toBe('waits')
  })
})

describe('people', () => {
  it('nobody who may work at mains leaves that undone, and what waits for it', () => {
    const plan = open(
      (draft) => void (draft.work.people = draft.work.people.filter(({ id }) => id === 'rigger')),
    )
    const undone = timetable(plan).rows.filter(({ unplaced }) => unplaced !== null)
    expect(undone.filter(({ unplaced }) => unplaced === 'nobody').every(({ kind }) => kind === 'bond')).toBe(
      true,
    )
    expect(undone.map(({ id }) => id)).toContain('hand-over')
  })
  it('one is not enough, two are, and three are told too', () => {
    const crews = crewsOf(open(), 1)
    expect(crews.map(({ people }) => people)).toEqual([1, 2, 3])
    expect(crews[0]?.endMin).toBeNull()
    expect(crews[2]?.endMin).toBeLessThanOrEqual(crews[1]?.endMin ?? 0)
  })
})

describe('the bench', () => {
  it('takes devices of one laptop address together, the controller first', () => {
    const { steps, changes, unknown } = benchPlan(gullhavenClean())
    expect(steps[0]?.device.kind).toBe('controller')
    expect(steps.filter(({ isChange }) => isChange)).toHaveLength(changes)
    expect(new Set(steps.map(({ line }) => line.laptop)).size).toBeLessThanOrEqual(changes + 1)
    expect(unknown).toEqual([])
  })
})
