// Question: do the two ends of each IPsec connection fit, and is what they use still advised?
import { adviceFor, termsOf, unknownIn, type Disagreement } from '#core/ipsec'
import type { IpsecLink } from '#core/schema'
import { draft, type Draft, type Severity } from '../finding'
import type { AlgorithmTrouble } from './values'

function disagreementFinding(link: IpsecLink, found: Disagreement): Draft {
  const { kind, ours, theirs } = found
  const [what, use] = found.kind === 'no-common' ? [found.what, found.use] : (['', ''] as const)
  const key = `${kind} ${use === '' ? '' : `${use} ${what}`}`
  return draft('V15', 'blocker', ['ipsec', link.id], { name: link.name, kind, what, use, ours, theirs, key })
}

function algorithmFindings(link: IpsecLink): Draft[] {
  const suites = [link.ours, link.theirs].flatMap((end) => [
    { suite: end.ike, use: 'ike' as const },
    { suite: end.esp, use: 'esp' as const },
  ])
  const advice = suites.flatMap(({ suite, use }) => adviceFor(suite, use))
  const standing = (wanted: AlgorithmTrouble) =>
    advice.filter((a) => a.standing === wanted).map((a) => a.name)
  const told = (kind: AlgorithmTrouble, severity: Severity, names: readonly string[]): Draft[] => {
    const values = { name: link.name, kind, names: [...new Set(names)].join(', '), key: kind }
    return names.length === 0 ? [] : [draft('V16', severity, ['ipsec', link.id], values)]
  }
  return [
    ...told('must-not', 'blocker', standing('must-not')),
    ...told('should-not', 'warning', standing('should-not')),
    ...told(
      'unknown',
      'note',
      suites.flatMap(({ suite }) => unknownIn(suite)),
    ),
  ]
}

/** Findings of an IPsec parameter sheet. */
export const ipsecFindings = (link: IpsecLink): Draft[] => [
  ...termsOf(link).disagreements.map((found) => disagreementFinding(link, found)),
  ...algorithmFindings(link),
]
