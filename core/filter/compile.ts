// Question: which rules does a gateway need so that what is intended passes, and nothing else?
// Method: one rule for each pair of ends that the intents name, with all their services; what another rule of
// the list already lets through is left out.
// All of them accept, so that their order matters only for what is written down: rules that log come first,
// else it is that of the intents.
// Source: default deny with explicit permissions, as NIST SP 800-41 revision 1, section 4.1, recommends.
import { selectorKey, type PlanIndex } from '#core/queries'
import type { Intent, Rule, Selector } from '#core/schema'
import { subsumes } from './packet-ends'
import { isNothing, minus, servicesOf } from './services'

export interface GeneratedRule {
  readonly rule: Rule
  /** Intents that it serves. */
  readonly intentIds: readonly string[]
}

/** An intent between hosts of one network asks nothing of the gateway. */
const isInner = (index: PlanIndex, { from, to }: Intent): boolean => {
  const home = (selector: Selector) => {
    if (selector.kind === 'network') return selector.id
    if (selector.kind === 'device') return index.devices.get(selector.id)?.homeNetworkId
    return undefined
  }
  return home(from) !== undefined && home(from) === home(to)
}

/** The least list of accepting rules for a gateway whose defaults drop, each with the intents it serves. */
export function compileIntents(index: PlanIndex, intents: readonly Intent[]): GeneratedRule[] {
  const groups = new Map<
    string,
    { readonly from: Selector; readonly to: Selector; readonly members: Intent[] }
  >()
  for (const intent of intents) {
    if (isInner(index, intent) || intent.from.kind === 'gateway') continue
    const key = `${selectorKey(intent.from)} > ${selectorKey(intent.to)} ${intent.log} ${intent.when ?? ''}`
    const known = groups.get(key)
    if (known) known.members.push(intent)
    else groups.set(key, { from: intent.from, to: intent.to, members: [intent] })
  }
  const all = [...groups.values()].map(({ from, to, members }): GeneratedRule => {
    const everything = members.some((m) => m.services.length === 0)
    const services = everything ? [] : [...new Set(members.flatMap((m) => m.services))]
    const [first] = members as [Intent]
    return {
      rule: {
        id: `for-${first.id}`,
        chain: to.kind === 'gateway' ? 'input' : 'forward',
        action: 'accept',
        from,
        to,
        services,
        note: members
          .map((m) => m.note)
          .filter((n) => n !== '')
          .join('; ')
          .slice(0, 200),
        log: first.log,
        when: first.when,
      },
      intentIds: members.map((m) => m.id),
    }
  })
  const wider = (outer: GeneratedRule, inner: GeneratedRule) =>
    outer.rule.chain === inner.rule.chain &&
    (outer.rule.log || !inner.rule.log) &&
    (outer.rule.when === null || outer.rule.when === inner.rule.when) &&
    subsumes(index, outer.rule.from, inner.rule.from) &&
    (inner.rule.chain === 'input' || subsumes(index, outer.rule.to, inner.rule.to)) &&
    isNothing(
      minus(servicesOf(inner.rule.services, index.services), servicesOf(outer.rule.services, index.services)),
    )
  const least = all.flatMap((one, i) => {
    const by = all.findIndex((other, j) => j !== i && wider(other, one) && (!wider(one, other) || j < i))
    return by === -1
      ? [
          {
            ...one,
            intentIds: [
              ...one.intentIds,
              ...all.filter((other, j) => j !== i && wider(one, other)).flatMap((o) => o.intentIds),
            ],
          },
        ]
      : []
  })
  return [...least.filter((c) => c.rule.log), ...least.filter((c) => !c.rule.log)]
}
