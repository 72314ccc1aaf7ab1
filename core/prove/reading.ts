// Question: does what was read keep what the plan promises?
// Method: a time against the longest that the probes of the plan allow; a level against what is computed; an address
// against what its network hands out or reserves.
// Source: units of SI and minutes; RFC 2131 section 4.3.1: a server offers of its pool, or what it keeps for a client.
import { parseIpv4, parsePrefix4 } from '#core/address'
import { servedRanges } from '#core/dhcp'
import type { Plan } from '#core/schema'
import { orNull, problem, type Problem } from '#core/util'
import { parseReading } from '#core/wifi'
import type { AcceptanceTest } from './tests'

export type ReadingKind = 'seconds' | 'address' | 'level'

/** What is measured by a test; null where it is seen, not measured. */
export function readingKind({ kind }: Pick<AcceptanceTest, 'kind'>): ReadingKind | null {
  if (kind === 'failover') return 'seconds'
  if (kind === 'level') return 'level'
  return kind === 'lease' ? 'address' : null
}

const SECONDS_OF: Readonly<Record<string, number>> = { ms: 0.001, s: 1, min: 60 }

/** A whole number with its unit: no part of a longer one, of a time of day or of a number below zero. */
const TIME = /(?<![\d.,:-])(\d{1,9}(?:[.,]\d{1,9})?)\s*(ms|s|min)\b/
const ADDRESS = /(?<![\d.])\d{1,3}(?:\.\d{1,3}){3}(?!\.?\d)/

/** The first time in a text, s; null where it holds no number with a unit. */
function secondsIn(text: string): number | null {
  const [, number, unit = ''] = TIME.exec(text) ?? []
  return number === undefined ? null : Number(number.replace(',', '.')) * (SECONDS_OF[unit] ?? 1)
}

/** The first IPv4 address in a text. */
const addressIn = (text: string): string | null => ADDRESS.exec(text)?.[0] ?? null

function timeProblem({ withinS }: AcceptanceTest, text: string): Problem | null {
  const seconds = secondsIn(text)
  if (seconds === null) return problem('no-reading', 'value', { kind: 'seconds' })
  return withinS !== null && seconds > withinS
    ? problem('reading-too-late', 'value', { seconds, within: withinS })
    : null
}

function levelProblem({ level }: AcceptanceTest, text: string): Problem | null {
  const read = orNull(parseReading(text))
  if (read === null) return problem('no-reading', 'value', { kind: 'level' })
  return level && read < level.leastDbm
    ? problem('reading-too-weak', 'value', { dBm: read, least: level.leastDbm })
    : null
}

function leaseProblem(plan: Plan, test: AcceptanceTest, text: string): Problem | null {
  const address = addressIn(text)
  const ip = address === null ? null : orNull(parseIpv4(address))
  if (ip === null) return problem('no-reading', 'value', { kind: 'address' })
  const network = plan.networks.find(({ id }) => id === test.from)
  const subnet = network && orNull(parsePrefix4(network.subnet))
  if (!network || !subnet) return null
  const isKept = network.fixed.some((fixed) => fixed.how === 'reserved' && fixed.ip === address)
  const isOffered = servedRanges(network, subnet).some(({ from, to }) => from <= ip && ip <= to)
  return isKept || isOffered
    ? null
    : problem('reading-not-leased', 'value', { text: address ?? '', network: network.name })
}

/**
 * Why a reading does not show that a test passed; null where it does, or where nothing is measured.
 * Problems: no-reading, reading-too-late, reading-too-weak, reading-not-leased.
 */
export function readingProblem(plan: Plan, test: AcceptanceTest, value: string): Problem | null {
  const kind = readingKind(test)
  if (kind === null) return null
  if (kind === 'level') return levelProblem(test, value)
  return kind === 'seconds' ? timeProblem(test, value) : leaseProblem(plan, test, value)
}

/** True where a reading contradicts the test; a text without a reading contradicts nothing. */
export function isContradicted(plan: Plan, test: AcceptanceTest, value: string): boolean {
  const found = readingProblem(plan, test, value)
  return found !== null && found.code !== 'no-reading'
}
