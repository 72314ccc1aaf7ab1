// Question: how far is a place's clock from UTC on a day?
// Method: asked of the runtime's own time zone data.
// Source: IANA time zone database, as ECMA-402 carries it.

/** Minutes that a clock is ahead of UTC at a moment, ms. */
export type OffsetAt = (utcMs: number) => number

/**
 * A zone's clock, to be asked often; null for a zone that is not known.
 * Worked: `Europe/Berlin` in July is 120 ahead.
 */
export function offsetOf(timeZone: string): OffsetAt | null {
  let format: Intl.DateTimeFormat
  try {
    format = new Intl.DateTimeFormat('en-GB', {
      timeZone,
      hourCycle: 'h23',
      year: 'numeric',
      month: 'numeric',
      day: 'numeric',
      hour: 'numeric',
      minute: 'numeric',
    })
  } catch {
    return null
  }
  return (utcMs) => {
    const parts = new Map(
      format.formatToParts(new Date(utcMs)).map(({ type, value }) => [type, Number(value)]),
    )
    const part = (type: Intl.DateTimeFormatPartTypes) => parts.get(type) ?? 0
    const local = Date.UTC(part('year'), part('month') - 1, part('day'), part('hour'), part('minute'))
    return Math.round((local - utcMs) / 60_000)
  }
}
