import { clockOf, DAY, DAY_NAMES } from '#core/queries'

/** `Monday 08:00, Office hours`; `no schedule` where none holds then. */
export function instantName(minute: number, schedules: readonly string[]): string {
  const day = DAY_NAMES[Math.floor(minute / DAY)] ?? ''
  return `${day} ${clockOf(minute)}, ${schedules.join(' and ') || 'no schedule'}`
}
