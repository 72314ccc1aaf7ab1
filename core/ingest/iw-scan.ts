// Question: which networks are heard, as `iw dev <interface> scan` lists them?
// Method: one block for each BSS; what is not read there is not guessed. Octets of a name that are not shown are
// escaped as \xNN.
// Source: iw 6.7, scan.c (print_bss_handler, print_ssid_escaped, print_ht_op, print_vht_oper), from memory.
import { printableLine } from '#core/format'
import type { Band, ChannelWidth } from '#core/schema'
import { ok, problem, refuse, type Problem, type Result } from '#core/util'
import { channelAt, channelSpan } from '#core/wifi'

export interface HeardNetwork {
  /** Empty where it is hidden. */
  readonly name: string
  readonly band: Band
  readonly channel: number
  readonly widthMhz: ChannelWidth
  readonly levelDbm: number
}

/** As many as a plan can hold. */
export const MOST_HEARD = 1000
const MOST_NAME = 32
const BLOCK = /^BSS ([0-9a-f:]{17})/i

/** No longer than a plan can hold, and no half of a letter at its end. */
const cut = (text: string): string =>
  printableLine(text)
    .trim()
    .slice(0, MOST_NAME)
    .replace(/[\ud800-\udbff]$/, '')

/** A name as it was sent: octets in UTF-8, and what cannot be shown left out. */
function nameOf(escaped: string): string {
  try {
    const octets = escaped.replaceAll(/\\x([0-9a-f]{2})|([\s\S])/giu, (_, hex?: string, letter?: string) =>
      hex === undefined ? encodeURIComponent(letter ?? '') : `%${hex}`,
    )
    return cut(decodeURIComponent(octets))
  } catch {
    // Octets that are no UTF-8, or half a letter.
    return cut(escaped)
  }
}

function widthOf(lines: readonly string[]): ChannelWidth {
  const text = lines.join('\n')
  if (/\* channel width: [23] \(/.test(text)) return 160
  if (/\* channel width: 1 \(/.test(text)) return 80
  return /\* secondary channel offset: (above|below)/.test(text) ? 40 : 20
}

const valueOf = (lines: readonly string[], key: string): string | null =>
  lines
    .map((line) => line.trim())
    .find((line) => line.startsWith(`${key}:`))
    ?.slice(key.length + 1)
    .trim() ?? null

function heardIn(lines: readonly string[], address: string): Result<HeardNetwork> {
  const place = `BSS ${address}`
  const [, mhz] = /^(\d{4,5})(?:\.\d+)?$/.exec(valueOf(lines, 'freq') ?? '') ?? []
  const [, level] = /^(-\d{1,3}(?:\.\d+)?) dBm$/.exec(valueOf(lines, 'signal') ?? '') ?? []
  const at = channelAt(Number(mhz))
  const levelDbm = Number(level)
  if (!at) return refuse(problem('no-frequency-heard', place))
  if (level === undefined || levelDbm < -120) return refuse(problem('no-level-heard', place))
  const wished = widthOf(lines)
  const widthMhz = channelSpan(at.band, at.channel, wished) ? wished : 20
  return ok({ name: nameOf(valueOf(lines, 'SSID') ?? ''), ...at, widthMhz, levelDbm })
}

/** Problems: not-a-scan, no-frequency-heard and no-level-heard with the BSS, too-many-rows. */
export function readIwScan(text: string): Result<HeardNetwork[]> {
  const blocks: { readonly address: string; readonly lines: string[] }[] = []
  for (const line of text.split(/\r?\n/)) {
    const [, address] = BLOCK.exec(line) ?? []
    if (address !== undefined) blocks.push({ address, lines: [] })
    else blocks.at(-1)?.lines.push(line)
  }
  if (blocks.length === 0) return refuse(problem('not-a-scan', ''))
  if (blocks.length > MOST_HEARD) return refuse(problem('too-many-rows', '', { most: MOST_HEARD }))
  const read = blocks.map(({ address, lines }) => heardIn(lines, address))
  const problems = read.flatMap((one): readonly Problem[] => (one.ok ? [] : one.problems))
  return problems.length > 0 ? refuse(...problems) : ok(read.flatMap((one) => (one.ok ? [one.value] : [])))
}
