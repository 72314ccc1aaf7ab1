import { freshId } from '#core/edit'
import type { Plan, Policy, Rule, Selector, NetworkId } from '#core/schema'
import { usePlan, type PlanDraft } from '~/stores/plan'
import { count } from '~/wording/findings'

// What the buttons of the Rules sheet do to the plan, each as one step to undo.

type Lists = Pick<PlanDraft, 'intents' | 'schedules' | 'services' | 'groups'>

const OFFICE = { name: 'Office hours', days: [1, 2, 3, 4, 5], from: '08:00', to: '18:00' }
const NEW_POLICY: Omit<Policy, 'deviceId'> = { forward: 'drop', input: 'drop', rules: [], pairs: [] }

/** Lists of the plan that stand beside the rules. */
export function usePolicyLists() {
  const plan = usePlan()
  const remove = (list: keyof Lists, words: string, id: string) =>
    plan.edit(words, '', (draft) => {
      const items: { id: string }[] = draft[list]
      items.splice(
        items.findIndex((item) => item.id === id),
        1,
      )
    })
  const addIntent = (from: Selector & { kind: 'network' }) =>
    plan.edit('intent added', '', ({ intents }) => {
      const id = freshId(intents, 'intent')
      const blank = { services: [], survives: [], log: false, when: null, note: 'New intent' }
      intents.push({ id, from: { ...from }, to: { kind: 'internet' }, ...blank })
    })
  const addSchedule = () =>
    plan.edit('schedule added', '', ({ schedules }) => {
      const name = schedules.length === 0 ? OFFICE.name : `Schedule ${schedules.length + 1}`
      schedules.push({ id: freshId(schedules, 'schedule'), ...structuredClone(OFFICE), name })
    })
  const addService = () =>
    plan.edit('service added', '', ({ services }) => {
      const name = `Service ${services.length + 1}`
      const entries = [{ proto: 'tcp' as const, from: 8080, to: 8080 }]
      services.push({ id: freshId(services, 'service'), name, entries })
    })
  const addGroup = () =>
    plan.edit('group added', '', ({ groups, networks }) => {
      const members = networks.slice(0, 1).map((n) => ({ kind: 'network' as const, id: n.id }))
      groups.push({ id: freshId(groups, 'group'), name: `Group ${groups.length + 1}`, members })
    })
  return {
    addIntent,
    addSchedule,
    addService,
    addGroup,
    removeIntent: (id: string) => remove('intents', 'intent removed', id),
    removeSchedule: (id: string) => remove('schedules', 'schedule removed', id),
    removeService: (id: string) => remove('services', 'service removed', id),
    removeGroup: (id: string) => remove('groups', 'group removed', id),
  }
}

/** The rules of one gateway, and the defaults of pairs behind them. */
export function usePolicyEdits(deviceId: () => string) {
  const plan = usePlan()
  const edit = (words: string, recipe: (policy: PlanDraft['policies'][number]) => void) =>
    plan.edit(words, '', (draft) => {
      const policy = draft.policies.find((p) => p.deviceId === deviceId())
      if (policy) recipe(policy)
    })
  /** Places count from 1; one beyond the list is its end. */
  const moveTo = (moved: Rule, place: number) =>
    edit(`rule moved to place ${place}`, ({ rules }) => {
      const [rule] = rules.splice(
        rules.findIndex((r) => r.id === moved.id),
        1,
      )
      if (rule) rules.splice(Math.max(0, Math.min(rules.length, place - 1)), 0, rule)
    })
  const remove = (gone: Rule) =>
    edit('rule removed', ({ rules }) => {
      rules.splice(
        rules.findIndex((r) => r.id === gone.id),
        1,
      )
    })
  const begin = () =>
    plan.edit(
      'rules begun',
      '',
      (draft) =>
        void draft.policies.push({
          ...(structuredClone(NEW_POLICY) as PlanDraft['policies'][number]),
          deviceId: deviceId(),
        }),
    )
  const add = (networkId: NetworkId) =>
    edit('rule added', ({ rules }) => {
      const blank = { services: [], note: '', log: false, when: null }
      rules.push({
        id: freshId(rules, 'rule'),
        chain: 'forward',
        action: 'accept',
        from: { kind: 'network', id: networkId },
        to: { kind: 'internet' },
        ...blank,
      })
    })
  const addPair = () =>
    edit('default of a pair added', ({ pairs, forward }) => {
      const action = forward === 'drop' ? 'accept' : 'drop'
      pairs.push({ id: freshId(pairs, 'pair'), from: { kind: 'inside' }, to: { kind: 'internet' }, action })
    })
  const removePair = (id: string) =>
    edit('default of a pair removed', ({ pairs }) => {
      pairs.splice(
        pairs.findIndex((p) => p.id === id),
        1,
      )
    })
  const setDefault = (chain: 'forward' | 'input', action: 'accept' | 'drop') =>
    edit(`default of ${chain}`, (policy) => void (policy[chain] = action))
  return { moveTo, remove, begin, add, addPair, removePair, setDefault }
}

type Ends = { readonly from: Selector; readonly to: Selector }
const named = (parts: readonly string[]): string => parts.filter((t) => t !== '').join(', ')

/** Rules and intents that something names, in words; nothing where there are none. */
function usersIn(plan: Plan, names: (item: Plan['intents'][number] | Rule) => boolean): string {
  const rules = plan.policies.flatMap((p) => p.rules).filter(names).length
  const intents = plan.intents.filter(names).length
  return rules + intents === 0 ? '' : `${count(rules, 'rule')}, ${count(intents, 'intent')}`
}

export const scheduleUse = (plan: Plan, id: string): string => usersIn(plan, (x) => x.when === id)

export function serviceUse(plan: Plan, id: string): string {
  const routed = plan.policyRoutes.some((r) => r.services.includes(id))
  return named([usersIn(plan, (x) => x.services.includes(id)), routed ? 'a policy route' : ''])
}

export function groupUse(plan: Plan, id: string): string {
  const isOf = (selector: Selector) => selector.kind === 'group' && selector.id === id
  const namesIt = ({ from, to }: Ends) => isOf(from) || isOf(to)
  const defaults = plan.policies.flatMap((p) => p.pairs).filter(namesIt).length
  const routed = plan.policyRoutes.some((r) => isOf(r.from))
  return named([
    usersIn(plan, namesIt),
    defaults > 0 ? count(defaults, 'default') : '',
    routed ? 'a policy route' : '',
  ])
}
