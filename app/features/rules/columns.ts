import type { Group, Intent, PairDefault, Rule, Schedule, Selector, Service } from '#core/schema'
import { parsePrefix4, parsePrefix6 } from '#core/address'
import { readEntries, writeEntries } from '#core/filter'
import { orNull, problem } from '#core/util'
import { checkChoice, checkName, partsIn, reasons, type Column, type Put } from '~/ui/columns'
import { DAYS, daysTyped, dayWords, HALF_HOURS, readClock, readDays } from '~/ui/days'
import { reserveFor, useSelectors } from './selectors'
import { usePlan, type PlanDraft } from '~/stores/plan'

const SELF = 'the gateway'
/** What a rule does, and whether it is written to the log. */
const ACTIONS = ['accept', 'drop', 'reject', 'accept, log', 'drop, log', 'reject, log'] as const

function useRuleEdit(deviceId: () => string) {
  const plan = usePlan()
  return (
    row: Rule,
    session: string,
    words: string,
    recipe: (r: PlanDraft['policies'][number]['rules'][number], draft: PlanDraft) => void,
  ) =>
    plan.edit(`rule: ${words}`, session, (draft) => {
      const rule = draft.policies.find((p) => p.deviceId === deviceId())?.rules.find((r) => r.id === row.id)
      if (rule) recipe(rule, draft)
    })
}

type End = 'from' | 'to'
interface Ends {
  from: Selector
  to: Selector
}

/** Who: one end of what a row says. */
function endColumn<Row extends Readonly<Ends>, Item>(
  pick: ReturnType<typeof useSelectors>,
  put: Put<Row, Item>,
  key: End,
  wraps = false,
): Column<Row> {
  return {
    key,
    head: key === 'from' ? 'From' : 'To',
    wraps,
    get: (row) => pick.words(row[key]),
    choices: (row) => pick.choices(row[key]),
    check: (row, text) => pick.check(row[key], text),
    commit: (row, text, session) =>
      put(row, session, `${key} ${text}`, (item, draft) =>
        Object.assign(item as object, { [key]: pick.read(text, row[key], draft) }),
      ),
  }
}

/** The ordered rules of one gateway. */
export function useRuleColumns(deviceId: () => string): readonly Column<Rule>[] {
  const plan = usePlan()
  const pick = useSelectors()
  const put = useRuleEdit(deviceId)
  const number = (row: Rule) =>
    (plan.draft?.policies.find((p) => p.deviceId === deviceId())?.rules.findIndex((r) => r.id === row.id) ??
      -1) + 1
  return [
    { key: 'n', head: '', num: true, mono: true, width: '28px', get: (r) => String(number(r)) },
    {
      key: 'action',
      head: 'Action',
      width: '62px',
      get: (r) => (r.log ? `${r.action}, log` : r.action),
      choices: () => ACTIONS,
      check: (_, text) => checkChoice(text, ACTIONS),
      commit: (row, text, session) =>
        put(row, session, text, (rule) =>
          Object.assign(rule, { action: text.split(',')[0], log: text.endsWith('log') }),
        ),
    },
    endColumn(pick, put, 'from'),
    {
      // A rule for what is meant for the gateway itself is of its own chain.
      key: 'to',
      head: 'To',
      get: (r) => (r.chain === 'input' ? SELF : pick.words(r.to)),
      choices: (r) => [...new Set([SELF, ...pick.choices(r.to)])],
      check: (r, text) => (text === SELF ? [] : pick.check(r.to, text)),
      commit: (row, text, session) =>
        put(row, session, `to ${text}`, (rule, draft) =>
          Object.assign(
            rule,
            text === SELF
              ? { chain: 'input', to: { kind: 'gateway' } }
              : { chain: 'forward', to: pick.read(text, row.to, draft) },
          ),
        ),
    },
    {
      key: 'services',
      head: 'Services',
      wraps: true,
      get: (r) => pick.serviceWords(r.services),
      offers: pick.serviceNames,
      check: (_, text) => pick.checkServices(text),
      commit: (row, text, session) =>
        put(row, session, text, (r, draft) => void (r.services = pick.readServices(text, draft))),
    },
  ]
}

