import { freshId, reservationFor } from '#core/edit'
import { selectorKey } from '#core/queries'
import type { Device, DeviceId, Plan, Selector, Service } from '#core/schema'
import { readEntries, registered } from '#core/filter'
import { problem, type Problem } from '#core/util'
import { usePlan, type PlanDraft } from '~/stores/plan'
import { namesIn } from '~/wording/names'
import { checkChoice, partsIn } from '~/ui/columns'
import { servicesNamed } from '~/wording/cells'
import { useRegistry } from './registry'

/** The selectors a plan offers, by the words they are chosen by; words that two share carry their kind. */
function selectorsOf(plan: Plan): ReadonlyMap<string, Selector> {
  const names = namesIn(plan)
  const fixed = new Set(plan.networks.flatMap((n) => n.fixed.flatMap((f) => f.deviceId ?? [])))
  /** Whatever has an address for good, or gets one as it is named. */
  const isNameable = ({ id, kind, count, homeNetworkId }: Device) =>
    fixed.has(id) || (kind !== 'gateway' && count === 1 && homeNetworkId !== null)
  const all: Selector[] = [
    { kind: 'any' },
    { kind: 'inside' },
    { kind: 'internet' },
    { kind: 'gateway' },
    ...plan.groups.map((g): Selector => ({ kind: 'group', id: g.id })),
    ...plan.networks.map((n): Selector => ({ kind: 'network', id: n.id })),
    ...plan.devices.filter(isNameable).map((d): Selector => ({ kind: 'device', id: d.id })),
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

/** A rule names a host by its address: one that takes any lease is given an address for good. */
export function reserveFor(draft: PlanDraft, deviceId: DeviceId): void {
  const reservation = reservationFor(draft as Plan, deviceId)
  const home = draft.networks.find(({ id }) => id === reservation?.home)
  if (reservation && home) home.fixed.push({ ...reservation.made })
}

/** Refuses a host that no address can be reserved for. */
function unreachable(plan: Plan, selector: Selector | undefined): readonly Problem[] {
  if (selector?.kind !== 'device') return []
  const hasAddress = plan.networks.some(({ fixed }) => fixed.some(({ deviceId }) => deviceId === selector.id))
  if (hasAddress || reservationFor(plan, selector.id)) return []
  const home = plan.devices.find(({ id }) => id === selector.id)?.homeNetworkId
  return [problem('no-room', '', { block: plan.networks.find(({ id }) => id === home)?.subnet ?? '' })]
}

/** What a table's cell needs to choose selectors and services. */
export function useSelectors() {
  const plan = usePlan()
  const offered = computed(() => (plan.draft ? selectorsOf(plan.draft) : new Map<string, Selector>()))
  const words = (selector: Selector): string =>
    [...offered.value].find(([, s]) => selectorKey(s) === selectorKey(selector))?.[0] ?? goneWords(selector)
  const choices = (now: Selector) => [...new Set([...offered.value.keys(), words(now)])]
  const check = (now: Selector, text: string): readonly Problem[] => {
    const wrong = checkChoice(text, choices(now))
    return wrong.length > 0 || !plan.draft ? wrong : unreachable(plan.draft, offered.value.get(text))
  }
  /** What a text names; a host without an address for good gets one reserved, in the same step. */
  function read(text: string, now: Selector, draft: PlanDraft): Selector {
    const selector = offered.value.get(text) ?? now
    if (selector.kind === 'device') reserveFor(draft, selector.id)
    return selector
  }
  const services = computed(() => plan.draft?.services ?? [])
  const serviceWords = (ids: readonly string[]): string => servicesNamed(ids, services.value)
  const idOf = (text: string) =>
    services.value.find((s) => [s.name.toLowerCase(), s.id.toLowerCase()].includes(text.toLowerCase()))?.id
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
      : partsIn(text)
          .filter((t) => idOf(t) === undefined && madeOf(t) === null)
          .map((part) =>
            problem('not-a-service', '', { text: part, ready: registry.value === null ? 'no' : 'yes' }),
          )
  const readServices = (text: string, draft: PlanDraft): string[] =>
    text === 'all'
      ? []
      : partsIn(text).flatMap((part) => {
          const [known, made] = [idOf(part), madeOf(part)]
          if (known !== undefined || made === null) return known ?? []
          const id = freshId(draft.services, part.toLowerCase().replaceAll(/[^a-z0-9]+/g, '-'))
          draft.services.push({ id, ...made } as PlanDraft['services'][number])
          return [id]
        })
  const names = () => [...offered.value.keys()]
  const serviceNames = () => services.value.map(({ name }) => name)
  const named = (text: string): Selector | undefined => offered.value.get(text)
  return {
    words,
    choices,
    check,
    read,
    named,
    names,
    serviceNames,
    serviceWords,
    checkServices,
    readServices,
  }
}
