// Question: how much of the air do beacons take, and how do stations share it that are served alike?
// Source: IEEE 802.11-2020, 9.4.1.3 (time unit of 1,024 us; 100 between beacons as usual), 15.2.3 and 16.2.2.3 (long
// preamble 192 us), 17.4.3 (OFDM symbols of 4 us, preamble and signal 20 us, 22 bits around the data).

/** A usual beacon, octets (common practice, without a source). */
export const BEACON_OCTETS = 300
export const BEACON_INTERVAL_MS = 102.4

/** Rates of 802.11b, Mb/s; others are OFDM. */
const DSSS_MBPS = [1, 2, 5.5, 11]
const DSSS_PREAMBLE_US = 192
const OFDM_PREAMBLE_US = 20
const OFDM_SYMBOL_US = 4
const OFDM_AROUND_BITS = 22

/** Time of one frame, ms. 300 octets at 1 Mb/s: 2.592; at 6 Mb/s: 0.424. */
export function frameMs(octets: number, mbps: number): number {
  const bits = octets * 8
  if (DSSS_MBPS.includes(mbps)) return (DSSS_PREAMBLE_US + bits / mbps) / 1000
  const symbols = Math.ceil((bits + OFDM_AROUND_BITS) / (mbps * OFDM_SYMBOL_US))
  return (OFDM_PREAMBLE_US + symbols * OFDM_SYMBOL_US) / 1000
}

/** Share of the air that so many beacons take, 0 to 1. Twelve at 1 Mb/s: 0.304. */
export const beaconShare = (beacons: number, mbps: number): number =>
  (beacons * frameMs(BEACON_OCTETS, mbps)) / BEACON_INTERVAL_MS

export interface AirShare {
  /** Of the air, 0 to 1, while all fetch as fast as they can, and each gets as much as any other. */
  readonly share: number
  /** How much more all others would get without it, as a factor: 1 for nothing. */
  readonly othersGain: number
}
/**
 * An access point that serves frame by frame gives each station as many octets as any other, so that who is slow takes
 * the longest: shares as the times of one octet.
 * Worked: 100, 100 and 10 Mb/s take a twelfth, a twelfth and ten twelfths; without the slow one both others get six
 * times as much.
 * Source: M. Heusse et al., Performance anomaly of 802.11b, INFOCOM 2003.
 * @param ratesMbps of each, above 0
 */
export function airShares(ratesMbps: readonly number[]): AirShare[] {
  const times = ratesMbps.map((rate) => 1 / rate)
  const whole = times.reduce((sum, time) => sum + time, 0)
  return times.map((time) => ({ share: time / whole, othersGain: whole > time ? whole / (whole - time) : 1 }))
}
