// Which single change of addresses, DHCP or an SSID could let a host be heard?
import type { Plan, Ssid } from '#core/schema'
import { swap, type Candidate, type RemedyCode } from './candidate'

export function addressCandidates(plan: Plan, deviceIds: readonly string[]): Candidate[] {
  return plan.networks.flatMap((network) => {
    const typed = network.fixed.filter(
      (f) => f.how === 'static' && f.deviceId !== null && deviceIds.includes(f.deviceId),
    )
    const change = (code: RemedyCode, field: 'gateway' | 'mask') =>
      typed
        .filter((f) => f[field] !== null)
        .map((assignment): Candidate => ({
          code,
          values: { device: assignment.deviceId ?? '', network: network.id },
          after: {
            ...plan,
            networks: swap(plan.networks, network.id, (network) => ({
              ...network,
              fixed: swap(network.fixed, assignment.id, (x) => ({ ...x, [field]: null })),
            })),
          },
        }))
    return [...change('own-gateway', 'gateway'), ...change('own-mask', 'mask')]
  })
}

/** DHCP that is off, in networks of some hosts. */
const dhcpCandidates = (plan: Plan, homes: ReadonlySet<string | null>): Candidate[] =>
  plan.networks
    .filter((n) => homes.has(n.id) && n.dhcp === 'none' && n.pool !== null)
    .map(({ id }) => ({
      code: 'serve-dhcp',
      values: { network: id },
      after: { ...plan, networks: swap(plan.networks, id, (x) => ({ ...x, dhcp: 'serve' })) },
    }))

/** An SSID that leads elsewhere, or keeps its stations apart. */
function ssidCandidates(plan: Plan, ssid: Ssid, homes: ReadonlySet<string | null>): Candidate[] {
  const change = (code: RemedyCode, values: Candidate['values'], part: Partial<Ssid>): Candidate => ({
    code,
    values: { ssid: ssid.id, ...values },
    after: { ...plan, ssids: swap(plan.ssids, ssid.id, (x) => ({ ...x, ...part })) },
  })
  const others = [...homes].filter((home) => home !== null).filter((home) => home !== ssid.networkId)
  return [
    ...others.map((home) => change('ssid-network', { network: home }, { networkId: home })),
    ...(ssid.isolation ? [change('end-isolation', {}, { isolation: false })] : []),
  ]
}

/** What is not heard: DHCP that is off, an SSID that leads elsewhere, stations kept apart. */
export function hostCandidates(plan: Plan, deviceIds: readonly string[]): Candidate[] {
  const homes = new Set(plan.devices.filter((d) => deviceIds.includes(d.id)).map((d) => d.homeNetworkId))
  const ssids = plan.links.flatMap((link) =>
    link.medium.kind === 'wifi' && [link.a, link.b].some((ref) => deviceIds.includes(ref.deviceId))
      ? [link.medium.ssidId]
      : [],
  )
  const heard = plan.ssids.filter((s) => ssids.includes(s.id))
  return [...dhcpCandidates(plan, homes), ...heard.flatMap((ssid) => ssidCandidates(plan, ssid, homes))]
}
