import { signOf, type Plan, type Selector } from '#core/model'
import { problem, type Problem } from '#core/base'
import { usePlan } from '~/stores/plan'
import { namesIn } from '~/wording/reach'
import { checkChoice } from './columns'

/** The selectors a plan offers, by the words they are chosen by; words that two share carry their kind. */
function selectorsOf(plan: Plan): ReadonlyMap<string, Selector> {
  const names = namesIn(plan)
  const fixed = new Set(plan.networks.flatMap((n) => n.fixed.flatMap((f) => f.deviceId ?? [])))
  const all: Selector[] = [
    { kind: 'any' }, { kind: 'inside' }, { kind: 'internet' }, { kind: 'gateway' }, ...plan.networks.map((n): Selector => ({ kind: 'network', id: n.id })),
    ...plan.devices.filter((d) => fixed.has(d.id)).map((d): Selector => ({ kind: 'device', id: d.id })),
    ...plan.tunnels.flatMap((t): Selector[] => [{ kind: 'tunnel', id: t.id }, ...t.peers.map((p): Selector => ({ kind: 'peer', id: p.id }))]),
  ]
  const out = new Map<string, Selector>()
  for (const selector of all) {
    const words = names.selector(selector)
    out.set(out.has(words) ? `${words} (${selector.kind})` : words, selector)
  }
  return out
}

/** What a table's cell needs to choose selectors and services. */
export function useSelectors() {
  const plan = usePlan()
  const offered = computed(() => (plan.draft ? selectorsOf(plan.draft) : new Map<string, Selector>()))
  const words = (selector: Selector): string => [...offered.value].find(([, s]) => signOf(s) === signOf(selector))?.[0] ?? (selector.kind === 'prefix' ? selector.prefix : 'id' in selector ? `${selector.id}, gone` : selector.kind)
  const choices = (now: Selector) => [...new Set([...offered.value.keys(), words(now)])]
  const check = (now: Selector, text: string): readonly Problem[] => checkChoice(text, choices(now))
  const read = (text: string, now: Selector): Selector => offered.value.get(text) ?? now
  const services = computed(() => plan.draft?.services ?? [])
  const serviceWords = (ids: readonly string[]): string => (ids.length === 0 ? 'all' : ids.map((id) => services.value.find((s) => s.id === id)?.name ?? id).join(', '))
  const idOf = (text: string) => services.value.find((s) => [s.name.toLowerCase(), s.id.toLowerCase()].includes(text.toLowerCase()))?.id
  const parts = (text: string) => text.split(',').map((t) => t.trim()).filter((t) => t !== '')
  const checkServices = (text: string): readonly Problem[] => (text === 'all' ? [] : parts(text).filter((t) => idOf(t) === undefined).map((t) => problem('not-a-choice', '', { text: t, choices: services.value.map((s) => s.name).join(', ') })))
  const readServices = (text: string): string[] => (text === 'all' ? [] : parts(text).flatMap((t) => idOf(t) ?? []))
  return { words, choices, check, read, serviceWords, checkServices, readServices }
}
