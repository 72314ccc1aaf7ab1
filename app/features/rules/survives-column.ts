import { isHost } from '#core/queries'
import type { Intent, Plan } from '#core/schema'
import { ok, problem, refuse, type Result } from '#core/util'
import { usePlan } from '~/stores/plan'
import { partsIn, reasons, type Column } from '~/ui/columns'

interface Named {
  readonly id: string
  readonly name: string
}

/** What an intent can be asked to survive: a line, a tunnel, or a device that others depend on. */
const things = ({ uplinks, tunnels, devices }: Plan): Named[] => [
  ...uplinks,
  ...tunnels,
  ...devices.filter((device) => !isHost(device) && device.kind !== 'cloud'),
]

const sameName = (first: string, second: string): boolean => first.toLowerCase() === second.toLowerCase()

/** Ids of what a text names, between commas. Problems: not-a-choice with the names there are. */
function readThings(plan: Plan, text: string): Result<string[]> {
  const all = things(plan)
  const wanted = partsIn(text)
  const unknown = wanted.find((part) => !all.some(({ name }) => sameName(name, part)))
  if (unknown !== undefined)
    return refuse(
      problem('not-a-choice', '', { text: unknown, choices: all.map(({ name }) => name).join(', ') }),
    )
  return ok(wanted.flatMap((part) => all.find(({ name }) => sameName(name, part))?.id ?? []))
}

const wordsOf = (plan: Plan | null, ids: readonly string[]): string =>
  ids.map((id) => (plan ? things(plan).find((thing) => thing.id === id)?.name : null) ?? id).join(', ') || '—'

/** Which failures an intent must survive. */
export function useSurvivesColumn(): Column<Intent> {
  const plan = usePlan()
  const read = (text: string) => (plan.draft ? readThings(plan.draft, text) : refuse(problem('no-plan', '')))
  return {
    key: 'survives',
    head: 'Survives failure of',
    wraps: true,
    get: ({ survives }) => wordsOf(plan.draft, survives),
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
