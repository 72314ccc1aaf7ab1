import { setSenders } from '#core/edit'
import { ok, problem, refuse, type Result } from '#core/util'
import type { Plan, Ssid } from '#core/schema'
import { usePlan, type PlanDraft } from '~/stores/plan'
import { amongYesAndNo, columnsOver, idsNamed, oneOf, useColumns, type Column, type Put } from '~/ui/columns'

type SsidDraft = PlanDraft['ssids'][number]
const column = columnsOver<Ssid, SsidDraft>()

/** IEEE 802.11: an SSID is 0 to 32 octets; an empty one is the wildcard. */
const MOST_OCTETS = 32
/** A name of Wi-Fi as it is typed. */
export const ssidTyped = (text: string): Result<string> =>
  text !== '' && new TextEncoder().encode(text).length <= MOST_OCTETS
    ? ok(text)
    : refuse(problem('not-an-ssid', '', { text: text.slice(0, 40) }))

const networkNames = (plan: Plan): string[] => plan.networks.map((n) => n.name)
const accessPoints = (plan: Plan) => plan.devices.filter((d) => d.kind === 'access-point')

export const SSID_COLUMNS = [
  column({
    key: 'name',
    head: 'SSID',
    strong: true,
    read: (s) => s.name,
    parse: ssidTyped,
    write: (s, text) => void (s.name = text),
    words: (text) => `named ${text}`,
  }),
  column({
    key: 'network',
    head: 'Network',
    read: (s, plan) => plan.networks.find((n) => n.id === s.networkId)?.name ?? s.networkId,
    choices: (_, plan) => networkNames(plan),
    parse: (text, _, plan) => oneOf(networkNames(plan))(text),
    write: (ssid, text, draft) =>
      void (ssid.networkId = draft.networks.find((n) => n.name === text)?.id ?? ssid.networkId),
    words: (text) => text,
  }),
  column({
    key: 'isolation',
    head: 'Client isolation',
    width: '110px',
    read: (s) => (s.isolation ? 'yes' : 'no'),
    ...amongYesAndNo,
    write: (s, isolation) => void (s.isolation = isolation),
    words: (text) => `client isolation ${text}`,
  }),
  column({
    key: 'aps',
    head: 'Access points',
    wraps: true,
    read: ({ apIds }, plan) =>
      accessPoints(plan)
        .filter((d) => apIds.includes(d.id))
        .map((d) => d.name)
        .join(', ') || '—',
    offers: (_, plan) => accessPoints(plan).map(({ name }) => name),
    parse: (text, _, plan) => idsNamed(text, accessPoints(plan)),
    write: (ssid, ids, draft) => {
      const sent = setSenders(draft as unknown as Plan, ssid.id, ids)
      if (sent.ok) Object.assign(draft, sent.value)
    },
    words: () => 'access points',
  }),
] as const

/** The columns of the SSIDs: which network each leads to, and which access points send it. */
export function useSsidColumns(): readonly Column<Ssid>[] {
  const plan = usePlan()
  const put: Put<Ssid, SsidDraft> = (row, session, words, recipe) =>
    plan.edit(`SSID ${row.name}: ${words}`, session, (draft) => {
      const ssid = draft.ssids.find((s) => s.id === row.id)
      if (ssid) recipe(ssid, draft)
    })
  return useColumns(SSID_COLUMNS, put)
}
