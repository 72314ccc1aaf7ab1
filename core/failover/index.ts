// Question: what does a line's failure cost in time, and what does watching it cost in false alarms?
// Method: closed forms (probe), and the same played round by round (simulate).
export {
  comeback,
  detection,
  falseAlarmsPerYear,
  fitProbe,
  hoursToCap,
  jointAvailability,
  minutesWithout,
  monthCost,
  outage,
  roundLoss,
  roundsToRun,
  SHARED_SHARE,
  sharedRisksOf,
} from './probe'

export { availableOverAir } from './air'
export type { OverAir } from './air'
export { playFailure, simulateAlarms } from './simulate'
export type { AlarmRun, Played } from './simulate'
export { recovery } from './recovery'
