import { parseMac } from '#core/address'
import { ok, problem, refuse, type Result } from '#core/util'
import { parseSerial } from '#core/queries'
import type { Equipment, Plan } from '#core/schema'
import { useBriefList } from '~/features/brief/columns'
import { usePlan, type PlanDraft } from '~/stores/plan'
import { columnsOver, oneOf, orNothing, useColumns, type Column, type Put } from '~/ui/columns'

type EquipmentDraft = PlanDraft['brief']['equipment'][number]
const column = columnsOver<Equipment, EquipmentDraft>()
const NOTHING = ['', '—']

/** Devices that a box can become. */
const devicesOf = (plan: Plan) => plan.devices.filter((d) => d.kind !== 'hosts' && d.kind !== 'cloud')
const deviceNames = (plan: Plan): string[] => ['—', ...devicesOf(plan).map((d) => d.name)]

/** A product's serial, as it is written; another kind of serial is from the same label. */
function serialOf(text: string): Result<string> {
  if (NOTHING.includes(text)) return ok('')
  const read = parseSerial(text)
  if (!read.ok) return read
  const { kind, serial } = read.value
  return kind === 'product' ? ok(serial) : refuse(problem('serial-other-kind', '', { text, kind }))
}

const EQUIPMENT_COLUMNS = [
  column({
    key: 'serial',
    head: 'Serial',
    mono: true,
    read: (b) => b.serial || '—',
    edit: (b) => b.serial,
    parse: serialOf,
    write: (b, serial) => void (b.serial = serial),
    words: (text) => `serial ${text}`,
  }),
  column<string | null>({
    key: 'mac',
    head: 'MAC',
    mono: true,
    read: (b) => b.mac ?? '—',
    edit: (b) => b.mac ?? '',
    parse: orNothing(NOTHING, parseMac),
    write: (b, mac) => void (b.mac = mac),
  }),
  column({
    key: 'deviceId',
    head: 'Becomes',
    strong: true,
    read: (b, plan) => devicesOf(plan).find((d) => d.id === b.deviceId)?.name ?? '—',
    choices: (_, plan) => deviceNames(plan),
    parse: (text, _, plan) => oneOf(deviceNames(plan))(text),
    write: (second, text, draft) =>
      void (second.deviceId = devicesOf(draft as Plan).find((d) => d.name === text)?.id ?? null),
    words: (text) => `box becomes ${text}`,
  }),
]

/** @param models that a box can be of */
export function useEquipmentColumns(models: () => readonly string[]): readonly Column<Equipment>[] {
  const plan = usePlan()
  const { change } = useBriefList('equipment')
  const put: Put<Equipment, EquipmentDraft> = (row, session, words, recipe) =>
    change(row.id, session, words, recipe)
  const model = column({
    key: 'model',
    head: 'Model',
    width: '90px',
    read: (b) => b.model || '—',
    choices: models,
    parse: (text) => oneOf(models())(text),
    write: (b, text) => void (b.model = text),
    words: (text) => `box: ${text}`,
  })
  const planned: Column<Equipment> = {
    key: 'planned',
    head: 'Planned model',
    get: ({ deviceId }) => (plan.draft && devicesOf(plan.draft).find((d) => d.id === deviceId)?.model) || '—',
  }
  return useColumns([model, ...EQUIPMENT_COLUMNS, planned], put)
}
