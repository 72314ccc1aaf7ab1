import type { FindingValues } from '#core/findings'
import type { FindingWords, MendWords, Words } from './words'

// What the findings of cables, sockets and power say, and the buttons of their mends.

type Power = FindingValues['E08']
type Source = Extract<Power, { budgetW: number }>
type Feed = Extract<Power, { load: string }>

const SOURCE_WORDS: Readonly<Record<Source['kind'], (values: Source) => Words>> = {
  over: (values) => ({
    title: `${values.device}: more power than it has`,
    what: `Loads draw ${values.drawW} W of ${values.budgetW} W.`,
    why: 'The ports that come last stay dark.',
  }),
  headroom: (values) => ({
    title: `${values.device}: power without headroom`,
    what: `Loads draw ${values.drawW} W of ${values.budgetW} W; ${values.headroomPct} % should stay free.`,
    why: 'Cold, heaters and start-up draw more than the typical figure.',
  }),
  'class-sum': (values) => ({
    title: `${values.device}: classes sum above its budget`,
    what: `${values.classW} W reserved by class, ${values.budgetW} W there; ${values.drawW} W drawn.`,
    why: 'A switch that reserves by class refuses the last ports.',
  }),
}
const FEED_WORDS: Readonly<Record<Feed['kind'], (values: Feed) => Words>> = {
  class: (values) => ({
    title: `${values.load} wants a higher class`,
    what: `Class ${values.loadClass} on ${values.device} port ${values.port}, which gives class ${values.sourceClass}.`,
    why: 'It stays off, or runs with features switched off.',
  }),
  'passive-to-standard': (values) => ({
    title: `Passive power into ${values.load}`,
    what: `${values.device} port ${values.port} puts out a voltage without asking.`,
    why: 'It may destroy the device.',
  }),
  'standard-to-passive': (values) => ({
    title: `${values.load} takes passive power`,
    what: `${values.device} port ${values.port} asks first and gets no answer.`,
    why: 'It stays dark. Use its own injector.',
  }),
  'passive-volts': (values) => ({
    title: `${values.load}: wrong voltage`,
    what: `${values.device} port ${values.port} gives another voltage than it takes.`,
    why: 'Too low it stays dark, too high it burns.',
  }),
  'no-copper': (values) => ({
    title: `${values.load}: no power through fibre`,
    what: `${values.device} port ${values.port} reaches it by fibre.`,
    why: 'Give it a supply of its own.',
  }),
  voltage: (values) => ({
    title: `${values.load}: too little voltage arrives`,
    what: `${values.volts} V at the end of the run from ${values.device} port ${values.port}.`,
    why: 'It restarts under load. Shorten the run, or feed it nearer.',
  }),
}

function powerWords(values: Power): Words {
  if (values.kind === 'unpowered')
    return {
      title: `${values.device} gets no power`,
      what: 'It takes power over its cable, and nothing on it gives any.',
      why: 'Use a port with PoE, an injector, or a supply of its own. Mains work is for licensed people.',
    }
  return 'budgetW' in values ? SOURCE_WORDS[values.kind](values) : FEED_WORDS[values.kind](values)
}

const BUNDLE_TROUBLE: Readonly<Record<FindingValues['E12']['why'], string>> = {
  alone: 'It has one cable.',
  'other-device': 'Its cables end at different devices.',
  modes: 'Its ports carry different VLANs.',
  speeds: 'Its cables run at different speeds.',
}

export const CABLING_WORDS = {
  E06: (values) => {
    if (values.kind === 'no-common')
      return {
        title: 'No common speed',
        what: `${values.from} and ${values.to} offer none alike.`,
        why: 'The link stays down.',
      }
    if (values.kind === 'uplink')
      return {
        title: `${values.device} port ${values.port} is slower than the uplink`,
        what: `${values.mbps} Mb/s in front of ${values.uplink}, ${values.uplinkMbps} Mb/s.`,
        why: 'The difference is paid for and never seen.',
      }
    return {
      title: 'Cable slower than both ends',
      what:
        `${values.from} to ${values.to}: ${values.category}, ${values.lengthM} m carries ` +
        `${values.mbps === 0 ? 'none of their speeds' : `${values.mbps} Mb/s`}; the ports offer ` +
        `${values.offeredMbps}.`,
      why: 'Take Cat6A or fibre, or accept the speed.',
    }
  },
  E07: (values) => ({
    title: values.between ? 'Copper between buildings' : 'Copper too long',
    what: `${values.from} to ${values.to}: ${values.lengthM} m.`,
    why: values.between
      ? 'Over 100 m where longer, and a path for lightning. Use fibre; a licensed electrician decides on bonding.'
      : 'A copper channel ends at 100 m. Use fibre.',
  }),
  E08: (values) => powerWords(values),
  E09: (values) =>
    values.kind === 'crossed'
      ? {
          title: `${values.device}: cables crossed`,
          what: `${values.load} hangs on its network side.`,
          why: 'The side marked for the device gives the power; the other gives none.',
        }
      : {
          title:
            `${values.device} port ${values.port} is ` +
            (values.kind === 'lan-as-wan' ? 'a LAN port' : 'the WAN port'),
          what: values.kind === 'lan-as-wan' ? 'An uplink is planned on it.' : 'The site is planned on it.',
          why: 'Its role must be changed before the cable goes in.',
        },
  E10: (values) => {
    const at = `${values.device} port ${values.port}`
    switch (values.kind) {
      case 'copper-in-sfp':
        return {
          title: `${at} takes a transceiver`,
          what: 'A copper cable is planned on it.',
          why: 'The plug does not go in.',
        }
      case 'fibre-in-copper':
        return {
          title: `${at} takes copper`,
          what: 'A fibre is planned on it.',
          why: 'The plug does not go in.',
        }
      case 'no-optic':
        return {
          title: `${at}: transceiver missing`,
          what: `The fibre is ${values.grade}, ${values.lengthM} m.`,
          why: 'Without one there is no link.',
        }
      case 'optics-differ':
        return {
          title: 'Transceivers differ at the ends',
          what: `${values.optic} and ${values.otherOptic}.`,
          why: 'They do not see each other. Never look into a fibre or a transceiver: the light is invisible.',
        }
      default:
        return {
          title: `${at}: transceiver and fibre do not fit`,
          what: `${values.optic} over ${values.lengthM} m of ${values.grade}.`,
          why: 'Too little light arrives. Never look into a fibre or a transceiver: the light is invisible.',
        }
    }
  },
  E12: (values) => ({
    title: `Bundle ${values.lag} does not hold together`,
    what: BUNDLE_TROUBLE[values.why],
    why:
      values.why === 'alone'
        ? 'A bundle of one gains nothing.'
        : 'Members that differ are left out, or the bundle stays down.',
  }),
  E14: (values) => ({
    title: `${values.device}: no cable`,
    what:
      values.loose === values.of
        ? 'Nothing leads to it, and no Wi-Fi either.'
        : `${values.loose} of its ${values.of} sockets have none.`,
    why: 'What is said of its network is not said of it.',
  }),
} satisfies Partial<FindingWords>

export const CABLING_MENDS = {
  'own-supply': () => 'It has a supply of its own',
  optic: (values) => `${values.optic} in port ${values.port}`,
  fibre: (values) => `Move to fibre ${values.grade}`,
} satisfies Partial<MendWords>
