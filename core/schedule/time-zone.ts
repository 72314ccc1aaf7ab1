// Question: how far is a place's clock from UTC on a day?
// Method: asked of the runtime's own time zone data.
// Source: IANA time zone database, as ECMA-402 carries it.

/**
 * Minutes that a zone's clock is ahead of UTC; null for a zone that is not known.
 * Worked: `Europe/Berlin` in July is 120 ahead.
 */
export function offsetMinutes(timeZone: string, utcMs: number): number | null {
  try {
    const parts = new Intl.DateTimeFormat('en-GB', {
      timeZone,
      hourCycle: 'h23',
      year: 'numeric',
      month: 'numeric',
      day: 'numeric',
      hour: 'numeric',
      minute: 'numeric',
    }).formatToParts(new Date(utcMs))
    const part = (type: string) => Number(parts.find((each) => each.type === type)?.value)
    const local = Date.UTC(part('year'), part('month') - 1, part('day'), part('hour'), part('minute'))
    return Math.round((local - utcMs) / 60_000)
  } catch {
    return null
  }
}
