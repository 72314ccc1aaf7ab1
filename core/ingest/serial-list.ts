// Question: which devices does this list claim?
// Method: one device a row; serial, then the planned device by id or name.
// Every row is checked before any is used.
import { ok, problem, refuse, type Problem, type Result } from '#core/util'
import { parseSerial, type SerialKind } from '#core/queries'
import type { Device, DeviceId } from '#core/schema'

export interface ClaimRow {
  readonly serial: string
  readonly kind: SerialKind
  readonly deviceId: DeviceId
}

/** Most claims in one go. */
export const MOST_CLAIMS = 1000

/**
 * Reads rows `serial, device`; a first row whose first cell says `serial` is a heading and is passed over.
 * Problems, each with its row and column: not-a-serial, wrong-check, no-such-device, serial-twice,
 * device-twice.
 */
export function readSerialList(
  rows: readonly (readonly string[])[],
  devices: readonly Device[],
): Result<readonly ClaimRow[]> {
  const problems: Problem[] = []
  const out: ClaimRow[] = []
  if (rows.length > MOST_CLAIMS + 1)
    return refuse(problem('too-many-rows', `row ${MOST_CLAIMS + 2}`, { most: MOST_CLAIMS }))
  rows.forEach((cells, i) => {
    const [serialText = '', deviceText = ''] = cells.map((c) => c.trim())
    if (cells.every((c) => c.trim() === '') || (i === 0 && serialText.toLowerCase() === 'serial')) return
    const row = i + 1
    const serial = parseSerial(serialText, `row ${row}, column "serial"`)
    const device = devices.find(
      (d) => d.id === deviceText || d.name.toLowerCase() === deviceText.toLowerCase(),
    )
    if (!serial.ok) problems.push(...serial.problems)
    if (!device) problems.push(problem('no-such-device', `row ${row}, column "device"`, { text: deviceText }))
    if (!serial.ok || !device) return
    if (out.some((o) => o.serial === serial.value.serial))
      problems.push(problem('serial-twice', `row ${row}, column "serial"`, { text: serial.value.serial }))
    if (out.some((o) => o.deviceId === device.id))
      problems.push(problem('device-twice', `row ${row}, column "device"`, { text: device.name }))
    out.push({ ...serial.value, deviceId: device.id })
  })
  if (problems.length === 0 && out.length === 0) return refuse(problem('empty-list', ''))
  return problems.length > 0 ? refuse(...problems) : ok(out)
}
