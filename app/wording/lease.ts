/** A lease as people say it. Worked: 28800 -> 8 h; 604800 -> 7 d; 1800 -> 30 min. */
export function leaseText(leaseS: number): string {
  if (leaseS % 86_400 === 0 && leaseS > 86_400) return `${leaseS / 86_400} d`
  return leaseS % 3600 === 0 ? `${leaseS / 3600} h` : `${Math.round(leaseS / 60)} min`
}
