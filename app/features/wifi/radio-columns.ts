// Radios: how they are set, what is permitted, and who is heard on their channels.
import { freshId } from '#core/edit'
import { WIDTHS, type ApRadio } from '#core/wifi'
import { problem, refuse } from '#core/util'
import type { AccessRadio, Band, ChannelWidth, Generation, Plan } from '#core/schema'
import { GENERATION_WORDS } from './words'
import { usePlan, type PlanDraft } from '~/stores/plan'
import {
  columnsOver,
  decimal,
  oneOf,
  orNothing,
  useColumns,
  whole,
  type Column,
  type Put,
} from '~/ui/columns'

const BANDS: readonly Band[] = ['2.4', '5', '6']
const NOTHING = ['', '—', 'auto']

export interface RadioRow extends ApRadio {
  readonly permitted: string
  readonly isTrouble: boolean
  readonly heard: string
  readonly beacons: string
}
type RadioDraft = PlanDraft['wifi']['radios'][number]
const radioColumn = columnsOver<RadioRow, RadioDraft>()
const WIDTH_TEXTS = ['20', '40', '80', '160', '320'] as const
const generations = Object.values(GENERATION_WORDS)
const accessPoints = (plan: Plan) =>
  plan.devices.filter(({ kind }) => kind === 'access-point' || kind === 'extender')
/** A radio that its model is shipped with stays where it is. */
const OWNER = [
  radioColumn({
    key: 'name',
    head: 'Access point',
    strong: true,
    read: ({ deviceName }) => deviceName,
    choices: ({ isTyped, deviceName }, plan) =>
      isTyped ? accessPoints(plan).map(({ name }) => name) : [deviceName],
    parse: (text, _, plan) => oneOf(accessPoints(plan).map(({ name }) => name))(text),
    write: (radio, text, draft) =>
      void (radio.deviceId = draft.devices.find(({ name }) => name === text)?.id ?? radio.deviceId),
  }),
  radioColumn({
    key: 'band',
    head: 'GHz',
    mono: true,
    read: ({ band }) => band,
    choices: ({ isTyped, band }) => (isTyped ? BANDS : [band]),
    parse: oneOf<Band>(BANDS),
    write: (radio, band) => {
      radio.band = band
      radio.channel = null
      if (!WIDTHS[band].includes(radio.widthMhz)) radio.widthMhz = 20
    },
  }),
]
const CHANNEL = radioColumn({
  key: 'channel',
  head: 'Channel',
  num: true,
  mono: true,
  read: ({ channel }) => (channel === null ? 'auto' : String(channel)),
  parse: (text, { follows }) =>
    follows === null
      ? orNothing<number>(NOTHING, whole(1, 233))(text)
      : refuse(problem('follows-channel', '', { name: follows })),
  write: (radio, channel) => void (radio.channel = channel),
})
const RADIO_COLUMNS = [
  radioColumn({
    key: 'widthMhz',
    head: 'Width, MHz',
    num: true,
    mono: true,
    read: ({ widthMhz }) => String(widthMhz),
    choices: ({ band }) => WIDTHS[band].map(String),
    parse: (text, { band }) =>
      oneOf(WIDTH_TEXTS.filter((one) => WIDTHS[band].includes(Number(one) as ChannelWidth)))(text),
    write: (radio, text) => void (radio.widthMhz = Number(text) as ChannelWidth),
  }),
  radioColumn({
    key: 'powerDbm',
    head: 'Power, dBm',
    num: true,
    mono: true,
    read: ({ powerDbm }) => String(powerDbm),
    parse: decimal(40),
    write: (radio, powerDbm) => void (radio.powerDbm = powerDbm),
  }),
  radioColumn({
    key: 'gain',
    head: 'Gain, dBi',
    num: true,
    mono: true,
    read: ({ gainDbi }) => String(gainDbi),
    parse: decimal(40),
    write: (radio, gainDbi) => void (radio.gainDbi = gainDbi),
  }),
  radioColumn({
    key: 'streams',
    head: 'Streams',
    num: true,
    mono: true,
    read: ({ streams }) => String(streams),
    parse: whole(1, 16),
    write: (radio, streams) => void (radio.streams = streams),
  }),
  radioColumn({
    key: 'generation',
    head: 'Standard',
    read: ({ generation }) => GENERATION_WORDS[generation],
    choices: () => generations,
    parse: oneOf(generations),
    write: (radio, text) => {
      const found = (Object.keys(GENERATION_WORDS) as Generation[]).find(
        (one) => GENERATION_WORDS[one] === text,
      )
      if (found) radio.generation = found
    },
  }),
]

/** A radio as the plan writes it; what its model is shipped with is written with the first change. */
export function radioIn({ wifi }: PlanDraft, row: ApRadio): RadioDraft | null {
  const known = wifi.radios.find(({ id, deviceId }) => id === row.id && deviceId === row.deviceId)
  if (known || row.isTyped) return known ?? null
  const { deviceId, band, generation, streams, channel, widthMhz, powerDbm, gainDbi } = row
  const radio: AccessRadio = {
    id: freshId(wifi.radios, row.id),
    deviceId,
    band,
    generation,
    streams,
    channel,
    widthMhz,
    powerDbm,
    gainDbi,
  }
  wifi.radios.push({ ...radio })
  return wifi.radios.at(-1) ?? null
}

export function useRadioColumns(): readonly Column<RadioRow>[] {
  const plan = usePlan()
  const put: Put<RadioRow, RadioDraft> = (row, session, words, recipe) =>
    plan.edit(`${row.deviceName}, ${row.band} GHz: ${words}`, session, (draft) => {
      const radio = radioIn(draft, row)
      if (radio) recipe(radio, draft)
    })
  return [
    ...useColumns(OWNER, put),
    ...useColumns([CHANNEL], put),
    { key: 'heard', head: 'Others on the channel', wraps: true, get: ({ heard }) => heard },
    { key: 'beacons', head: 'Beacons', num: true, mono: true, get: ({ beacons }) => beacons },
    { key: 'permitted', head: 'Permitted', wraps: true, get: ({ permitted }) => permitted },
    ...useColumns(RADIO_COLUMNS, put),
  ]
}
