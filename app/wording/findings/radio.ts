import { count } from '../count'
import type { FindingWords, MendWords } from './words'

// What the findings of radio links say, and the buttons of their mends.

const dB = (value: number): string => `${value.toFixed(1).replace('-', '−')} dB`

export const RADIO_WORDS = {
  R01: ({ link, at, spareDb, marginDb }) => ({
    title: `${link}: too little to spare`,
    what: `At ${at} ${dB(spareDb)} are left over the slowest rate, and ${marginDb} dB are asked for.`,
    why: 'What fades by more than that is gone: larger antennas, more power where it is permitted, or a free path.',
  }),
  R02: ({ link, kind, country, eirpDbm, mostDbm }) => ({
    title: kind === 'too-strong' ? `${link} sends too much` : `${link}: frequency not permitted`,
    what:
      kind === 'too-strong'
        ? `${eirpDbm.toFixed(1)} dBm EIRP, and ${mostDbm.toFixed(1)} at most in ${country}.`
        : `No rule of ${country} covers the whole channel.`,
    why: 'It disturbs others, and breaks a rule. Check the local rule.',
  }),
  R03: ({ link, percent, atM }) => ({
    title: `${link}: something stands in the first Fresnel zone`,
    what: `${String(percent).replace('-', '−')} % of it is free at ${atM.toLocaleString('en')} m, 60 % is wanted.`,
    why: 'The signal is weaker than in free space, and swings with the weather. Bridges says how much higher.',
  }),
} satisfies Partial<FindingWords>

export const RADIO_MENDS = {
  'lower-bridge-power': ({ ends }) => `Lower the power at ${count(ends, 'end')}`,
} satisfies Partial<MendWords>
