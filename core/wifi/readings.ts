// Question: what was read in a room, and what of it counts?
// Source: a bar of a device stands for a level as in `signalPercent` (common practice, without a source).
import { ok, problem, refuse, type Result } from '#core/util'
import type { RoomSignal } from './coverage'

const LEAST_DBM = -120
const FROM_PERCENT = /^(\d{1,3}) ?%$/
const AS_LEVEL = /^[-−](\d{1,3}(?:\.\d)?)(?: ?dBm)?$/i

/** A level as it was read: `-67`, `-67 dBm`, or `66 %` as telephones and bridges show it. Problems: not-a-reading. */
export function parseReading(text: string): Result<number> {
  const typed = text.trim()
  const [, percent] = FROM_PERCENT.exec(typed) ?? []
  const [, level] = AS_LEVEL.exec(typed) ?? []
  // 2 (dBm + 100), the other way round; 0 and 100 % are all that lies beyond.
  if (percent !== undefined && Number(percent) > 0 && Number(percent) < 100)
    return ok(Number(percent) / 2 - 100)
  const dBm = -Number(level)
  return level !== undefined && dBm >= LEAST_DBM
    ? ok(dBm)
    : refuse(problem('not-a-reading', '', { text: text.slice(0, 40) }))
}

/** What a room is judged by: what was read there, else what is predicted, dBm; null of neither. */
export const judgedDbm = ({ room, worstTenthDbm }: RoomSignal): number | null => room.readDbm ?? worstTenthDbm
