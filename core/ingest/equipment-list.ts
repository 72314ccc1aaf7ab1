// Question: which boxes does this list name, and which of its rows cannot be right?
// Method: columns by heading, or serial and MAC found in scanned text; every row is judged, and a list with a
// bad row is not used.
// Source:
// ISO/IEC 7064 (check characters), IEEE 802 (EUI-48, group and local bits), as in core/queries and
// core/address.
import { parseMac } from '#core/address'
import { isSameName, problem, type Problem } from '#core/util'
import { parseSerial } from '#core/queries'
import type { Device, Equipment, DeviceId } from '#core/schema'

export interface EquipmentRow {
  /** Row in the list, counted from 1. */
  readonly row: number
  readonly model: string
  readonly serial: string
  readonly mac: string | null
  readonly deviceId: DeviceId | null
  readonly problems: readonly Problem[]
}

type ColumnName = 'model' | 'serial' | 'mac' | 'device'
const HEADINGS: Readonly<Record<string, ColumnName>> = {
  model: 'model',
  type: 'model',
  serial: 'serial',
  'serial number': 'serial',
  's/n': 'serial',
  mac: 'mac',
  'mac address': 'mac',
  device: 'device',
  name: 'device',
}
/** Letters of a model's name that are kept. */
const MOST_MODEL = 80
/** Most rows read at once. */
export const MOST_BOXES = 5000

/** Texts that were met, with the row that had each first. */
type RowsMet = Map<string, number>

/** A problem where a text was met before; remembers it otherwise. */
function metAgain(met: RowsMet, text: string, row: number, told: (twin: number) => Problem): Problem[] {
  const twin = met.get(text)
  if (twin !== undefined) return [told(twin)]
  met.set(text, row)
  return []
}

interface Judged<T> {
  readonly value: T
  readonly problems: readonly Problem[]
}

function judgeSerial(typed: string, row: number, place: string, met: RowsMet): Judged<string> {
  const serial = parseSerial(typed, place)
  if (!serial.ok) {
    if (!met.has(typed)) met.set(typed, row)
    return { value: typed, problems: serial.problems }
  }
  const { serial: value, kind } = serial.value
  const other = kind === 'product' ? [] : [problem('serial-other-kind', place, { text: value, kind })]
  const again = metAgain(met, value, row, (twin) =>
    problem('serial-again', place, { text: value, row: twin }),
  )
  return { value, problems: [...other, ...again] }
}

function judgeMac(typed: string, row: number, place: string, met: RowsMet): Judged<string | null> {
  if (typed === '') return { value: null, problems: [] }
  const mac = parseMac(typed, place)
  if (!mac.ok) return { value: null, problems: mac.problems }
  const { value } = mac
  return {
    value,
    problems: metAgain(met, value, row, (twin) => problem('mac-again', place, { text: value, row: twin })),
  }
}

function judgeDevice(typed: string, place: string, devices: readonly Device[]): Judged<string | null> {
  if (typed === '') return { value: null, problems: [] }
  const device = devices.find((d) => d.id === typed || isSameName(d.name, typed))
  return device
    ? { value: device.id, problems: [] }
    : { value: null, problems: [problem('no-such-device', place, { text: typed })] }
}

function judge(
  row: number,
  cell: (name: ColumnName) => string,
  known: { readonly serials: RowsMet; readonly macs: RowsMet },
  devices: readonly Device[],
): EquipmentRow {
  const place = (column: ColumnName) => `row ${row}, column "${column}"`
  const serial = judgeSerial(cell('serial'), row, place('serial'), known.serials)
  const mac = judgeMac(cell('mac'), row, place('mac'), known.macs)
  const device = judgeDevice(cell('device'), place('device'), devices)
  return {
    row,
    model: cell('model').slice(0, MOST_MODEL),
    serial: serial.value,
    mac: mac.value,
    deviceId: device.value,
    problems: [...serial.problems, ...mac.problems, ...device.problems],
  }
}

/** Row 0 stands for a box that is in the plan already. */
const seenIn = (boxes: readonly Equipment[]) => ({
  serials: new Map(boxes.filter((b) => b.serial !== '').map((b) => [b.serial, 0])),
  macs: new Map(boxes.flatMap((b) => (b.mac === null ? [] : [[b.mac, 0] as const]))),
})

/**
 * Judges a table with a heading row.
 * A table without a heading that names `serial` gives one row with that problem.
 * Problems by row: not-a-serial, wrong-check, serial-other-kind, serial-again, not-eui48, multicast-mac,
 * local-mac, mac-again, no-such-device.
 */
export function readEquipmentList(
  rows: readonly (readonly string[])[],
  boxes: readonly Equipment[],
  devices: readonly Device[],
): readonly EquipmentRow[] {
  const at = new Map<ColumnName, number>()
  ;(rows[0] ?? []).forEach((text, i) => {
    const name = HEADINGS[text.trim().toLowerCase()]
    if (name !== undefined && !at.has(name)) at.set(name, i)
  })
  const none = (code: string, values: Problem['values'], row: number): EquipmentRow => ({
    row,
    model: '',
    serial: '',
    mac: null,
    deviceId: null,
    problems: [problem(code, `row ${row}`, values)],
  })
  if (!at.has('serial')) return rows.length === 0 ? [] : [none('no-heading', { columns: 'serial' }, 1)]
  if (rows.length > MOST_BOXES + 1) return [none('too-many-rows', { most: MOST_BOXES }, MOST_BOXES + 2)]
  const known = seenIn(boxes)
  return rows.flatMap((cells, i) => {
    if (i === 0 || cells.every((c) => c.trim() === '')) return []
    return [judge(i + 1, (name) => (cells[at.get(name) ?? -1] ?? '').trim(), known, devices)]
  })
}

/**
 * Serial and MAC in a text that a hand scanner typed: bare, or among other words as QR codes carry them.
 * Null where it holds neither.
 */
export function readScan(
  text: string,
): { readonly serial: string | null; readonly mac: string | null } | null {
  const words = text.split(/[\s,;|&?=]+/).flatMap((word) => [word, word.replace(/^[A-Za-z/]{1,6}:/, '')])
  const serial = words.map((w) => parseSerial(w)).find((r) => r.ok)
  const mac = words.map((w) => parseMac(w)).find((r) => r.ok)
  return serial?.ok || mac?.ok
    ? { serial: serial?.ok ? serial.value.serial : null, mac: mac?.ok ? mac.value : null }
    : null
}
