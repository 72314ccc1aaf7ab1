import type { FindingValues } from '#core/findings'
import { count } from '../count'
import type { FindingWords, MendWords } from './words'

// What the findings of Wi-Fi say, and the buttons of their mends.

const dBm = (level: number): string => `${level.toFixed(0).replace('-', '−')} dBm`
const TROUBLES: Readonly<Record<FindingValues['F11']['kind'], string>> = {
  'no-channel': 'There is no such channel in this band.',
  'no-width': 'This channel has no room for the width.',
  forbidden: 'This channel is not permitted there.',
  'listen-only': 'An access point must not begin on this channel there.',
  'too-strong': 'It sends more than is permitted there.',
  'indoor-only': 'The channel is for indoors alone, and the access point hangs outdoors.',
}

const predicted = (level: number | null): string =>
  level === null ? 'Nothing is heard there.' : `A tenth of it has less than ${dBm(level)}.`

function betterWords(room: string, better: FindingValues['F17']['better']): string {
  if (!better) return 'An access point nearer, or one more, would serve them.'
  if (better.kind === 'power')
    return `${better.byDb} dB more power at ${better.device} would do, if the devices there answer as loud.`
  const more = better.rooms > 1 ? `, and ${better.rooms} such rooms together` : ''
  return better.room === room
    ? `One more access point in it would serve it${more}.`
    : `One more access point in ${better.room} would serve it${more}.`
}

