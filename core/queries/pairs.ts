// Question: what do a gateway's rules say, its defaults for pairs of ends among them?
// Method: each default is one more rule at the end of the list, for every service.
// Source: the order of engine and files: rules, then the pairs in their order, then the default of all.
import type { Policy, Rule, RuleId } from '#core/schema'

/** Begins the id of a rule that is a pair's default; no plan can hold such an id. */
const PAIR = 'pair:'
export const isPairRule = (ruleId: RuleId): boolean => ruleId.startsWith(PAIR)

/** A gateway's list with the defaults of its pairs as its last rules; itself where it has none. */
export const expandPairDefaults = (policy: Policy): Policy =>
  policy.pairs.length === 0
    ? policy
    : {
        ...policy,
        rules: [
          ...policy.rules,
          ...policy.pairs.map((pair): Rule => ({
            id: PAIR + pair.id,
            chain: 'forward',
            action: pair.action,
            from: pair.from,
            to: pair.to,
            services: [],
            note: 'default of a pair',
            log: false,
            when: null,
          })),
        ],
      }
