import { parsePrefix4 } from '#core/address'
import type { Problem } from '#core/util'
import type { Building, Existing, FarSite, NeedLine, Room, Span } from '#core/schema'
import { gridText, gridTyped, positionText, positionTyped } from './position'
import { checkChoice, checkName, checkNumber, orNothing, reasons, signed, type Column } from '~/ui/columns'
import { usePlan, type PlanDraft } from '~/stores/plan'

// The tables of the Brief: one list of the plan each, edited in place.

type ListKey = 'buildings' | 'spans' | 'rooms' | 'needs' | 'far' | 'existing' | 'equipment'
type Item<K extends ListKey> = PlanDraft['brief'][K][number]

/** A list of the brief: how one of its items is changed, added and removed. */
export function useBriefList<K extends ListKey>(key: K) {
  const plan = usePlan()
  const list = (draft: PlanDraft) => draft.brief[key] as Item<K>[]
  const change = (
    id: string,
    session: string,
    words: string,
    put: (item: Item<K>, draft: PlanDraft) => void,
  ) =>
    plan.edit(words, session, (draft) => {
      const item = list(draft).find((x) => x.id === id)
      if (item) put(item, draft)
    })
  const add = (words: string, item: Item<K>) => plan.edit(words, '', (draft) => void list(draft).push(item))
  const remove = (id: string, words: string) =>
    plan.edit(words, '', (draft) => {
      const items = list(draft)
      const at = items.findIndex((x) => x.id === id)
      if (at !== -1) items.splice(at, 1)
    })
  return { change, add, remove }
}

const NOTHING_TYPED = ['', '—']
const optionalNumber = (text: string, least: number, most: number): readonly Problem[] =>
  NOTHING_TYPED.includes(text) ? [] : checkNumber(text, least, most)
const orBlank = (value: number | null): string => (value === null ? '—' : String(value))
const numberOr = (text: string): number | null => (NOTHING_TYPED.includes(text) ? null : Number(text))

const groundTyped = orNothing<number>(NOTHING_TYPED, signed(-500, 9000))

/** Choices told by name and kept by id. */
function choiceOf(items: () => readonly { readonly id: string; readonly name: string }[]) {
  const nameOf = (id: string) => items().find((x) => x.id === id)?.name ?? id
  const idOf = (name: string) => items().find((x) => x.name === name)?.id ?? ''
  const names = () => items().map((x) => x.name)
  return { nameOf, idOf, names }
}

export function useBuildingColumns(): readonly Column<Building>[] {
  const { change } = useBriefList('buildings')
  return [
    {
      key: 'name',
      head: 'Building',
      strong: true,
      get: (b) => b.name,
      check: (_, text) => checkName(text),
      commit: (row, text, session) =>
        change(row.id, session, `building ${text}`, (b) => void (b.name = text)),
    },
    {
      key: 'position',
      head: 'Latitude, longitude',
      mono: true,
      get: ({ position }) => positionText(position),
      check: (_, text) => reasons(positionTyped(text)),
      commit: (row, text, session) => {
        const position = positionTyped(text)
        if (position.ok)
          change(row.id, session, `${row.name}: at ${text}`, (b) => void (b.position = position.value))
      },
    },
    {
      key: 'grid',
      head: 'Or east, north, m',
      mono: true,
      get: ({ grid }) => gridText(grid),
      check: (_, text) => reasons(gridTyped(text)),
      commit: (row, text, session) => {
        const grid = gridTyped(text)
        if (grid.ok) change(row.id, session, `${row.name}: at ${text}`, (b) => void (b.grid = grid.value))
      },
    },
    {
      key: 'ground',
      head: 'Ground, m',
      num: true,
      mono: true,
      get: ({ groundM }) => orBlank(groundM),
      check: (_, text) => reasons(groundTyped(text)),
      commit: (row, text, session) => {
        const ground = groundTyped(text)
        if (ground.ok)
          change(row.id, session, `${row.name}: ground ${text} m`, (b) => void (b.groundM = ground.value))
      },
    },
  ]
}

export function useSpanColumns(): readonly Column<Span>[] {
  const plan = usePlan()
  const { change } = useBriefList('spans')
  const { nameOf, idOf, names } = choiceOf(() => plan.draft?.brief.buildings ?? [])
  const end = (side: 'a' | 'b', head: string): Column<Span> => ({
    key: side,
    head,
    get: (s) => nameOf(s[side]),
    choices: names,
    check: (_, text) => checkChoice(text, names()),
    commit: (row, text, session) =>
      change(row.id, session, `distance: ${head.toLowerCase()} ${text}`, (s) => void (s[side] = idOf(text))),
  })
  const CROSSES = ['nothing', 'ground', 'road', 'water']
  return [
    end('a', 'From'),
    end('b', 'To'),
    {
      key: 'distanceM',
      head: 'm',
      num: true,
      mono: true,
      width: '80px',
      get: (s) => String(s.distanceM),
      check: (_, text) => checkNumber(text, 0, 200_000),
      commit: (row, text, session) =>
        change(row.id, session, `distance ${text} m`, (s) => void (s.distanceM = Number(text))),
    },
    {
      key: 'crosses',
      head: 'Crosses',
      width: '110px',
      get: (s) => s.crosses,
      choices: () => CROSSES,
      check: (_, text) => checkChoice(text, CROSSES),
      commit: (row, text, session) =>
        change(row.id, session, `crosses ${text}`, (s) => void (s.crosses = text as Span['crosses'])),
    },
  ]
}

