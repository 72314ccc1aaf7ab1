// SSIDs: how they are sent.
import type { Ssid, SsidSettings } from '#core/schema'
import { problem, refuse } from '#core/util'
import { bandsTyped, hoursText, hoursTyped } from './typed'
import { SECURITY_WORDS } from './words'
import { SSID_COLUMNS } from '~/features/topology/ssid-columns'
import { usePlan, type PlanDraft } from '~/stores/plan'
import {
  among,
  amongYesAndNo,
  columnsOver,
  oneOf,
  orNothing,
  useColumns,
  whole,
  type Column,
  type Put,
} from '~/ui/columns'

type SsidDraft = PlanDraft['ssids'][number]
const ssidColumn = columnsOver<Ssid, SsidDraft>()
const securities = Object.values(SECURITY_WORDS)
const LEAST_TEXTS = ['—', '6', '12', '24'] as const
const SETTING_COLUMNS = [
  ssidColumn({
    key: 'security',
    head: 'Security',
    read: ({ settings }) => SECURITY_WORDS[settings.security ?? 'unsaid'],
    choices: () => securities,
    parse: oneOf(securities),
    write: ({ settings }, text) => {
      const found = (Object.keys(SECURITY_WORDS) as (keyof typeof SECURITY_WORDS)[]).find(
        (one) => SECURITY_WORDS[one] === text,
      )
      settings.security =
        found === undefined || found === 'unsaid' ? null : (found as SsidSettings['security'])
    },
    words: (text) => `security ${text}`,
  }),
  ssidColumn({
    key: 'macList',
    head: 'MAC list',
    read: ({ settings }) => (settings.macList ? 'yes' : 'no'),
    ...amongYesAndNo,
    write: ({ settings }, macList) => void (settings.macList = macList),
    words: (text) => `MAC list ${text}`,
  }),
  ssidColumn({
    key: 'wps',
    head: 'WPS',
    read: ({ settings }) => (settings.wps ? 'on' : 'off'),
    ...among(['off', 'on'] as const),
    write: ({ settings }, wps) => void (settings.wps = wps === 'on'),
    words: (text) => `WPS ${text}`,
  }),
]

const PORTAL_WORDS = { none: 'no', bare: 'without terms', terms: 'with terms' } as const
const portalText = (portal: SsidSettings['portal']): string => {
  if (!portal) return PORTAL_WORDS.none
  return portal.terms ? PORTAL_WORDS.terms : PORTAL_WORDS.bare
}
const SENDING_COLUMNS = [
  ssidColumn({
    key: 'bands',
    head: 'Bands, GHz',
    mono: true,
    read: ({ settings }) => settings.bands.join(', '),
    parse: bandsTyped,
    write: ({ settings }, bands) => void (settings.bands = bands),
    words: (text) => `on ${text} GHz`,
  }),
  ssidColumn({
    key: 'hidden',
    head: 'Hidden',
    read: ({ settings }) => (settings.hidden ? 'yes' : 'no'),
    ...amongYesAndNo,
    write: ({ settings }, hidden) => void (settings.hidden = hidden),
    words: (text) => `hidden ${text}`,
  }),
  ssidColumn({
    key: 'hours',
    head: 'Hours',
    mono: true,
    read: ({ settings }) => hoursText(settings.hours),
    parse: hoursTyped,
    write: ({ settings }, hours) => void (settings.hours = hours),
    words: (text) => `sent ${text}`,
  }),
  ssidColumn({
    key: 'leastMbps',
    head: 'Least Mb/s',
    num: true,
    mono: true,
    read: ({ settings }) => String(settings.leastMbps ?? '—'),
    ...among(LEAST_TEXTS),
    write: ({ settings }, text) =>
      void (settings.leastMbps = text === '—' ? null : (Number(text) as 6 | 12 | 24)),
    words: (text) => `slowest rate ${text}`,
  }),
  ssidColumn({
    key: 'steering',
    head: 'Band steering',
    read: ({ settings }) => (settings.steering ? 'yes' : 'no'),
    ...amongYesAndNo,
    write: ({ settings }, steering) => void (settings.steering = steering),
    words: (text) => `band steering ${text}`,
  }),
  ssidColumn({
    key: 'portal',
    head: 'Portal',
    read: ({ settings }) => portalText(settings.portal),
    ...among(Object.values(PORTAL_WORDS)),
    write: ({ settings }, text) =>
      void (settings.portal =
        text === PORTAL_WORDS.none
          ? null
          : { minutes: settings.portal?.minutes ?? null, terms: text === PORTAL_WORDS.terms }),
    words: (text) => `portal ${text}`,
  }),
  ssidColumn({
    key: 'minutes',
    head: 'Time-out, min',
    num: true,
    mono: true,
    read: ({ settings }) => String(settings.portal?.minutes ?? '—'),
    parse: (text, { settings }) =>
      settings.portal
        ? orNothing<number>(['', '—'], whole(1, 43_200))(text)
        : refuse(problem('no-portal', '')),
    write: ({ settings }, minutes) => {
      if (settings.portal) settings.portal.minutes = minutes
    },
    words: (text) => `portal time-out ${text} min`,
  }),
]

function usePutSsid(): Put<Ssid, SsidDraft> {
  const plan = usePlan()
  return (row, session, words, recipe) =>
    plan.edit(`SSID ${row.name}: ${words}`, session, (draft) => {
      const ssid = draft.ssids.find(({ id }) => id === row.id)
      if (ssid) recipe(ssid, draft)
    })
}

const ssidName: Column<Ssid> = { key: 'name', head: 'SSID', strong: true, get: ({ name }) => name }
/** Client isolation, before what it means. */
export function useIsolationColumns(): readonly Column<Ssid>[] {
  const [, , isolation] = SSID_COLUMNS
  return [ssidName, ...useColumns([isolation], usePutSsid())]
}

/** How SSIDs are sent, and how their stations are moved between bands and greeted. */
export function useSendingColumns(): readonly Column<Ssid>[] {
  return [ssidName, ...useColumns(SENDING_COLUMNS, usePutSsid())]
}

export function useSsidSettingColumns(): readonly Column<Ssid>[] {
  const [name, network, , aps] = SSID_COLUMNS
  return useColumns([name, network, ...SETTING_COLUMNS, aps], usePutSsid())
}
