// Question: how often does a client find the pool empty?
// Method: clients arrive at random, each holds its address for the longer of its stay and the lease; what
// finds no address goes without.
// That is a loss system:
// Erlang's first formula, by its stable recursion.
// Source:
// A.
// K.
// Erlang 1917;
// ITU-T E.501 section on Erlang B;
// Little's law for the offered load.

/**
 * Offered load in addresses. Formula: arrivals per hour x hours held (Little).
 * Worked: 20 an hour, each holding 8 h -> 160 addresses on average.
 * @param arrivalsPerH 0 or more @param stayH 0 or more @param leaseH 0 or more
 */
export function offeredLoad(arrivalsPerH: number, stayH: number, leaseH: number): number {
  return arrivalsPerH * Math.max(stayH, leaseH)
}

/**
 * Share of clients that find all of n addresses held. Formula: B(0) = 1, B(n) = A B(n-1) / (n + A B(n-1)).
 * Worked: A = 10, n = 10 -> 0.2146. @param load A, 0 or more @param size n, a whole number 0 to 16,777,216
 */
export function erlangB(load: number, size: number): number {
  if (load === 0) return size === 0 ? 1 : 0
  let blocking = 1
  for (let n = 1; n <= size; n++) blocking = (load * blocking) / (n + load * blocking)
  return blocking
}

/** Least pool whose blocking is at most a share. @param most 0 < most < 1. Worked: A = 10, 1 % -> 18. */
export function poolFor(load: number, most: number): number {
  let blocking = 1
  let servers = 0
  while (blocking > most) {
    servers++
    blocking = (load * blocking) / (servers + load * blocking)
    if (servers > 1e7) return servers
  }
  return servers
}

/**
 * Renewal and rebinding times of a lease in seconds: half of it, and seven eighths.
 * Source:
 * RFC 2131 section 4.4.5.
 */
export function leaseTimers(leaseS: number): { readonly t1S: number; readonly t2S: number } {
  return { t1S: Math.floor(leaseS * 0.5), t2S: Math.floor(leaseS * 0.875) }
}

/** Leases that people choose between, longest first, in seconds. */
export const LEASES_S: readonly number[] = [604_800, 86_400, 43_200, 28_800, 14_400, 7_200, 3_600, 1_800]

/**
 * The longest usual lease at which a pool blocks at most a share of clients; null where none of them does.
 */
export function leaseFor(arrivalsPerH: number, stayH: number, size: number, most: number): number | null {
  return (
    LEASES_S.find((leaseS) => erlangB(offeredLoad(arrivalsPerH, stayH, leaseS / 3600), size) <= most) ?? null
  )
}
