// Question: do the closed forms hold when the rounds are really played?
// Method: round by round with a seeded generator: alarms of a line that is well, and one failure from fault
// to return.
// Source: discrete-event simulation; confidence by the normal approximation, 1.96 standard errors.
import { chance } from '#core/util'
import type { Probe, Uplink } from '#core/schema'

export interface AlarmRun {
  readonly rounds: number
  readonly alarms: number
  /**
   * Mean rounds from one alarm to the next, and half the width of its 95 % confidence interval; null with
   * fewer than two alarms.
   */
  readonly meanRounds: number | null
  readonly halfWidth: number | null
}

function missed(probe: Probe, lossPct: number, next: () => number): boolean {
  const targets = Math.max(1, probe.targets.length)
  let silent = 0
  for (let t = 0; t < targets; t++) if (next() * 100 < lossPct) silent++
  return silent >= Math.min(probe.quorum, targets)
}

/** Plays a line that is well until there are so many alarms, or for so many rounds. */
export function simulateAlarms(
  probe: Probe,
  lossPct: number,
  seed: number,
  mostAlarms = 2000,
  mostRounds = 3_000_000,
): AlarmRun {
  const next = chance(seed)
  const waits: number[] = []
  let [run, since, rounds] = [0, 0, 0]
  while (waits.length < mostAlarms && rounds < mostRounds) {
    rounds++
    since++
    run = missed(probe, lossPct, next) ? run + 1 : 0
    if (run < probe.misses) continue
    waits.push(since)
    run = since = 0
  }
  const count = waits.length
  if (count < 2) return { rounds, alarms: count, meanRounds: null, halfWidth: null }
  const mean = waits.reduce((sum, w) => sum + w, 0) / count
  const variance = waits.reduce((sum, w) => sum + (w - mean) ** 2, 0) / (count - 1)
  return { rounds, alarms: count, meanRounds: mean, halfWidth: 1.96 * Math.sqrt(variance / count) }
}

export interface Played {
  readonly atS: number
  readonly what: 'fault' | 'miss' | 'detected' | 'carried' | 'mended' | 'good' | 'back'
}

/**
 * Plays one failure: the line dies at 0 and is well again after `mendS`.
 * Rounds fall where the seed has them; while the line is
 * well its answers get lost as they do.
 * @returns what happens, in order: the fault, the rounds, detection, traffic on the other line, recovery and
 * return
 */
export function playFailure(
  probe: Probe,
  line: Pick<Uplink, 'lossPct' | 'holdDownS'>,
  backup: Pick<Uplink, 'standby' | 'bringUpS'>,
  mendS: number,
  seed: number,
): Played[] {
  const next = chance(seed)
  const out: Played[] = [{ atS: 0, what: 'fault' }]
  let at = next() * probe.everyS
  let run = 0
  for (; run < probe.misses; at += probe.everyS) {
    run++
    out.push({ atS: at + probe.timeoutS, what: 'miss' })
  }
  const detected = (out.at(-1) as Played).atS
  out.push(
    { atS: detected, what: 'detected' },
    { atS: detected + (backup.standby === 'cold' ? backup.bringUpS : 0), what: 'carried' },
  )
  const mended = Math.max(mendS, detected)
  out.push({ atS: mended, what: 'mended' })
  while (at < mended) at += probe.everyS
  for (run = 0; run < probe.returns; at += probe.everyS) {
    if (missed(probe, line.lossPct, next)) run = 0
    else {
      run++
      out.push({ atS: at, what: 'good' })
    }
  }
  return [...out, { atS: (out.at(-1) as Played).atS + line.holdDownS, what: 'back' }].sort(
    (a, b) => a.atS - b.atS,
  ) as Played[]
}
