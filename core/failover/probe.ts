// Question: how soon does a probe find a dead line, how soon its return, and how often does it cry wolf?
// Method: closed forms for a fault at a random moment between two rounds, and for the first run of missed
// rounds among independent ones.
// Source: bounds (n - 1) t + w to n t + w by counting rounds; mean wait for a run (p^-n - 1) / (1 - p):
// W.
// Feller, An Introduction to Probability Theory and Its Applications, vol. 1, section XIII.7 (from memory),
// and simulated beside it in `simulate.ts`.
import type { Probe, Uplink } from '#core/schema'

/** Seconds at least, on average over the moment of the fault, and at most. */
export interface Times {
  readonly leastS: number
  readonly typicalS: number
  readonly worstS: number
}

const plus = (times: Times, seconds: number): Times => ({
  leastS: times.leastS + seconds,
  typicalS: times.typicalS + seconds,
  worstS: times.worstS + seconds,
})

/** From a fault to its detection. Worked: every 5 s, time-out 1 s, 3 misses -> 11, 13.5, 16 s. */
export function detection({ everyS, timeoutS, misses }: Probe): Times {
  return {
    leastS: (misses - 1) * everyS + timeoutS,
    typicalS: (misses - 0.5) * everyS + timeoutS,
    worstS: misses * everyS + timeoutS,
  }
}

/**
 * From a fault to traffic on the other line: detection, and the time that line needs to come up if it is
 * cold.
 */
export function outage(probe: Probe, backup: Pick<Uplink, 'standby' | 'bringUpS'>): Times {
  return plus(detection(probe), backup.standby === 'cold' ? backup.bringUpS : 0)
}

/** From the line's recovery to traffic on it again: so many good rounds, then the hold-down. */
export function comeback({ everyS, returns }: Probe, holdDownS: number): Times {
  return plus(
    { leastS: (returns - 1) * everyS, typicalS: (returns - 0.5) * everyS, worstS: returns * everyS },
    holdDownS,
  )
}

/**
 * Chance that a round counts as missed while the line is well: at least `quorum` of the targets' answers get
 * lost, each by itself.
 */
export function roundLoss({ targets, quorum }: Pick<Probe, 'targets' | 'quorum'>, lossPct: number): number {
  const count = Math.max(1, targets.length)
  const lossShare = lossPct / 100
  let sum = 0
  let choose = 1
  for (let k = 0; k <= count; k++) {
    if (k > 0) choose = (choose * (count - k + 1)) / k
    if (k >= Math.min(quorum, count)) sum += choose * lossShare ** k * (1 - lossShare) ** (count - k)
  }
  return sum
}

/**
 * Mean number of rounds to the first run of n missed ones.
 * Worked: p 1/2, n 2 -> 6.
 * Infinite where nothing is ever lost.
 */
export function roundsToRun(lossShare: number, targets: number): number {
  if (lossShare <= 0) return Number.POSITIVE_INFINITY
  return lossShare >= 1 ? targets : (lossShare ** -targets - 1) / (1 - lossShare)
}

const YEAR_S = 365.25 * 86_400

/** How often a year a line that is well is taken for dead. */
export function falseAlarmsPerYear(probe: Probe, lossPct: number): number {
  return YEAR_S / (roundsToRun(roundLoss(probe, lossPct), probe.misses) * probe.everyS)
}

/** What is asked of a probe: the longest outage, s, and the most false alarms a year. */
export interface Wish {
  readonly outageS: number
  readonly alarms: number
}
export interface Fit {
  readonly everyS: number
  readonly timeoutS: number
  readonly misses: number
  readonly outageS: number
  readonly alarms: number
}

const PERIODS = [0.5, 1, 2, 3, 5, 10, 15, 20, 30, 60]
const TIMEOUTS = [0.5, 1, 2, 3]

/**
 * The gentlest settings that grant a wish: of those with the longest period, the one with the fewest false
 * alarms.
 * Where none does, `best` is the quietest that keeps the outage, which proves it: all usual periods,
 * time-outs and counts are tried.
 */
export function fitProbe(
  probe: Probe,
  backup: Pick<Uplink, 'standby' | 'bringUpS'>,
  lossPct: number,
  wish: Wish,
): { readonly fits: Fit | null; readonly best: Fit | null } {
  const all = PERIODS.flatMap((everyS) =>
    TIMEOUTS.filter((w) => w <= everyS).flatMap((timeoutS) => {
      const list: Fit[] = []
      for (let misses = 1; misses <= 200; misses++) {
        const set = { ...probe, everyS, timeoutS, misses }
        const outageS = outage(set, backup).worstS
        if (outageS > wish.outageS) break
        list.push({ everyS, timeoutS, misses, outageS, alarms: falseAlarmsPerYear(set, lossPct) })
      }
      return list
    }),
  )
  const quiet = (a: Fit, b: Fit) => a.alarms - b.alarms || a.outageS - b.outageS
  const fits =
    all.filter((f) => f.alarms <= wish.alarms).sort((a, b) => b.everyS - a.everyS || quiet(a, b))[0] ?? null
  return { fits, best: all.sort(quiet)[0] ?? null }
}

/**
 * Share of failures that strike two lines at once when they depend on one thing: a stated assumption, as common
 * practice takes it.
 */
export const SHARED_SHARE = 0.1

/**
 * Share of the year, %, for which at least one of two lines works.
 * Lines that share a risk fail together in `SHARED_SHARE` of the
 * cases (the beta-factor model, as in IEC 61508-6 annex D).
 */
export function jointAvailability(aPct: number, bPct: number, shared: boolean): number {
  const [upA, upB] = [1 - aPct / 100, 1 - bPct / 100]
  const beta = shared ? SHARED_SHARE : 0
  return 100 * (1 - (beta * Math.min(upA, upB) + (1 - beta) ** 2 * upA * upB))
}

/** Minutes of a year in which what works for so many % of it does not. Worked: 99.99 -> 52.6. */
export const minutesWithout = (availablePct: number): number => ((1 - availablePct / 100) * YEAR_S) / 60

/**
 * What so many GB in one month cost over a cellular line, in the site's currency; null where a price that
 * counts is not known.
 */
export function monthCost({ facts }: Pick<Uplink, 'facts'>, gb: number): number | null {
  const { cellular, capGb } = facts
  if (!cellular || cellular.pricePerMonth === null) return null
  const beyond = capGb === null || capGb === 0 ? 0 : Math.max(0, gb - capGb)
  if (beyond === 0) return cellular.pricePerMonth
  if (cellular.pricePerGb === null) return null
  return cellular.pricePerMonth + beyond * cellular.pricePerGb
}

/** Words for what both lines depend on. */
export const sharedRisksOf = (first: Uplink, second: Uplink): string[] =>
  first.sharedRisks.filter((risk) =>
    second.sharedRisks.some((other) => other.trim().toLowerCase() === risk.trim().toLowerCase()),
  )

/**
 * Hours until a line's data for the month is gone when it carries a usual day's traffic; null where nobody
 * has said.
 * Worked: 200 GB at 48 GB a day -> 100 h.
 */
export function hoursToCap(uplink: Uplink, usualGbPerDay: number | null): number | null {
  const cap = uplink.facts.capGb
  return cap === null || cap === 0 || !usualGbPerDay ? null : (cap / usualGbPerDay) * 24
}
