import type { Intent, Rule } from '#core/model'
import { checkChoice, type Column } from './columns'
import { useSelectors } from './selectors'
import { usePlan, type PlanDraft } from '~/stores/plan'

const SELF = 'the gateway'
/** What a rule does, and whether it is written to the log. */
const ACTIONS = ['accept', 'drop', 'reject', 'accept, log', 'drop, log', 'reject, log'] as const

function useRuleEdit(deviceId: () => string) {
  const plan = usePlan()
  return (row: Rule, session: string, words: string, recipe: (r: PlanDraft['policies'][number]['rules'][number]) => void) =>
    plan.edit(`rule: ${words}`, session, (draft) => {
      const rule = draft.policies.find((p) => p.deviceId === deviceId())?.rules.find((r) => r.id === row.id)
      if (rule) recipe(rule)
    })
}

/** The ordered rules of one gateway. */
export function useRuleColumns(deviceId: () => string): readonly Column<Rule>[] {
  const plan = usePlan()
  const pick = useSelectors()
  const put = useRuleEdit(deviceId)
  const number = (row: Rule) => (plan.draft?.policies.find((p) => p.deviceId === deviceId())?.rules.findIndex((r) => r.id === row.id) ?? -1) + 1
  return [
    { key: 'n', head: '', num: true, mono: true, width: '28px', get: (r) => String(number(r)) },
    { key: 'action', head: 'Does', width: '62px', get: (r) => (r.log ? `${r.action}, log` : r.action), choices: () => ACTIONS, check: (_, text) => checkChoice(text, ACTIONS), commit: (row, text, session) => put(row, session, text, (r) => Object.assign(r, { action: text.split(',')[0], log: text.endsWith('log') })) },
    { key: 'from', head: 'From', get: (r) => pick.words(r.from), choices: (r) => pick.choices(r.from), check: (r, text) => pick.check(r.from, text), commit: (row, text, session) => put(row, session, `from ${text}`, (r) => void (r.from = pick.read(text, row.from) as typeof r.from)) },
    {
      // A rule for what is meant for the gateway itself is of its own chain.
      key: 'to', head: 'To', get: (r) => (r.chain === 'input' ? SELF : pick.words(r.to)), choices: (r) => [...new Set([SELF, ...pick.choices(r.to)])], check: (r, text) => (text === SELF ? [] : pick.check(r.to, text)),
      commit: (row, text, session) => put(row, session, `to ${text}`, (r) => Object.assign(r, text === SELF ? { chain: 'input', to: { kind: 'gateway' } } : { chain: 'forward', to: pick.read(text, row.to) })),
    },
    { key: 'services', head: 'Services', get: (r) => pick.serviceWords(r.services), check: (_, text) => pick.checkServices(text), commit: (row, text, session) => put(row, session, text, (r) => void (r.services = pick.readServices(text))) },
  ]
}

/** The note of a rule, which stands at the end of its row. */
export function useRuleNote(deviceId: () => string): Column<Rule> {
  const put = useRuleEdit(deviceId)
  return { key: 'note', head: 'Note', get: (r) => r.note || '—', edit: (r) => r.note, check: () => [], commit: (row, text, session) => put(row, session, 'note', (r) => void (r.note = text.slice(0, 200))) }
}

/** What must get through, a row an intent. */
const YES_NO = ['yes', 'no'] as const

export function useIntentColumns(): readonly Column<Intent>[] {
  const plan = usePlan()
  const pick = useSelectors()
  const put = (row: Intent, session: string, words: string, recipe: (i: PlanDraft['intents'][number]) => void) =>
    plan.edit(`intent: ${words}`, session, (draft) => {
      const intent = draft.intents.find((i) => i.id === row.id)
      if (intent) recipe(intent)
    })
  return [
    { key: 'note', head: 'Intent', width: '230px', strong: true, wraps: true, get: (i) => i.note || i.id, edit: (i) => i.note, check: () => [], commit: (row, text, session) => put(row, session, 'words', (i) => void (i.note = text.slice(0, 200))) },
    { key: 'from', head: 'From', wraps: true, get: (i) => pick.words(i.from), choices: (i) => pick.choices(i.from), check: (i, text) => pick.check(i.from, text), commit: (row, text, session) => put(row, session, `from ${text}`, (i) => void (i.from = pick.read(text, row.from) as typeof i.from)) },
    { key: 'to', head: 'To', wraps: true, get: (i) => pick.words(i.to), choices: (i) => pick.choices(i.to), check: (i, text) => pick.check(i.to, text), commit: (row, text, session) => put(row, session, `to ${text}`, (i) => void (i.to = pick.read(text, row.to) as typeof i.to)) },
    { key: 'services', head: 'Services', get: (i) => pick.serviceWords(i.services), check: (_, text) => pick.checkServices(text), commit: (row, text, session) => put(row, session, text, (i) => void (i.services = pick.readServices(text))) },
    { key: 'log', head: 'Logged', width: '56px', get: (i) => (i.log ? 'yes' : 'no'), choices: () => YES_NO, check: (_, text) => checkChoice(text, YES_NO), commit: (row, text, session) => put(row, session, text === 'yes' ? 'logged' : 'not logged', (i) => void (i.log = text === 'yes')) },
  ]
}