const ALWAYS = 'always'
/** When a rule is there, or an intent meant; shown where there are schedules at all. */
function whenColumn<T extends { readonly id: string; readonly when: string | null }>(
  put: (row: T, session: string, words: string, recipe: (it: { when: string | null }) => void) => void,
): () => readonly Column<T>[] {
  const plan = usePlan()
  const schedules = () => plan.draft?.schedules ?? []
  const words = (id: string | null) =>
    id === null ? ALWAYS : (schedules().find((s) => s.id === id)?.name ?? id)
  const choices = () => [ALWAYS, ...schedules().map((s) => s.name)]
  const column: Column<T> = {
    key: 'when',
    head: 'When',
    width: '104px',
    get: (r) => words(r.when),
    choices,
    check: (_, text) => checkChoice(text, choices()),
    commit: (row, text, session) =>
      put(row, session, text, (it) => void (it.when = schedules().find((s) => s.name === text)?.id ?? null)),
  }
  return () => (schedules().length > 0 ? [column] : [])
}
export const useRuleWhen = (deviceId: () => string) => whenColumn<Rule>(useRuleEdit(deviceId))
export const useIntentWhen = () => whenColumn<Intent>(useIntentEdit())

export function useServiceColumns(): readonly Column<Service>[] {
  const plan = usePlan()
  const put = (
    row: Service,
    session: string,
    words: string,
    recipe: (s: PlanDraft['services'][number]) => void,
  ) =>
    plan.edit(`service: ${words}`, session, (draft) => {
      const service = draft.services.find((s) => s.id === row.id)
      if (service) recipe(service)
    })
  return [
    {
      key: 'name',
      head: 'Service',
      strong: true,
      get: (s) => s.name,
      check: (_, text) => checkName(text),
      commit: (row, text, session) => put(row, session, `named ${text}`, (s) => void (s.name = text)),
    },
    {
      key: 'entries',
      head: 'Ports',
      mono: true,
      get: (s) => writeEntries(s.entries),
      check: (_, text) => reasons(readEntries(text)),
      commit: (row, text, session) =>
        put(row, session, text, (service) => {
          const read = readEntries(text)
          if (read.ok) service.entries = structuredClone(read.value) as typeof service.entries
        }),
    },
  ]
}

/** Groups: members by the words they are chosen by, with commas between; a prefix as it is. */
export function useGroupColumns(): readonly Column<Group>[] {
  const plan = usePlan()
  const pick = useSelectors()
  const put = (
    row: Group,
    session: string,
    words: string,
    recipe: (g: PlanDraft['groups'][number], draft: PlanDraft) => void,
  ) =>
    plan.edit(`group: ${words}`, session, (draft) => {
      const group = draft.groups.find((g) => g.id === row.id)
      if (group) recipe(group, draft)
    })
  const memberOf = (text: string): Group['members'][number] | null => {
    if (parsePrefix4(text).ok || parsePrefix6(text).ok) return { kind: 'prefix', prefix: text }
    const selector = pick.named(text)
    return selector && selector.kind !== 'group' ? selector : null
  }
  return [
    {
      key: 'name',
      head: 'Group',
      strong: true,
      get: (g) => g.name,
      check: (_, text) => checkName(text),
      commit: (row, text, session) => put(row, session, `named ${text}`, (g) => void (g.name = text)),
    },
    {
      key: 'members',
      head: 'Members',
      wraps: true,
      get: (g) => g.members.map(pick.words).join(', ') || '—',
      edit: (g) => g.members.map(pick.words).join(', '),
      offers: () => pick.names().filter((name) => memberOf(name) !== null),
      check: (_, text) =>
        partsIn(text)
          .filter((t) => memberOf(t) === null)
          .map((t) => problem('not-a-member', '', { text: t })),
      commit: (row, text, session) =>
        put(row, session, text, (group, draft) => {
          const members = partsIn(text).flatMap((part) => memberOf(part) ?? [])
          for (const member of members) if (member.kind === 'device') reserveFor(draft, member.id)
          group.members = structuredClone(members) as typeof group.members
        }),
    },
  ]
}

