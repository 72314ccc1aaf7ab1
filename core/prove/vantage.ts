// Question: does it prove anything to try this from there?
// Method: a tunnel is tried from outside.
// Whoever stands in one of the site's own networks or rooms, by name or by address, is inside.
// Source: common practice, without a source: from inside the LAN a tunnel's test proves nothing.
import { contains, parseIpv4, parsePrefix4 } from '#core/address'
import { problem, type Problem } from '#core/util'
import type { Plan } from '#core/schema'
import { peerKey } from '#core/reachability'
import type { AcceptanceTest } from './tests'

/** True for tests that only somebody beyond a tunnel, or on the internet, can make. */
export const isFromOutside = (test: Pick<AcceptanceTest, 'from'>): boolean =>
  test.from.startsWith(peerKey('')) || test.from === 'internet'

const ADDRESS = /\d{1,3}(?:\.\d{1,3}){3}/g

/** Why a vantage point proves nothing for a test; null where it may. Errors: vantage-inside. */
export function vantageProblem(
  plan: Plan,
  test: Pick<AcceptanceTest, 'from'>,
  vantage: string,
): Problem | null {
  if (!isFromOutside(test)) return null
  const text = vantage.toLowerCase()
  const whole = (name: string) =>
    name.length > 2 &&
    new RegExp(
      `(^|[^\\p{L}\\p{N}])${name.toLowerCase().replaceAll(/[.*+?^${}()|[\]\\]/g, '\\$&')}($|[^\\p{L}\\p{N}])`,
      'u',
    ).test(text)
  const places = [
    ...plan.networks.map((n) => n.name),
    ...plan.devices.filter((d) => d.kind !== 'cloud').flatMap((d) => [d.name, d.place]),
    ...plan.ssids.map((s) => s.name),
    ...plan.brief.rooms.map((r) => r.name),
    ...plan.brief.buildings.map((b) => b.name),
  ]
  const named = [...new Set(places)].filter((name) => name !== 'outside').find(whole)
  if (named !== undefined) return problem('vantage-inside', 'vantage', { text: named })
  for (const found of vantage.match(ADDRESS) ?? []) {
    const ip = parseIpv4(found)
    const home = ip.ok
      ? plan.networks.find((n) => [parsePrefix4(n.subnet)].some((s) => s.ok && contains(s.value, ip.value)))
      : undefined
    if (home) return problem('vantage-inside', 'vantage', { text: `${found} (${home.name})` })
  }
  return null
}
