import { problem, type Problem } from '#core/util'
import type { Ssid } from '#core/model'
import { checkChoice, type Column } from './columns'
import { usePlan, type PlanDraft } from '~/stores/plan'

/** The columns of the SSIDs: which network each leads to, and which access points send it. */
export function useSsidColumns(): readonly Column<Ssid>[] {
  const plan = usePlan()
  const put = (row: Ssid, session: string, words: string, recipe: (s: PlanDraft['ssids'][number]) => void) =>
    plan.edit(`SSID ${row.name}: ${words}`, session, (draft) => {
      const ssid = draft.ssids.find((s) => s.id === row.id)
      if (ssid) recipe(ssid)
    })
  const networks = () => (plan.draft?.networks ?? []).map((n) => n.name)
  const aps = () => (plan.draft?.devices ?? []).filter((d) => d.kind === 'access-point')
  const listOf = (text: string) =>
    text
      .split(',')
      .map((t) => t.trim())
      .filter((t) => t !== '' && t !== '—')
  // IEEE 802.11: an SSID is 0 to 32 octets; an empty one is the wildcard.
  const checkSsid = (text: string): readonly Problem[] =>
    text !== '' && new TextEncoder().encode(text).length <= 32
      ? []
      : [problem('not-an-ssid', '', { text: text.slice(0, 40) })]
  return [
    {
      key: 'name',
      head: 'SSID',
      strong: true,
      get: (s) => s.name,
      check: (_, text) => checkSsid(text),
      commit: (row, text, session) => put(row, session, `named ${text}`, (s) => void (s.name = text)),
    },
    {
      key: 'network',
      head: 'Network',
      get: (s) => plan.draft?.networks.find((n) => n.id === s.networkId)?.name ?? s.networkId,
      choices: networks,
      check: (_, text) => checkChoice(text, networks()),
      commit: (row, text, session) =>
        put(
          row,
          session,
          text,
          (s) => void (s.networkId = plan.draft?.networks.find((n) => n.name === text)?.id ?? s.networkId),
        ),
    },
    {
      key: 'isolation',
      head: 'Stations apart',
      width: '110px',
      get: (s) => (s.isolation ? 'yes' : 'no'),
      choices: () => ['yes', 'no'],
      check: (_, text) => checkChoice(text, ['yes', 'no']),
      commit: (row, text, session) =>
        put(row, session, `apart ${text}`, (s) => void (s.isolation = text === 'yes')),
    },
    {
      key: 'aps',
      head: 'Access points',
      get: (ssid) =>
        aps()
          .filter((d) => ssid.apIds.includes(d.id))
          .map((d) => d.name)
          .join(', ') || '—',
      check: (_, text) =>
        listOf(text)
          .filter((t) => !aps().some((d) => d.name.toLowerCase() === t.toLowerCase()))
          .map((text) =>
            problem('not-a-choice', '', {
              text: text,
              choices: aps()
                .map((d) => d.name)
                .join(', '),
            }),
          ),
      commit: (row, text, session) =>
        put(
          row,
          session,
          'access points',
          (ssid) =>
            void (ssid.apIds = aps()
              .filter((d) => listOf(text).some((t) => t.toLowerCase() === d.name.toLowerCase()))
              .map((d) => d.id)),
        ),
    },
  ]
}
