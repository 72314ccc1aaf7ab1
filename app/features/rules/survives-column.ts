import { failableThings, isHost, RAIN_ID } from '#core/queries'
import type { Intent, Plan } from '#core/schema'
import { problem, refuse } from '#core/util'
import { usePlan } from '~/stores/plan'
import { idsNamed, reasons, type Column } from '~/ui/columns'

interface Named {
  readonly id: string
  readonly name: string
}

/** Rain, where there is a radio link, and nothing else is called so. */
const rainOf = (plan: Plan): Named[] =>
  plan.links.some(({ medium }) => medium.kind === 'radio') &&
  failableThings(plan).every(({ id }) => id !== RAIN_ID)
    ? [{ id: RAIN_ID, name: 'Heavy rain' }]
    : []

/** What an intent can be asked to survive: a line, a tunnel, a device that others depend on, or rain. */
export const survivable = (plan: Plan): Named[] => [
  ...plan.uplinks,
  ...plan.tunnels,
  ...plan.devices.filter((device) => !isHost(device) && device.kind !== 'cloud'),
  ...rainOf(plan),
]

const wordsOf = (plan: Plan | null, ids: readonly string[]): string =>
  ids.map((id) => (plan ? survivable(plan).find((thing) => thing.id === id)?.name : null) ?? id).join(', ') ||
  '—'

/** Which failures an intent must survive. */
export function useSurvivesColumn(): Column<Intent> {
  const plan = usePlan()
  const read = (text: string) =>
    plan.draft ? idsNamed(text, survivable(plan.draft)) : refuse(problem('no-plan', ''))
  return {
    key: 'survives',
    head: 'Survives failure of',
    wraps: true,
    get: ({ survives }) => wordsOf(plan.draft, survives),
    offers: () => (plan.draft ? survivable(plan.draft).map(({ name }) => name) : []),
    check: (_, text) => reasons(read(text)),
    commit: (row, text, session) => {
      const ids = read(text)
      if (!ids.ok) return
      plan.edit(`intent: survives ${text}`, session, (draft) => {
        const intent = draft.intents.find(({ id }) => id === row.id)
        if (intent) intent.survives = ids.value
      })
    },
  }
}
