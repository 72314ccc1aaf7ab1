// Question: what does a radio link carry, when one end talks and the other acknowledges?
// Method: a burst of frames, as long as the standard lets one be, then its acknowledgement, and the mean wait before
// the next; both directions share that time. A longer way makes each answer later and each slot longer.
// Source: IEEE 802.11-2020: 10.23.2.2 (access), table 9-155 (best effort: 3 slots, window 15), 17.4.4 (16 us, slots
// of 9 us), 10.24.6 (blocks of 64), 9.4.2.8 and 10.21.6 (slots grow by 3 us), table 21-28 (5.484 ms); from memory.

const LIGHT_M_PER_US = 299.792458
const SIFS_US = 16
const SLOT_US = 9
const SLOT_STEP_US = 3
const WAITED_SLOTS = 3
export const WINDOW = 15
/** Of two streams; one more or less is 4 us. */
const PREAMBLE_US = 40
const LONGEST_US = 5484
const MOST_FRAMES = 64
/** 32 octets at 24 Mb/s, with preamble and signal. */
const ACKNOWLEDGEMENT_US = 32
/** Of IP in a frame, and of the frame with its headers, check sum and delimiter. */
const PACKET_OCTETS = 1500
const FRAME_OCTETS = 1548

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
export function burstOf(phyMbps: number, lengthM: number): Burst {
  const wayUs = lengthM / LIGHT_M_PER_US
  const slotUs = SLOT_US + SLOT_STEP_US * Math.ceil(wayUs / SLOT_STEP_US)
  const fitting = Math.floor(((LONGEST_US - PREAMBLE_US) * phyMbps) / (FRAME_OCTETS * 8))
  const frames = Math.max(1, Math.min(MOST_FRAMES, fitting))
  const sentUs = PREAMBLE_US + (frames * FRAME_OCTETS * 8) / phyMbps
  return {
    bits: frames * PACKET_OCTETS * 8,
    slotUs,
    quietUs: SIFS_US + WAITED_SLOTS * slotUs,
    busyUs: sentUs + SIFS_US + ACKNOWLEDGEMENT_US + 2 * wayUs,
  }
}

/**
 * Mb/s of IP that one direction carries while the other is silent; 0 at no rate.
 * 65 Mb/s on the air over 3.4 km: 59.1. 866.7: 690 near by, 609 over 3.4 km.
 */
export function throughputMbps(phyMbps: number, lengthM: number): number {
  if (phyMbps <= 0) return 0
  const { bits, slotUs, quietUs, busyUs } = burstOf(phyMbps, lengthM)
  return bits / (quietUs + (WINDOW / 2) * slotUs + busyUs)
}
