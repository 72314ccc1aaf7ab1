import './globals'
import { describe, expect, it } from 'vitest'
import type { RosterRow, StepRecord } from '#contracts/api'
import type { Plan } from '#core/schema'
import { asBuiltSections } from '~/features/handover/words'
import { gullhavenPlan } from '#server/demo/gullhaven'
import { base } from '../plans'

const box: RosterRow = {
  deviceId: 'gateway',
  serial: 'GH-7A00-K5R0',
  claim: null,
  claimedBy: 'Rigger',
  key: null,
  saysModel: '',
  past: [{ serial: 'GH-OLD0-0000', claimedAtMs: 0, releasedAtMs: 86_400_000, releasedBy: 'Planner' }],
  events: [],
}
const told: StepRecord = {
  id: 1,
  activityId: 'mount:gateway',
  state: 'done',
  at: '2026-12-08T09:30:00.000Z',
  who: 'Rigger',
  reading: '',
  note: 'in the second bay: the first was full',
  person: '',
  knows: 0,
  values: [],
}
const sections = (plan: Plan) => asBuiltSections(plan, { ports: [], boxes: [box], steps: [told] })
const rowsOf = (plan: Plan, title: string) =>
  sections(plan).find((section) => section.title === title)?.rows ?? []

describe('the as-built page', () => {
  const plan = gullhavenPlan()
  it('has a row for each uplink, SSID, peer and choice of uplink, each as wide as its heads', () => {
    expect(rowsOf(plan, 'Internet connections')).toHaveLength(plan.uplinks.length)
    expect(rowsOf(plan, 'Wi-Fi').map(([name]) => name)).toEqual(plan.ssids.map(({ name }) => name))
    expect(rowsOf(plan, 'Tunnels')).toHaveLength(plan.tunnels.flatMap(({ peers }) => peers).length)
    expect(rowsOf(plan, 'Policy routes')).toHaveLength(plan.policyRoutes.length)
    for (const { title, heads, rows } of sections(plan))
      for (const row of rows) expect([title, row.length]).toEqual([title, heads.length])
  })
  it('has what was told of a step, with its note', () => {
    const [[step, became, read, note, who] = []] = rowsOf(plan, 'Work on site')
    expect([step, became, read, note]).toEqual(['Mount Gateway', 'done', '—', told.note])
    expect(who).toMatch(/^Rigger, 2026-12-08/)
  })
  it('says how an uplink is probed, and that one is not', () => {
    const [line] = plan.uplinks
    const probed = {
      ...line!,
      probe: { ...line!.probe!, kind: 'icmp' as const, targets: ['203.0.113.9'], everyS: 5, misses: 3 },
    }
    const told = (uplink: Plan['uplinks'][number]) =>
      rowsOf({ ...plan, uplinks: [uplink] }, 'Internet connections')[0]?.at(7)
    expect(told(probed)).toBe('icmp to 203.0.113.9 every 5 s, dead after 3 missed')
    expect(told({ ...probed, probe: null })).toBe('its own cable alone')
  })
  it('names the box that serves, and those that served before', () => {
    const [row] = rowsOf(plan, 'Devices under management')
    expect(row?.slice(1, 3)).toEqual(['GH-7A00-K5R0', 'Rigger'])
    expect(row?.[3]).toMatch(/^GH-OLD0-0000, 1970-01-01 .* to 1970-01-02 /)
  })
  it('says where there is nothing', () => {
    const empty = { ...base(), uplinks: [], ssids: [], tunnels: [], policyRoutes: [] } as unknown as Plan
    const bare = sections(empty).filter(({ rows }) => rows.length === 0)
    expect(bare.map(({ none }) => none)).toContain('No uplink to the internet.')
    for (const { none } of bare) expect(none).toMatch(/^[A-Z].*\.$/)
  })
})