/** What happens between two ends that no rule names, in order. */
export function usePairColumns(deviceId: () => string): readonly Column<PairDefault>[] {
  const plan = usePlan()
  const pick = useSelectors()
  const put = (
    row: PairDefault,
    session: string,
    words: string,
    recipe: (p: PlanDraft['policies'][number]['pairs'][number], draft: PlanDraft) => void,
  ) =>
    plan.edit(`default of a pair: ${words}`, session, (draft) => {
      const pair = draft.policies.find((p) => p.deviceId === deviceId())?.pairs.find((p) => p.id === row.id)
      if (pair) recipe(pair, draft)
    })
  return [
    endColumn(pick, put, 'from'),
    endColumn(pick, put, 'to'),
    {
      key: 'action',
      head: 'What no rule names',
      width: '180px',
      get: (p) => p.action,
      choices: () => ['accept', 'drop'],
      check: (_, text) => checkChoice(text, ['accept', 'drop']),
      commit: (row, text, session) =>
        put(row, session, text, (p) => void (p.action = text === 'accept' ? 'accept' : 'drop')),
    },
  ]
}

export function useScheduleColumns(): readonly Column<Schedule>[] {
  const plan = usePlan()
  const put = (
    row: Schedule,
    session: string,
    words: string,
    recipe: (s: PlanDraft['schedules'][number]) => void,
  ) =>
    plan.edit(`schedule: ${words}`, session, (draft) => {
      const schedule = draft.schedules.find((s) => s.id === row.id)
      if (schedule) recipe(schedule)
    })
  const time = (key: 'from' | 'to', head: string): Column<Schedule> => ({
    key,
    head,
    mono: true,
    width: '110px',
    get: (s) => s[key],
    offers: () => HALF_HOURS,
    offersOne: true,
    check: (_, text) => reasons(readClock(text)),
    commit: (row, text, session) => put(row, session, `${head} ${text}`, (s) => void (s[key] = text)),
  })
  return [
    {
      key: 'name',
      head: 'Schedule',
      strong: true,
      get: (s) => s.name,
      check: (_, text) => checkName(text),
      commit: (row, text, session) => put(row, session, `named ${text}`, (s) => void (s.name = text)),
    },
    {
      key: 'days',
      head: 'Days',
      get: (s) => dayWords(s.days),
      edit: (s) => daysTyped(s.days),
      offers: () => DAYS,
      check: (_, text) => reasons(readDays(text)),
      commit: (row, text, session) =>
        put(row, session, text, (s) => void (s.days = orNull(readDays(text)) ?? s.days)),
    },
    time('from', 'From'),
    time('to', 'Until'),
  ]
}

/** The note of a rule, which stands at the end of its row. */
export function useRuleNote(deviceId: () => string) {
  const put = useRuleEdit(deviceId)
  return (row: Rule, text: string) => put(row, '', 'note', (r) => void (r.note = text.slice(0, 200)))
}

/** What must get through, a row an intent. */
const YES_NO = ['yes', 'no'] as const

function useIntentEdit() {
  const plan = usePlan()
  return (
    row: Intent,
    session: string,
    words: string,
    recipe: (i: PlanDraft['intents'][number], draft: PlanDraft) => void,
  ) =>
    plan.edit(`intent: ${words}`, session, (draft) => {
      const intent = draft.intents.find((i) => i.id === row.id)
      if (intent) recipe(intent, draft)
    })
}

export function useIntentColumns(): readonly Column<Intent>[] {
  const pick = useSelectors()
  const put = useIntentEdit()
  return [
    {
      key: 'note',
      head: 'Intent',
      width: '230px',
      strong: true,
      wraps: true,
      get: (i) => i.note || i.id,
      edit: (i) => i.note,
      check: () => [],
      commit: (row, text, session) => put(row, session, 'words', (i) => void (i.note = text.slice(0, 200))),
    },
    endColumn(pick, put, 'from', true),
    endColumn(pick, put, 'to', true),
    {
      key: 'services',
      head: 'Services',
      get: (i) => pick.serviceWords(i.services),
      offers: pick.serviceNames,
      check: (_, text) => pick.checkServices(text),
      commit: (row, text, session) =>
        put(row, session, text, (i, draft) => void (i.services = pick.readServices(text, draft))),
    },
    {
      key: 'log',
      head: 'Logged',
      width: '56px',
      get: (i) => (i.log ? 'yes' : 'no'),
      choices: () => YES_NO,
      check: (_, text) => checkChoice(text, YES_NO),
      commit: (row, text, session) =>
        put(row, session, text === 'yes' ? 'logged' : 'not logged', (i) => void (i.log = text === 'yes')),
    },
  ]
}
