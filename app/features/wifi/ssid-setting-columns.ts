// SSIDs: how they are sent.
import type { Ssid, SsidSettings } from '#core/schema'
import { bandsTyped } from './typed'
import { SECURITY_WORDS } from './words'
import { SSID_COLUMNS } from '~/features/topology/ssid-columns'
import { usePlan, type PlanDraft } from '~/stores/plan'
import { among, amongYesAndNo, columnsOver, oneOf, useColumns, type Column, type Put } from '~/ui/columns'

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
]

export function useSsidSettingColumns(): readonly Column<Ssid>[] {
  const plan = usePlan()
  const put: Put<Ssid, SsidDraft> = (row, session, words, recipe) =>
    plan.edit(`SSID ${row.name}: ${words}`, session, (draft) => {
      const ssid = draft.ssids.find(({ id }) => id === row.id)
      if (ssid) recipe(ssid, draft)
    })
  const [name, network, isolation, aps] = SSID_COLUMNS
  return useColumns([name, network, ...SETTING_COLUMNS, isolation, aps], put)
}
