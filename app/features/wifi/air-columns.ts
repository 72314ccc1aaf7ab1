// SSIDs: how they are sent.
import type { Ssid, SsidAir } from '#core/schema'
import { bandsTyped } from './typed'
import { SECURITY_WORDS } from './words'
import { SSID_COLUMNS } from '~/features/topology/ssid-columns'
import { usePlan, type PlanDraft } from '~/stores/plan'
import { among, amongYesAndNo, columnsOver, oneOf, useColumns, type Column, type Put } from '~/ui/columns'

type SsidDraft = PlanDraft['ssids'][number]
const ssidColumn = columnsOver<Ssid, SsidDraft>()
const securities = Object.values(SECURITY_WORDS)
const LEAST_TEXTS = ['—', '6', '12', '24'] as const
const AIR_COLUMNS = [
  ssidColumn({
    key: 'security',
    head: 'Security',
    read: ({ air }) => SECURITY_WORDS[air.security ?? 'unsaid'],
    choices: () => securities,
    parse: oneOf(securities),
    write: ({ air }, text) => {
      const found = (Object.keys(SECURITY_WORDS) as (keyof typeof SECURITY_WORDS)[]).find(
        (one) => SECURITY_WORDS[one] === text,
      )
      air.security = found === undefined || found === 'unsaid' ? null : (found as SsidAir['security'])
    },
    words: (text) => `security ${text}`,
  }),
  ssidColumn({
    key: 'bands',
    head: 'Bands, GHz',
    mono: true,
    read: ({ air }) => air.bands.join(', '),
    parse: bandsTyped,
    write: ({ air }, bands) => void (air.bands = bands),
    words: (text) => `on ${text} GHz`,
  }),
  ssidColumn({
    key: 'hidden',
    head: 'Hidden',
    read: ({ air }) => (air.hidden ? 'yes' : 'no'),
    ...amongYesAndNo,
    write: ({ air }, hidden) => void (air.hidden = hidden),
    words: (text) => `hidden ${text}`,
  }),
  ssidColumn({
    key: 'leastMbps',
    head: 'Least Mb/s',
    num: true,
    mono: true,
    read: ({ air }) => String(air.leastMbps ?? '—'),
    ...among(LEAST_TEXTS),
    write: ({ air }, text) => void (air.leastMbps = text === '—' ? null : (Number(text) as 6 | 12 | 24)),
    words: (text) => `slowest rate ${text}`,
  }),
]

export function useAirColumns(): readonly Column<Ssid>[] {
  const plan = usePlan()
  const put: Put<Ssid, SsidDraft> = (row, session, words, recipe) =>
    plan.edit(`SSID ${row.name}: ${words}`, session, (draft) => {
      const ssid = draft.ssids.find(({ id }) => id === row.id)
      if (ssid) recipe(ssid, draft)
    })
  const [name, network, isolation, aps] = SSID_COLUMNS
  return useColumns([name, network, ...AIR_COLUMNS, isolation, aps], put)
}