export const WIFI_WORDS = {
  F01: ({ ssid }) => ({
    title: `SSID ${ssid} is open`,
    what: 'Everything is sent in clear.',
    why: 'Whoever is near reads along. OWE encrypts without a passphrase, WPA2 or WPA3 with one.',
  }),
  F06: ({ band, first, second, channel, dBm: level }) => ({
    title: `${first} and ${second} share the air on ${band} GHz`,
    what: `They hear each other at ${dBm(level)}, the first on channel ${channel}.`,
    why: 'Of both only one can send at a time, and other channels would disturb less.',
  }),
  F07: ({ device, band, percent }) => ({
    title: `${device}: beacons take ${percent} % of the air on ${band} GHz`,
    what: 'Every SSID of every access point on the channel sends ten a second.',
    why: 'What beacons take is nobody’s: fewer SSIDs, or a higher slowest rate.',
  }),
  F02: ({ ssid, kind }) => ({
    title: `SSID ${ssid}: its passphrase is ${kind === 'short' ? 'short' : 'soon guessed'}`,
    what:
      kind === 'short'
        ? 'The one that is kept has fewer than 14 letters.'
        : 'The one that is kept is guessed within a year by whoever has recorded one station joining.',
    why: 'Whoever has it is inside, from the street as well. Generate one on Wi-Fi, SSIDs, and tell the stations.',
  }),
  F16: ({ ssid, other }) => ({
    title: `SSID ${ssid} has the passphrase of ${other}`,
    what: 'Whoever was told one of both knows the other.',
    why: 'What is kept apart by two names is one then. Generate another on Wi-Fi, SSIDs.',
  }),
  F03: ({ ssid, word }) => ({
    title: `SSID ${ssid} says whose it is`,
    what: `It has “${word}” of the site’s name.`,
    why: 'Whoever hears it, also far away from a station that looks for it, knows where it belongs.',
  }),
  F09: ({ ssid, kind }) =>
    kind === 'hidden'
      ? {
          title: `SSID ${ssid} is hidden`,
          what: 'Its stations call its name wherever they are.',
          why: 'That keeps nobody out, and tells strangers where the stations belong.',
        }
      : {
          title: `SSID ${ssid}: list of MAC addresses`,
          what: 'Only stations on the list are let in.',
          why: 'Addresses are sent in clear and can be copied; modern telephones change theirs. It keeps nobody out.',
        },
  F11: ({ device, band, channel, kind, country, eirpDbm, mostDbm }) => ({
    title: `${device}: channel ${channel} on ${band} GHz`,
    what: TROUBLES[kind],
    why:
      kind === 'too-strong'
        ? `${eirpDbm.toFixed(1)} dBm EIRP, and ${mostDbm.toFixed(1)} at most in ${country}. Check the local rule.`
        : 'The device will refuse it, or break a rule. Check the local rule.',
  }),
  F12: ({ ssid, accessPoints }) => ({
    title: `SSID ${ssid} speaks at the slowest rates`,
    what: `${count(accessPoints, 'access point')} send it, and no slowest rate is set.`,
    why: 'Beacons and far stations take the air from all others.',
  }),
  F08: ({ extender, from, dBm: level, room, roomDbm }) => ({
    title: `${extender} hears too little`,
    what: `${dBm(level)} of ${from}, and −67.5 dBm (65 %) are wanted.`,
    why:
      'It passes on no more than it hears itself. ' +
      (room === null || roomDbm === null
        ? 'No drawn room of its floor hears enough: a cable, or an access point more.'
        : `In ${room} it would hear ${dBm(roomDbm)}.`),
  }),
  F10: ({ device, clients, most }) => ({
    title: `${device}: more stations than it serves well`,
    what: `${clients} are expected there, and about ${most} are enough for its radios.`,
    why: 'All of a radio share its time: one more access point, or fewer networks on this one.',
  }),
  F13: ({ ssid, other, network }) => ({
    title: `SSID ${ssid}: steered, beside ${other}`,
    what: `Both lead to ${network} at the same access points.`,
    why: 'Stations that know both names go from one to the other, and are not moved to the better band.',
  }),
  F14: ({ extender, ssid, network, repeats }) => ({
    title: `${extender} cannot send ${ssid}`,
    what: `It has joined an SSID of ${repeats}, and ${ssid} leads to ${network}.`,
    why:
      'A repeater carries the network that it has joined, and no other. A cable does, and so do four-address frames ' +
      'between two access points that sort frames by VLAN.',
  }),
  F18: ({ ssid }) => ({
    title: `SSID ${ssid}: WPS is on`,
    what: 'Stations join at the press of a button, or by eight digits.',
    why: 'The digits are guessed within hours, and whoever is near the button is in.',
  }),
  F20: ({ extender, from, mbps }) => ({
    title: `${extender} has one radio for both ways`,
    what: `What it hears of ${from} it sends once more on the same channel.`,
    why:
      (mbps > 0
        ? `About ${mbps} Mb/s are left on the air behind it. `
        : 'Half of the rate is left behind it. ') +
      'Two radios, a cable or a power-line pair beside it keep the other half.',
  }),
  F21: ({ device, heightM, ifFeetM }) => ({
    title: `${device} hangs high`,
    what: `${heightM} m above its floor, in a room. If that was typed in feet, it is ${ifFeetM} m.`,
    why: 'What is heard on the floor below is computed from it, and who climbs there brings a ladder for it.',
  }),
  F19: ({ ssid, kind }) => ({
    title: kind === 'terms' ? `SSID ${ssid}: portal without terms` : `SSID ${ssid}: portal without an end`,
    what: kind === 'terms' ? 'Nobody is asked to agree to anything.' : 'Who has been let in stays for ever.',
    why:
      kind === 'terms'
        ? 'A page that asks for nothing only stands in the way. What it has to ask for, local law says.'
        : 'Devices that are given away or lost stay in. A day or a stay is usual.',
  }),
  F17: ({ room, dBm: level, isRead, better }) => ({
    title: `${room}: next to no signal`,
    what: isRead ? `${dBm(level ?? 0)} was read there.` : predicted(level),
    why: `People work there. ${betterWords(room, better)}${isRead ? '' : ' This is an estimate.'}`,
  }),
} satisfies Partial<FindingWords>

export const WIFI_MENDS = {
  'plan-channels': ({ band, radios }) => `Move ${count(radios, 'radio')} on ${band} GHz`,
  'show-name': ({ ssid }) => `Show ${ssid}`,
  'drop-mac-list': ({ ssid }) => `No list for ${ssid}`,
  'wps-off': ({ ssid }) => `WPS off for ${ssid}`,
  'lower-power': ({ dBm: level }) => `Send with ${dBm(level)}`,
  'four-address': () => 'Use 4-address frames',
  'least-rate': ({ mbps }) => `Slowest rate ${mbps} Mb/s`,
} satisfies Partial<MendWords>
