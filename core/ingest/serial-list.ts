// Question: which devices does this list claim, and which of its rows cannot be right?
// Method: one device a row; serial, then the planned device by id or name; every row is judged.
import { isSameName, ok, problem, refuse, type Problem, type Result } from '#core/util'
import { parseSerial, type SerialKind } from '#core/queries'
import type { Device, DeviceId } from '#core/schema'

interface ClaimRow {
  /** Row in the list, counted from 1. */
  readonly row: number
  readonly serial: string
  readonly kind: SerialKind
  readonly deviceId: DeviceId
}

interface SerialList {
  /** Rows that can be right, in the order of the list. */
  readonly claims: readonly ClaimRow[]
  /** What the others have, each with its row and column, in that order. */
  readonly problems: readonly Problem[]
  /** Those others, counted from 1. */
  readonly wrongRows: readonly number[]
}

/** Most claims in one go. */
export const MOST_CLAIMS = 1000

/**
 * Reads rows `serial, device`; a first row whose first cell says `serial` is a heading and is passed over.
 * Problems: not-a-serial, wrong-check, no-such-device, serial-twice, device-twice; too-many-rows and empty-list
 * are of the list as a whole.
 */
export function readSerialList(rows: readonly (readonly string[])[], devices: readonly Device[]): SerialList {
  if (rows.length > MOST_CLAIMS + 1) {
    const tooMany = problem('too-many-rows', `row ${MOST_CLAIMS + 2}`, { most: MOST_CLAIMS })
    return { claims: [], problems: [tooMany], wrongRows: [] }
  }
  const claims: ClaimRow[] = []
  const problems: Problem[] = []
  const wrongRows: number[] = []
  rows.forEach((cells, i) => {
    const [serialText = '', deviceText = ''] = cells.map((cell) => cell.trim())
    const isHeading = i === 0 && serialText.toLowerCase() === 'serial'
    if (isHeading || cells.every((cell) => cell.trim() === '')) return
    const row = i + 1
    const judged = judgeRow({ row, serialText, deviceText }, devices, claims)
    if (judged.ok) claims.push(judged.value)
    else {
      problems.push(...judged.problems)
      wrongRows.push(row)
    }
  })
  if (claims.length + wrongRows.length === 0) problems.push(problem('empty-list', ''))
  return { claims, problems, wrongRows }
}

interface TypedRow {
  readonly row: number
  readonly serialText: string
  readonly deviceText: string
}

function judgeRow(
  { row, serialText, deviceText }: TypedRow,
  devices: readonly Device[],
  before: readonly ClaimRow[],
): Result<ClaimRow> {
  const [serialPlace, devicePlace] = [`row ${row}, column "serial"`, `row ${row}, column "device"`]
  const serial = parseSerial(serialText, serialPlace)
  const device = devices.find(({ id, name }) => id === deviceText || isSameName(name, deviceText))
  const problems = serial.ok ? [] : [...serial.problems]
  if (!device) problems.push(problem('no-such-device', devicePlace, { text: deviceText }))
  if (!serial.ok || !device) return refuse(...problems)
  const { serial: text } = serial.value
  if (before.some((claim) => claim.serial === text))
    problems.push(problem('serial-twice', serialPlace, { text }))
  if (before.some((claim) => claim.deviceId === device.id))
    problems.push(problem('device-twice', devicePlace, { text: device.name }))
  return problems.length > 0 ? refuse(...problems) : ok({ ...serial.value, row, deviceId: device.id })
}