export function useRoomColumns(): readonly Column<Room>[] {
  const plan = usePlan()
  const { change } = useBriefList('rooms')
  const { nameOf, idOf, names } = choiceOf(() => plan.draft?.brief.buildings ?? [])
  return [
    {
      key: 'name',
      head: 'Room',
      strong: true,
      get: (r) => r.name,
      check: (_, text) => checkName(text),
      commit: (row, text, session) => change(row.id, session, `room ${text}`, (r) => void (r.name = text)),
    },
    {
      key: 'buildingId',
      head: 'Building',
      get: (r) => nameOf(r.buildingId),
      choices: names,
      check: (_, text) => checkChoice(text, names()),
      commit: (row, text, session) =>
        change(row.id, session, `${row.name}: in ${text}`, (r) => void (r.buildingId = idOf(text))),
    },
    {
      key: 'people',
      head: 'People',
      num: true,
      mono: true,
      width: '80px',
      get: (r) => orBlank(r.people),
      check: (_, text) => optionalNumber(text, 0, 100_000),
      commit: (row, text, session) =>
        change(row.id, session, `${row.name}: ${text} people`, (r) => void (r.people = numberOr(text))),
    },
  ]
}

export function useNeedColumns(): readonly Column<NeedLine>[] {
  const plan = usePlan()
  const { change } = useBriefList('needs')
  const networkOf = (n: NeedLine) => plan.draft?.networks.find((x) => x.id === n.networkId)
  return [
    {
      key: 'name',
      head: 'Who or what',
      strong: true,
      get: (n) => n.name,
      check: (_, text) => checkName(text),
      commit: (row, text, session) => change(row.id, session, `need ${text}`, (n) => void (n.name = text)),
    },
    {
      key: 'count',
      head: 'Devices',
      num: true,
      mono: true,
      width: '84px',
      get: (n) => String(n.count),
      check: (_, text) => checkNumber(text, 0, 1_000_000),
      commit: (row, text, session) =>
        change(row.id, session, `${row.name}: ${text} devices`, (n) => void (n.count = Number(text))),
    },
    {
      key: 'growthPct',
      head: 'Growth %',
      num: true,
      mono: true,
      width: '84px',
      get: (n) => String(n.growthPct),
      check: (_, text) => checkNumber(text, 0, 1000),
      commit: (row, text, session) =>
        change(row.id, session, `${row.name}: growth ${text} %`, (n) => void (n.growthPct = Number(text))),
    },
    {
      key: 'vlan',
      head: 'VLAN wished',
      num: true,
      mono: true,
      width: '104px',
      get: (n) => orBlank(n.vlan),
      check: (_, text) => optionalNumber(text, 1, 4094),
      commit: (row, text, session) =>
        change(row.id, session, `${row.name}: VLAN ${text}`, (n) => void (n.vlan = numberOr(text))),
    },
    { key: 'network', head: 'Network', get: (n) => networkOf(n)?.name ?? 'none yet' },
    { key: 'subnet', head: 'Subnet', mono: true, get: (n) => networkOf(n)?.subnet ?? '—' },
  ]
}

export function useFarColumns(): readonly Column<FarSite>[] {
  const { change } = useBriefList('far')
  const listOf = (text: string) => text.split(/[\s,;]+/).filter((t) => t !== '' && t !== '—')
  return [
    {
      key: 'name',
      head: 'Site',
      strong: true,
      get: (f) => f.name,
      check: (_, text) => checkName(text),
      commit: (row, text, session) =>
        change(row.id, session, `far site ${text}`, (f) => void (f.name = text)),
    },
    {
      key: 'subnets',
      head: 'Subnets',
      mono: true,
      get: (f) => f.subnets.join(' ') || '—',
      edit: (f) => f.subnets.join(' '),
      check: (_, text) => listOf(text).flatMap((t) => reasons(parsePrefix4(t))),
      commit: (row, text, session) =>
        change(row.id, session, `${row.name}: ${text}`, (f) => void (f.subnets = listOf(text))),
    },
    {
      key: 'tunnel',
      head: 'Inside the tunnel',
      mono: true,
      get: (f) => f.tunnel ?? '—',
      edit: (f) => f.tunnel ?? '',
      check: (_, text) => (NOTHING_TYPED.includes(text) ? [] : reasons(parsePrefix4(text))),
      commit: (row, text, session) =>
        change(
          row.id,
          session,
          `${row.name}: tunnel ${text}`,
          (f) => void (f.tunnel = NOTHING_TYPED.includes(text) ? null : text),
        ),
    },
  ]
}

export function useExistingColumns(): readonly Column<Existing>[] {
  const { change } = useBriefList('existing')
  const FATES = ['keep', 'replace', 'unknown']
  return [
    {
      key: 'what',
      head: 'What is there',
      strong: true,
      get: (e) => e.what,
      check: (_, text) => checkName(text),
      commit: (row, text, session) =>
        change(row.id, session, `existing: ${text}`, (e) => void (e.what = text)),
    },
    {
      key: 'disposition',
      head: 'To be',
      width: '110px',
      get: (e) => e.disposition,
      choices: () => FATES,
      check: (_, text) => checkChoice(text, FATES),
      commit: (row, text, session) =>
        change(
          row.id,
          session,
          `${row.what}: ${text}`,
          (e) => void (e.disposition = text as Existing['disposition']),
        ),
    },
  ]
}
