import type { FindingValues } from '#core/findings'
import { FACTS } from '../brief'
import type { FindingWords, MendWords } from './words'
import { count } from '../count'

// What the findings of the brief and the equipment say, and the buttons of their mends.

type Box = FindingValues['D04']

/** What is wrong with a box of the equipment list, as a title. */
const BOX_TITLES: Readonly<Record<Box['kind'], string>> = {
  'wrong-check': 'serial cannot be right',
  malformed: 'serial cannot be right',
  'other-kind': 'serial of another kind',
  twice: 'serial used twice',
  'mac-twice': 'MAC used twice',
  'device-twice': 'two boxes for one device',
  'other-model': 'another model than planned',
}

function boxWords({ kind, serial, of, mac, model, planned }: Box): string {
  switch (kind) {
    case 'wrong-check':
      return `${serial} does not check: a character is mistyped or two are swapped.`
    case 'malformed':
      return `${serial} is not a serial.`
    case 'other-kind':
      return `${serial} is the ${of}'s, from the same label.`
    case 'twice':
      return `${serial} is listed for two boxes.`
    case 'mac-twice':
      return `${mac} is listed for two boxes.`
    case 'device-twice':
      return 'Another box is listed for the same device.'
    case 'other-model':
      return `The box is a ${model}, the plan says ${planned}.`
  }
}

export const BRIEF_WORDS = {
  D04: (values) => ({
    title: `${values.name}: ${BOX_TITLES[values.kind]}`,
    what: boxWords(values),
    why:
      values.kind === 'other-model'
        ? 'Its ports and its power differ.'
        : 'It would never be found when it asks to be adopted.',
  }),
  D08: (values) => ({
    title: 'Country not set',
    what: `${count(values.radios, 'radio')} will transmit.`,
    why: 'Channels and power depend on it; local rules decide.',
  }),
  W01: (values) => ({
    title: `${values.about}: ${FACTS[values.fact]?.name ?? values.fact} not known`,
    what: FACTS[values.fact]?.ask ?? '',
    why: `Blocks ${values.blocks}.`,
  }),
  W07: (values) => ({
    title: `${values.device} port ${values.port} is not ready for ${values.uplink}`,
    what: values.kind === 'off' ? 'The plan switches it off.' : 'It is shipped switched off or unlicensed.',
    why: 'The uplink stays down until it is enabled. Find out now, not at the cut-over.',
  }),
  W11: (values) => ({
    title: `${values.uplink}: two address translations in a row`,
    what:
      values.kind === 'router'
        ? `Its modem routes${values.address === '' ? '' : `: the gateway has ${values.address}`}.`
        : `${values.address} is the provider's shared space (RFC 6598).`,
    why:
      values.kind === 'router'
        ? 'Nothing from outside arrives unless both forward it. Ask for bridge mode.'
        : 'Nobody can dial in over this uplink.',
  }),
  W17: (values) => ({
    title: `${values.uplink}: no address of its own after all`,
    what: `${values.address} was seen, of the provider’s shared space (RFC 6598).`,
    why: 'The plan counts on calls from outside over this uplink, and none will come.',
  }),
} satisfies Partial<FindingWords>

export const BRIEF_MENDS = {
  'port-enabled': (values) => `Port ${values.port} is enabled`,
  'outside-shared': (values) => `${values.uplink} has no address of its own`,
} satisfies Partial<MendWords>
