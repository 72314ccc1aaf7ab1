// Networks of others, as they are heard.
import { ok, problem, refuse } from '#core/util'
import type { ChannelWidth, ForeignNetwork, Plan } from '#core/schema'
import { usePlan, type PlanDraft } from '~/stores/plan'
import { among, columnsOver, cutAt, oneOf, useColumns, whole, type Column, type Put } from '~/ui/columns'

type ForeignDraft = PlanDraft['wifi']['foreign'][number]
const column = columnsOver<ForeignNetwork, ForeignDraft>()
const WIDTHS = ['20', '40', '80', '160', '320'] as const

const levelTyped = (text: string) => {
  const value = Number(text.replace('−', '-'))
  return /^[-−]\d{1,3}$/.test(text) && value >= -120
    ? ok(value)
    : refuse(problem('out-of-range', '', { text, least: -120, most: -1 }))
}
const hearers = (plan: Plan) => plan.devices.filter(({ kind }) => kind === 'access-point')

const COLUMNS = [
  column({
    key: 'name',
    head: 'SSID',
    strong: true,
    read: ({ name }) => name,
    parse: cutAt(32),
    write: (one, text) => void (one.name = text),
  }),
  column({
    key: 'band',
    head: 'Band, GHz',
    mono: true,
    read: ({ band }) => band,
    ...among(['2.4', '5', '6'] as const),
    write: (one, band) => void (one.band = band),
  }),
  column({
    key: 'channel',
    head: 'Channel',
    num: true,
    mono: true,
    read: ({ channel }) => String(channel),
    parse: whole(1, 233),
    write: (one, channel) => void (one.channel = channel),
  }),
  column({
    key: 'width',
    head: 'Width, MHz',
    num: true,
    mono: true,
    read: ({ widthMhz }) => String(widthMhz),
    ...among(WIDTHS),
    write: (one, text) => void (one.widthMhz = Number(text) as ChannelWidth),
  }),
  column({
    key: 'level',
    head: 'Level, dBm',
    num: true,
    mono: true,
    read: ({ levelDbm }) => String(levelDbm).replace('-', '−'),
    edit: ({ levelDbm }) => String(levelDbm),
    parse: levelTyped,
    write: (one, level) => void (one.levelDbm = level),
  }),
  column({
    key: 'at',
    head: 'Heard at',
    read: ({ deviceId }, plan) => plan.devices.find(({ id }) => id === deviceId)?.name ?? deviceId,
    choices: (_, plan) => hearers(plan).map(({ name }) => name),
    parse: (text, _, plan) => oneOf(hearers(plan).map(({ name }) => name))(text),
    write: (one, text, draft) =>
      void (one.deviceId = draft.devices.find(({ name }) => name === text)?.id ?? one.deviceId),
  }),
]

export function useForeignColumns(): readonly Column<ForeignNetwork>[] {
  const plan = usePlan()
  const put: Put<ForeignNetwork, ForeignDraft> = (row, session, words, recipe) =>
    plan.edit(`${row.name || 'foreign network'}: ${words}`, session, (draft) => {
      const one = draft.wifi.foreign.find(({ id }) => id === row.id)
      if (one) recipe(one, draft)
    })
  return useColumns(COLUMNS, put)
}
