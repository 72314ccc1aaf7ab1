// Question: what does a radio link carry, when one end talks and the other acknowledges?
// Method: a burst of frames, as long as the standard lets one be, then its acknowledgement, and the mean wait before
// the next; both directions share that time. A longer way makes each answer later and each slot longer.
// Source: IEEE 802.11-2020: 10.23.2.2 (access), table 9-155 (best effort: 3 slots, window 15), 17.4.4 (16 us, slots
// of 9 us), 10.24.6 (blocks of 64), 9.4.2.8 and 10.21.6 (slots grow by 3 us), table 21-28 (5.484 ms); near 60 GHz
// table 20-32 (3 us, slots of 5 us, 2 ms) and 20.4.3 (preamble); from memory.
import type { LinkGeneration } from '#core/schema'

const LIGHT_M_PER_US = 299.792458
const SLOT_STEP_US = 3
const WAITED_SLOTS = 3
export const WINDOW = 15
const MOST_FRAMES = 64
/** Of IP in a frame, and of the frame with its headers, check sum and delimiter. */
const PACKET_OCTETS = 1500
const FRAME_OCTETS = 1548

interface Timing {
  readonly sifsUs: number
  readonly slotUs: number
  readonly preambleUs: number
  readonly longestUs: number
  readonly acknowledgementUs: number
}
/** The preamble is of two streams, one more or less is 4 us; acknowledged by 32 octets at 24 Mb/s. */
const BELOW_10_GHZ: Timing = {
  sifsUs: 16,
  slotUs: 9,
  preambleUs: 40,
  longestUs: 5484,
  acknowledgementUs: 32,
}
/** Preamble of 3,328 chips and header of 1,024 at 1,760 million a second; acknowledged by 32 octets at 385 Mb/s. */
const NEAR_60_GHZ: Timing = {
  sifsUs: 3,
  slotUs: 5,
  preambleUs: 2.47,
  longestUs: 2000,
  acknowledgementUs: 3.14,
}

export interface Burst {
  /** Of IP. */
  readonly bits: number
  readonly slotUs: number
  /** Free air before the wait by chance begins. */
  readonly quietUs: number
  /** From its first symbol until its acknowledgement is heard. */
  readonly busyUs: number
}

/** The longest burst at a rate on the air, Mb/s, over a distance. */
export function burstOf(onAirMbps: number, lengthM: number, generation: LinkGeneration): Burst {
  const timing = generation === 'ad' ? NEAR_60_GHZ : BELOW_10_GHZ
  const wayUs = lengthM / LIGHT_M_PER_US
  const slotUs = timing.slotUs + SLOT_STEP_US * Math.ceil(wayUs / SLOT_STEP_US)
  const fitting = Math.floor(((timing.longestUs - timing.preambleUs) * onAirMbps) / (FRAME_OCTETS * 8))
  const frames = Math.max(1, Math.min(MOST_FRAMES, fitting))
  const sentUs = timing.preambleUs + (frames * FRAME_OCTETS * 8) / onAirMbps
  return {
    bits: frames * PACKET_OCTETS * 8,
    slotUs,
    quietUs: timing.sifsUs + WAITED_SLOTS * slotUs,
    busyUs: sentUs + timing.sifsUs + timing.acknowledgementUs + 2 * wayUs,
  }
}

/**
 * Mb/s of IP that one direction carries while the other is silent; 0 at no rate.
 * 65 Mb/s on the air over 3.4 km: 59.1. 866.7: 690 near by, 609 over 3.4 km.
 */
export function throughputMbps(onAirMbps: number, lengthM: number, generation: LinkGeneration): number {
  if (onAirMbps <= 0) return 0
  const { bits, slotUs, quietUs, busyUs } = burstOf(onAirMbps, lengthM, generation)
  return bits / (quietUs + (WINDOW / 2) * slotUs + busyUs)
}
