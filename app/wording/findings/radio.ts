import { count } from '../count'
import { ENCRYPTION_WORDS } from '../encryption'
import type { FindingValues } from '#core/findings'
import type { FindingWords, MendWords } from './words'

// What the findings of radio links say, and the buttons of their mends.

const dB = (value: number): string => `${value.toFixed(1).replace('-', '−')} dB`

const daysWords = (days: number): string => (days === 1 ? '1 day' : `${days} days`)

const PAIRED = {
  frequency: 'MHz:',
  width: 'Width in MHz:',
  name: 'Name:',
  security: 'Encryption:',
  mode: 'Mode:',
} as const

/** Names of encryptions are written as the trade does; all else is what was typed. */
const spelled = (text: string): string =>
  Object.hasOwn(ENCRYPTION_WORDS, text) ? ENCRYPTION_WORDS[text as keyof typeof ENCRYPTION_WORDS] : text

type Fields = Pick<FindingValues['R09'], 'address' | 'mask' | 'gateway'>
const FIELD_FAULTS: Readonly<Record<FindingValues['R09']['kind'], (fields: Fields) => string>> = {
  swapped: ({ mask, gateway }) =>
    `The mask field says ${mask || 'nothing'}, the gateway field ${gateway || 'nothing'}: ` +
    'one stands where another belongs.',
  'not-an-address': ({ address, gateway }) =>
    `${address || 'Nothing'} and ${gateway || 'nothing'} are not both addresses.`,
  'not-a-mask': ({ mask }) => `${mask} is no mask: 255.255.255.0 is one.`,
  outside: ({ address, mask, gateway }) => `${gateway} is not in the subnet of ${address}, mask ${mask}.`,
  itself: ({ gateway }) => `${gateway} is its own address, and given as its gateway.`,
}

const metres = (value: number): string => `${value.toLocaleString('en').replace('-', '−')} m`

function heightDoubt({ kind, heightM, byM, ifFeetM }: FindingValues['R14']): string {
  if (kind === 'under-ground') return `At ${metres(heightM)} it is ${byM} m under the ground there.`
  if (kind === 'steep')
    return `At ${metres(heightM)} it is ${byM} m over the other end: steeper than such links are.`
  return `At ${metres(heightM)} it is ${byM} m over the ground. If that was typed in feet, it is ${metres(ifFeetM)}.`
}

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
  R04: ({ link, mbps, neededMbps }) => ({
    title: `${link} carries less than is needed`,
    what: `About ${mbps} Mb/s of both directions together, and ${neededMbps} Mb/s are needed.`,
    why: 'All behind it share that: a wider channel, more streams, larger antennas or a freer path carry more.',
  }),
  R05: ({ link, ...found }) => ({
    title: `${link}: ends do not find each other`,
    what:
      found.kind === 'key'
        ? `${found.at} has another key than the one that was given out.`
        : `${PAIRED[found.kind]} ${spelled(found.first)} at the first end, ${spelled(found.second)} at the second.`,
    why: 'Both have to be set to the same, or the far end is never heard. Set the one that is not as planned.',
  }),
  R06: ({ link, setM, lengthM }) => ({
    title: `${link}: range set too short`,
    what:
      `The radios wait for answers over ${setM.toLocaleString('en')} m, ` +
      `and the link is ${lengthM.toLocaleString('en')} m long.`,
    why: 'Each frame is taken for lost before its answer arrives, and is sent again and again.',
  }),
  R07: ({ link, at, missingDb }) => ({
    title: `${link}: ${at} reads too little`,
    what: `${missingDb} dB less than is computed.`,
    why:
      'It may be aimed by a side lobe: sweep both ways for a higher reading. ' +
      'Or something stands in the way, or a cable or connector loses more than is written here.',
  }),
  R08: ({ link, role }) => ({
    title: `${link}: both ends are ${role === 'station' ? 'stations' : 'access points'}`,
    what: role === 'station' ? 'Nobody opens the network that both would join.' : 'Nobody joins the other.',
    why: 'One end of a radio link is the access point, the other its station.',
  }),
  R09: ({ link, at, kind, address, mask, gateway }) => ({
    title: `${link}: address fields of ${at}`,
    what: FIELD_FAULTS[kind]({ address, mask, gateway }),
    why: 'Its page takes what is typed, and then answers nobody from another subnet, or nobody at all.',
  }),
  R10: ({ link, at }) => ({
    title: `${link}: height missing`,
    what: `How high the antenna of ${at} is, is not said.`,
    why: 'Without it neither the tilt nor what stands in the way can be computed.',
  }),
  R11: ({ link, atM, years }) => ({
    title: `${link}: what grows will close the path`,
    what:
      `At ${atM.toLocaleString('en')} m, ` +
      (years < 1 ? 'within a year.' : `in about ${count(years, 'year')}.`),
    why: 'Then less than 60 % of the first zone is free. Hang the antennas higher, or see that it is cut.',
  }),
  R12: ({ link, at }) => ({
    title: `${link}: nothing said of lightning`,
    what: `What bonds ${at} to earth and keeps surges off is not said.`,
    why: 'Masts and outdoor cables draw lightning into the house. Licensed people decide, by local codes.',
  }),
  R13: ({ link, at, kind, days }) => ({
    title: `${link}: ${at} runs dry`,
    what:
      kind === 'short'
        ? `Each day of the darkest month brings less than it takes, and the battery lasts ${daysWords(days)}.`
        : `The battery lasts ${daysWords(days)} without sun, and 3 are wanted.`,
    why: 'Then the link and all behind it are gone until the sun is back. More panel, more battery, or less draw.',
  }),
  R14: (values) => ({
    title: `${values.link}: height of ${values.at}`,
    what: heightDoubt(values),
    why: 'All heights of a link are in metres, and from the same level: the sea, or the foot of the lower mast.',
  }),
  R15: ({ link, at, mbps, byOwnPort, airMbps }) => ({
    title: `${link}: slow wire at ${at}`,
    what:
      `The air carries about ${airMbps.toLocaleString('en')} Mb/s, ` +
      `and its wire ${mbps.toLocaleString('en')} Mb/s.`,
    why: byOwnPort
      ? 'The port of the radio itself offers no more: a faster one behind it, or a wider channel, gains nothing.'
      : 'The radio would take more: see to the cable, to an injector on its way, or to the port behind it.',
  }),
} satisfies Partial<FindingWords>

export const RADIO_MENDS = {
  'lower-bridge-power': ({ ends }) => `Lower the power at ${count(ends, 'end')}`,
  'lengthen-range': ({ lengthM }) => `Set the range to ${lengthM.toLocaleString('en')} m`,
  'set-bridge-role': ({ device, role }) =>
    `${device} as ${role === 'station' ? 'the station' : 'the access point'}`,
} satisfies Partial<MendWords>
