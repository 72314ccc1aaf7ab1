// Question: do the two ends of each IPsec connection fit, and is what they use still advised?
import { adviceFor, termsOf, unknownIn } from '#core/ipsec'
import type { PlanIndex } from '#core/model'
import { draft, type Draft, type Finding } from './finding'

/** Findings of IPsec parameter sheets. */
export function checkIpsec(index: PlanIndex): Finding[] {
  return index.plan.ipsec
    .flatMap((link): Draft[] => {
      const place = ['ipsec', link.id]
      const fits = termsOf(link).disagreements.map((disagreement) =>
        draft('V15', 'blocker', place, {
          name: link.name,
          kind: disagreement.kind,
          what: disagreement.kind === 'no-common' ? disagreement.what : '',
          use: disagreement.kind === 'no-common' ? disagreement.use : '',
          ours: disagreement.ours,
          theirs: disagreement.theirs,
          key: `${disagreement.kind} ${disagreement.kind === 'no-common' ? `${disagreement.use} ${disagreement.what}` : ''}`,
        }),
      )
      const suites = [link.ours, link.theirs].flatMap((end) => [
        { suite: end.ike, use: 'ike' as const },
        { suite: end.esp, use: 'esp' as const },
      ])
      const advice = suites.flatMap(({ suite, use }) => adviceFor(suite, use))
      const of = (standing: 'must-not' | 'should-not') =>
        [...new Set(advice.filter((a) => a.standing === standing).map((a) => a.name))].join(', ')
      const unknown = [...new Set(suites.flatMap(({ suite }) => unknownIn(suite)))].join(', ')
      const told = (kind: string, severity: Finding['severity'], names: string) =>
        names === '' ? [] : [draft('V16', severity, place, { name: link.name, kind, names, key: kind })]
      return [
        ...fits,
        ...told('must-not', 'blocker', of('must-not')),
        ...told('should-not', 'warning', of('should-not')),
        ...told('unknown', 'note', unknown),
      ]
    })
    .map((d) => ({ ...d, sheet: 'tunnels' as const }))
}
