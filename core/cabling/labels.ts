// Question: what is written on each cable?
// Method: a rule with names in braces, filled from the link; numbers run in the order of the plan.
// Source: the shape is common practice (both ends on each label, as ANSI/TIA-606 asks); the rule is the
// planner's own.
import { endsOf, type PlanIndex } from '#core/queries'
import type { Device, Link, PortRef } from '#core/schema'

export const LABEL_RULE = '{n:3} {from}-{fromPort} {to}-{toPort}'
const KNOWN = ['n', 'from', 'fromPort', 'to', 'toPort', 'fromPlace', 'toPlace'] as const

/** Names in braces that a rule uses and nobody knows. */
export function unknownInRule(rule: string): string[] {
  return [...rule.matchAll(/\{([^}:]*)(?::\d+)?\}/g)]
    .map((m) => m[1] ?? '')
    .filter((name) => !(KNOWN as readonly string[]).includes(name))
}

/**
 * A device's name as it fits on a label: initials of its words, digits whole.
 * Worked:
 * Laboratory AP 1 -> LAP1;
 * Skerry bridge, end A -> SBEA.
 */
export function shortName(name: string): string {
  const words = name.split(/[^\p{L}\p{N}]+/u).filter((w) => w !== '')
  if (words.length === 1) return (words[0] ?? '').slice(0, 4).toUpperCase()
  return words
    .map((w) => (/^\d+$/.test(w) || (w.length <= 3 && w === w.toUpperCase()) ? w : (w[0] ?? '')))
    .join('')
    .toUpperCase()
}

/** Short names by device id; where two would be alike, each gets a number in plan order. */
export function shortNames(devices: readonly Device[]): Map<string, string> {
  const seen = new Map<string, number>()
  const counts = new Map<string, number>()
  for (const device of devices)
    counts.set(shortName(device.name), (counts.get(shortName(device.name)) ?? 0) + 1)
  return new Map(
    devices.map((device) => {
      const short = shortName(device.name)
      const suffix = (seen.get(short) ?? 0) + 1
      seen.set(short, suffix)
      return [device.id, (counts.get(short) ?? 0) > 1 ? `${short}.${suffix}` : short]
    }),
  )
}

/** True for links that are a thing to lay and to label. */
export function isCable(link: Link): boolean {
  return link.medium.kind === 'copper' || link.medium.kind === 'fibre'
}

/** Labels by link id, for every cable in plan order. */
export function cableLabels(index: PlanIndex, rule: string): Map<string, string> {
  const short = shortNames(index.plan.devices)
  const portName = (ref: PortRef) =>
    index.devices.get(ref.deviceId)?.ports.find((p) => p.id === ref.portId)?.name ?? ref.portId
  const out = new Map<string, string>()
  let suffix = 0
  for (const link of index.plan.links.filter(isCable)) {
    suffix++
    const [from, to] = endsOf(link)
    const values: Readonly<Record<string, string>> = {
      n: String(suffix),
      from: short.get(from.deviceId) ?? from.deviceId,
      fromPort: portName(from),
      to: short.get(to.deviceId) ?? to.deviceId,
      toPort: portName(to),
      fromPlace: index.devices.get(from.deviceId)?.place ?? '',
      toPlace: index.devices.get(to.deviceId)?.place ?? '',
    }
    out.set(
      link.id,
      rule.replaceAll(/\{([^}:]*)(?::(\d+))?\}/g, (_, name: string, width?: string) =>
        (values[name] ?? '').padStart(Number(width ?? 0), '0'),
      ),
    )
  }
  return out
}
