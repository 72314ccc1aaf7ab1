// Question: which rules could go, or never get to what they name, or speak of nobody?
// Method: each rule by both families: what is idle by IPv4 may have work by IPv6, and is told only where it
// has none.
import { isPairRule, type Json, type PlanIndex, type Rule } from '#core/model'
import { anomaliesOf, type RuleVerdict } from '#core/filter'
import { ipv6ProjectionOf } from '#core/reachability'
import { draft, set, type Draft } from './finding'
import { nameOfEnd } from './names'

/** What a rule is good for by both families together. */
function together(four: RuleVerdict | null, six: RuleVerdict | null | undefined): RuleVerdict | null {
  if (six === undefined || four === null || six === null) return four && six === undefined ? four : null
  if (six.kind === 'unmet') return four
  if (four.kind === 'unmet') return six
  if (four.kind === 'works' || six.kind === 'works') {
    const parts = (v: RuleVerdict) => (v.kind === 'works' ? v.parts : null)
    const [first, second] = [parts(four), parts(six)]
    return {
      kind: 'works',
      parts: (first ?? second ?? []).filter(
        ({ id }) => !first || !second || second.some((other) => other.id === id),
      ),
    }
  }
  // Idle by one and to be spared by the other: it could go.
  return four.kind === 'redundant' ? four : six
}

const NONE: readonly never[] = []
/**
 * Rules that never match, services of rules that others decide first and otherwise, rules without which
 * nothing would change.
 */
export function shadowFindings(index: PlanIndex): Draft[] {
  const six = ipv6ProjectionOf(index)
  const sixth = six && anomaliesOf(index.of(six.plan), six.outside)
  return anomaliesOf(index, null).flatMap(({ compiled: { policy }, verdicts }, part) => {
    const places = new Map(policy.rules.map((rule, i) => [rule.id, i + 1]))
    const numbers = (rules: readonly Rule[]) =>
      rules
        .map((r) => places.get(r.id) ?? 0)
        .sort((a, b) => a - b)
        .join(', ')
    return policy.rules.flatMap((rule, i): readonly Draft[] => {
      const verdict = together(verdicts[i] ?? null, sixth ? (sixth[part]?.verdicts[i] ?? null) : undefined)
      if (!verdict || (verdict.kind === 'works' && verdict.parts.length === 0)) return NONE
      const [place, number] = [['policies', policy.deviceId, 'rules', rule.id], i + 1]
      if (verdict.kind === 'works') {
        return verdict.parts
          .filter(({ by }) => by.every((r) => r.action !== rule.action))
          .map(({ id, by }) => {
            const service = index.services.get(id)?.name ?? id
            return draft(
              'P03',
              'warning',
              [...place, 'services'],
              { number, service, by: numbers(by), key: id },
              {
                code: 'drop-service',
                values: { number, service },
                changes: [
                  set(
                    [...place, 'services'],
                    rule.services,
                    rule.services.filter((s) => s !== id),
                  ),
                ],
              },
            )
          })
      }
      const mend = {
        code: 'remove-rule',
        values: { number },
        changes: [{ kind: 'removed' as const, path: place, before: rule as unknown as Json, after: null }],
      }
      if (verdict.kind === 'unmet')
        return [
          draft(
            'P10',
            'note',
            place,
            { number, note: rule.note, end: verdict.end, who: nameOfEnd(index, rule[verdict.end]) },
            mend,
          ),
        ]
      if (verdict.kind === 'shadowed')
        return [draft('P02', 'warning', place, { number, note: rule.note, by: numbers(verdict.by) }, mend)]
      // What the default of a pair decides stands behind all rules, as the default of all does.
      const by = verdict.by.filter((r) => !isPairRule(r.id))
      return [
        draft(
          'P09',
          'note',
          place,
          {
            number,
            note: rule.note,
            by: numbers(by),
            byDefault: verdict.byDefault || by.length < verdict.by.length ? 'yes' : 'no',
          },
          mend,
        ),
      ]
    })
  })
}
