import { lightFormat } from 'date-fns/lightFormat'
import { isSameDay } from 'date-fns/isSameDay'
import type { AdoptionEvent, AdoptionState, RefusalReason } from '#core/adopt'
import type { LabSign } from '#core/simulator'

interface Words {
  readonly state: string
  /** What to do, and where. Empty where there is nothing. */
  readonly next: string
}

const STATES: Readonly<Record<AdoptionState, Words>> = {
  planned: { state: 'no serial yet', next: 'Read the serial from its label and claim it here.' },
  claimed: { state: 'claimed', next: 'Plug it in and power it on.' },
  addressed: { state: 'has an address', next: 'Wait: it looks for its controller.' },
  bootstrapping: { state: 'bootstrapping', next: 'Wait, and leave the power on.' },
  provisioning: { state: 'provisioning', next: 'Wait, and leave the power on.' },
  'in-sync': { state: 'in sync', next: '' },
  unclaimed: {
    state: 'asks, claimed by nobody',
    next: 'Claim its serial for the device it is meant to be, or unplug it.',
  },
  'wrong-serial': {
    state: 'wrong kind of serial',
    next: 'This is the board or certificate number. Release it and claim the product serial, which starts with GH.',
  },
  'wrong-model': {
    state: 'another model than planned',
    next: 'Claim the box that is meant, or change the model on the Loom; it asks again by itself.',
  },
  'not-factory': {
    state: 'silent: not in factory state',
    next: 'It runs a configuration from elsewhere. Reset it to factory settings and power it on.',
  },
  'firmware-old': {
    state: 'firmware too old',
    next: 'Update it by hand from its own page, then power it on.',
  },
  failed: { state: 'reported an error', next: 'Read its last word, then power it off and on.' },
}

export const wordsOfState = (state: AdoptionState): Words => STATES[state]

const SIGNS: Readonly<Record<LabSign, string>> = {
  none: 'off',
  starting: 'starting: light blinks',
  'no-link': 'no link: its cable ends nowhere',
  'no-address': 'no address: nobody answers DHCP at its port',
  foreign: 'steady light: runs a configuration from elsewhere',
  'no-controller': 'has an address, but its controller is not in that network',
  looking: 'has an address, looks for its controller',
  unclaimed: 'asked, nobody knows its serial; asks again',
  'wrong-model': 'asked, was refused: the plan has another model here',
  'firmware-old': 'asked, was refused: its firmware is too old',
  loading: 'loading its planned firmware',
  applying: 'applying its configuration',
  configured: 'steady light: configured by its controller',
  'gave-up': 'gave up asking; power it on again',
  stopped: 'stopped by a defect of the lab',
}
/** What a device of the lab shows, in words. */
export const signWords = (sign: LabSign): string => SIGNS[sign]

export const STEP_WORDS = {
  claimed: 'claimed',
  addressed: 'address',
  bootstrapping: 'bootstrap',
  provisioning: 'provision',
  'in-sync': 'in sync',
} as const

const REFUSALS: Readonly<Record<RefusalReason, string>> = {
  unclaimed: 'claimed by nobody',
  'wrong-model': 'the plan has another model here',
  'firmware-old': 'firmware too old',
}

/** What was heard, in words. */
export function eventWords(event: AdoptionEvent): string {
  switch (event.kind) {
    case 'lease':
      return `leased ${event.address}`
    case 'asked':
      return `asked for its configuration, firmware ${event.firmware}`
    case 'refused':
      return `was refused: ${REFUSALS[event.reason]}`
    case 'progress':
      return event.message === '' ? event.type : `${event.type}: ${event.message}`
  }
}

/** `2026-11-24`, where the person is. */
export const dayText = (day: Date): string => lightFormat(day, 'yyyy-MM-dd')

/** `2026-11-24 14:03`, for paper. */
export const dateText = (at: number | string): string => lightFormat(at, 'yyyy-MM-dd HH:mm')

/** `14:03:27` of today, with the date before it otherwise. */
export const timeText = (at: number | string, nowMs = Date.now()): string =>
  isSameDay(at, nowMs) ? lightFormat(at, 'HH:mm:ss') : dateText(at)
