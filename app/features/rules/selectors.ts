import { freshId } from '#core/edit'
import { selectorKey } from '#core/queries'
import type { Plan, Selector, Service } from '#core/schema'
import { readEntries, registered } from '#core/filter'
import { problem, type Problem } from '#core/util'
import { usePlan, type PlanDraft } from '~/stores/plan'
import { namesIn } from '~/wording/reach'
import { checkChoice } from '~/ui/columns'
import { useRegistry } from './registry'

/** The selectors a plan offers, by the words they are chosen by; words that two share carry their kind. */
function selectorsOf(plan: Plan): ReadonlyMap<string, Selector> {
  const names = namesIn(plan)
  const fixed = new Set(plan.networks.flatMap((n) => n.fixed.flatMap((f) => f.deviceId ?? [])))
  const all: Selector[] = [
    { kind: 'any' },
    { kind: 'inside' },
    { kind: 'internet' },
    { kind: 'gateway' },
    ...plan.groups.map((g): Selector => ({ kind: 'group', id: g.id })),
    ...plan.networks.map((n): Selector => ({ kind: 'network', id: n.id })),
    ...plan.devices.filter((d) => fixed.has(d.id)).map((d): Selector => ({ kind: 'device', id: d.id })),
    ...plan.tunnels.flatMap((tunnel): Selector[] => [
      { kind: 'tunnel', id: tunnel.id },
      ...tunnel.peers.map((p): Selector => ({ kind: 'peer', id: p.id })),
    ]),
  ]
  const out = new Map<string, Selector>()
  for (const selector of all) {
    const words = names.selector(selector)
    out.set(out.has(words) ? `${words} (${selector.kind})` : words, selector)
  }
  return out
}

/** A selector that names nothing in the plan. */
function goneWords(selector: Selector): string {
  if (selector.kind === 'prefix') return selector.prefix
  return 'id' in selector ? `${selector.id}, gone` : selector.kind
}

/** What a table's cell needs to choose selectors and services. */
export function useSelectors() {
  const plan = usePlan()
  const offered = computed(() => (plan.draft ? selectorsOf(plan.draft) : new Map<string, Selector>()))
  const words = (selector: Selector): string =>
    [...offered.value].find(([, s]) => selectorKey(s) === selectorKey(selector))?.[0] ?? goneWords(selector)
  const choices = (now: Selector) => [...new Set([...offered.value.keys(), words(now)])]
  const check = (now: Selector, text: string): readonly Problem[] => checkChoice(text, choices(now))
  const read = (text: string, now: Selector): Selector => offered.value.get(text) ?? now
  const services = computed(() => plan.draft?.services ?? [])
  const serviceWords = (ids: readonly string[]): string =>
    ids.length === 0 ? 'all' : ids.map((id) => services.value.find((s) => s.id === id)?.name ?? id).join(', ')
  const idOf = (text: string) =>
    services.value.find((s) => [s.name.toLowerCase(), s.id.toLowerCase()].includes(text.toLowerCase()))?.id
  const parts = (text: string) =>
    text
      .split(',')
      .map((t) => t.trim())
      .filter((t) => t !== '')
  // What the plan has no service for yet may be ports, or a name of the registry: then it gets one.
  const registry = useRegistry()
  const madeOf = (text: string): Omit<Service, 'id'> | null => {
    const ports = readEntries(text)
    const entries = ports.ok ? ports.value : registry.value && registered(registry.value, text)
    return entries && { name: text, entries }
  }
  const checkServices = (text: string): readonly Problem[] =>
    text === 'all'
      ? []
      : parts(text)
          .filter((t) => idOf(t) === undefined && madeOf(t) === null)
          .map((part) =>
            problem('not-a-service', '', { text: part, ready: registry.value === null ? 'no' : 'yes' }),
          )
  const readServices = (text: string, draft: PlanDraft): string[] =>
    text === 'all'
      ? []
      : parts(text).flatMap((part) => {
          const [known, made] = [idOf(part), madeOf(part)]
          if (known !== undefined || made === null) return known ?? []
          const id = freshId(draft.services, part.toLowerCase().replaceAll(/[^a-z0-9]+/g, '-'))
          draft.services.push({ id, ...made } as PlanDraft['services'][number])
          return [id]
        })
  const named = (text: string): Selector | undefined => offered.value.get(text)
  return { words, choices, check, read, named, serviceWords, checkServices, readServices }
}
