// Question: which stations does an access point serve, how loudly, and how fast, as `iw dev <interface> station dump`
// lists them?
// Method: one block for each station; what is not read there is null.
// Source: iw 6.7, station.c (print_sta_handler, parse_bitrate), from memory.
import { ok, problem, refuse, type Result } from '#core/util'

export interface HeardStation {
  /** MAC address, lower case. */
  readonly mac: string
  /** As the access point hears it; null where it is not told. */
  readonly levelDbm: number | null
  /** Last rate of a frame to it, Mb/s; null while none was sent. */
  readonly rateMbps: number | null
}

/** As many as one radio keeps (IEEE 802.11-2020, 9.4.1.8: association IDs from 1 to 2007). */
const MOST_STATIONS = 2007
const BLOCK = /^Station ([0-9a-f]{2}(?::[0-9a-f]{2}){5})\b/i

const fieldOf = (lines: readonly string[], key: string): string =>
  lines
    .map((line) => line.trim())
    .find((line) => line.startsWith(`${key}:`))
    ?.slice(key.length + 1)
    .trim() ?? ''

function levelOf(lines: readonly string[]): number | null {
  // The mean is steadier; of several antennas the sum stands first.
  const text = fieldOf(lines, 'signal avg') || fieldOf(lines, 'signal')
  const level = Number(/^(-\d{1,3})\b/.exec(text)?.[1] ?? NaN)
  return level >= -120 && level < 0 ? level : null
}
function rateOf(lines: readonly string[]): number | null {
  const rate = Number(/^(\d{1,5}(?:\.\d+)?) MBit\/s/i.exec(fieldOf(lines, 'tx bitrate'))?.[1] ?? NaN)
  return rate > 0 ? rate : null
}

/** In the order of the list. Problems: not-stations, too-many-rows. */
export function readIwStations(text: string): Result<HeardStation[]> {
  const blocks: { readonly mac: string; readonly lines: string[] }[] = []
  for (const line of text.split(/\r?\n/)) {
    const [, mac] = BLOCK.exec(line) ?? []
    if (mac !== undefined) blocks.push({ mac: mac.toLowerCase(), lines: [] })
    else blocks.at(-1)?.lines.push(line)
  }
  if (blocks.length === 0) return refuse(problem('not-stations', ''))
  if (blocks.length > MOST_STATIONS) return refuse(problem('too-many-rows', '', { most: MOST_STATIONS }))
  return ok(blocks.map(({ mac, lines }) => ({ mac, levelDbm: levelOf(lines), rateMbps: rateOf(lines) })))
}
