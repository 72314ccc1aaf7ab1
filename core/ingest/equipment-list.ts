// Question: which boxes does this list name, and which of its rows cannot be right?
// Method: columns by heading, or serial and MAC found in scanned text; every row is judged, and a list with a
// bad row is not used.
// Source:
// ISO/IEC 7064 (check characters), IEEE 802 (EUI-48, group and local bits), as in core/model and
// core/address.
import { parseMac } from '#core/address'
import { problem, type Problem } from '#core/util'
import { parseSerial, type Device, type Equipment } from '#core/model'

export interface EquipmentRow {
  /** Row in the list, counted from 1. */
  readonly row: number
  readonly model: string
  readonly serial: string
  readonly mac: string | null
  readonly deviceId: string | null
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
/** Most rows read at once. */
export const MOST_BOXES = 5000

function judge(
  row: number,
  cell: (name: ColumnName) => string,
  known: { readonly serials: Map<string, number>; readonly macs: Map<string, number> },
  devices: readonly Device[],
): EquipmentRow {
  const place = (column: string) => `row ${row}, column "${column}"`
  const problems: Problem[] = []
  const serial = parseSerial(cell('serial'), place('serial'))
  if (!serial.ok) problems.push(...serial.problems)
  else if (serial.value.kind !== 'product')
    problems.push(
      problem('serial-other-kind', place('serial'), { text: serial.value.serial, kind: serial.value.kind }),
    )
  const text = serial.ok ? serial.value.serial : cell('serial')
  const twin = known.serials.get(text)
  if (serial.ok && twin !== undefined)
    problems.push(problem('serial-again', place('serial'), { text, row: twin }))
  if (!known.serials.has(text)) known.serials.set(text, row)
  const mac = cell('mac') === '' ? null : parseMac(cell('mac'), place('mac'))
  if (mac && !mac.ok) problems.push(...mac.problems)
  const macText = mac?.ok ? mac.value : null
  const macTwin = macText === null ? undefined : known.macs.get(macText)
  if (macTwin !== undefined)
    problems.push(problem('mac-again', place('mac'), { text: macText ?? '', row: macTwin }))
  if (macText !== null && !known.macs.has(macText)) known.macs.set(macText, row)
  const wanted = cell('device')
  const device =
    wanted === ''
      ? undefined
      : devices.find((d) => d.id === wanted || d.name.toLowerCase() === wanted.toLowerCase())
  if (wanted !== '' && !device) problems.push(problem('no-such-device', place('device'), { text: wanted }))
  return {
    row,
    model: cell('model').slice(0, 80),
    serial: text,
    mac: macText,
    deviceId: device?.id ?? null,
    problems,
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
