// Question: does every device that needs an address have one, its own, and is it typed as its field means?
// Method: who claims which address; typed fields against their meaning.
// Source: RFC 4632 (masks); RFC 919 and RFC 3021 (which addresses of a subnet are no host's); that infrastructure has
// addresses of its own is common practice.
import { hasTrait } from '#core/queries'
import { contains, lastOf, parseIpv4, parseMask } from '#core/address'
import { reserve, takenAddresses } from '#core/edit'
import type { Device, Network, Plan, StaticAssignment } from '#core/schema'
import { orNull } from '#core/util'
import { draft, set, type Draft, type Mend } from '../finding'
import type { NetworkText } from './network-text'

interface Claim {
  readonly ip: string
  readonly name: string
  readonly place: readonly string[]
}

/** Who claims which address in a network. */
function claimsIn(network: Network): Claim[] {
  return [
    { ip: network.gateway, name: `${network.name} gateway`, place: ['networks', network.id, 'gateway'] },
    ...network.fixed.map((assignment) => ({
      ip: assignment.ip,
      name: assignment.name,
      place: ['networks', network.id, 'fixed', assignment.id, 'ip'],
    })),
  ]
}

/** Whether any address that is claimed in a network lies outside it, and whether any is claimed twice in it. */
export interface ClaimTrouble {
  readonly strays: boolean
  readonly twice: boolean
}
export function claimTrouble({ network, subnet }: NetworkText): ClaimTrouble {
  const ips = [network.gateway, ...network.fixed.map((f) => f.ip)]
  const strays = ips.some((ip) => {
    const parsed = orNull(parseIpv4(ip))
    return !subnet || parsed === null || !contains(subnet, parsed)
  })
  return { strays, twice: new Set(ips).size < ips.length }
}

/**
 * @param troubles of each network, in their order
 * @param crossing whether subnets overlap
 */
export function twiceFindings(plan: Plan, troubles: readonly ClaimTrouble[], crossing: boolean): Draft[] {
  const mixed = crossing || troubles.some((t) => t.strays)
  const owners = new Map<string, string>()
  const out: Draft[] = []
  for (const [i, network] of plan.networks.entries()) {
    if (!mixed && !troubles[i]?.twice) continue
    for (const { ip, name, place } of claimsIn(network)) {
      const owner = owners.get(ip)
      if (owner === undefined) owners.set(ip, name)
      else out.push(draft('A08', 'blocker', place, { ip, name, other: owner }))
    }
  }
  return out
}

/** Reserves the first free address of its network for a device; null where none is free. */
function reservation(network: Network, device: Device, taken: ReadonlySet<string>): Mend | null {
  const made = reserve(network, device, taken)
  if (made === null) return null
  const path = ['networks', network.id, 'fixed', made.id]
  const after = { ...made }
  return { code: 'reserve', values: { ip: made.ip }, changes: [{ kind: 'added', path, before: null, after }] }
}

export function unreservedFindings(plan: Plan): Draft[] {
  const addressed = plan.devices.filter((device) => hasTrait(device, 'addressed'))
  const wanted = new Set(addressed.map((device) => device.homeNetworkId))
  const homes = new Map(
    plan.networks
      .filter((network) => wanted.has(network.id))
      .map((network) => [network.id, { network, known: new Set(network.fixed.map((f) => f.deviceId)) }]),
  )
  const taken = takenAddresses(plan)
  return addressed.flatMap((device) => {
    const home = homes.get(device.homeNetworkId ?? '')
    if (!home || home.known.has(device.id)) return []
    const values = { device: device.name, network: home.network.name }
    const mend = reservation(home.network, device, taken)
    return [draft('A16', 'warning', ['devices', device.id], values, mend)]
  })
}

const isMask = (text: string): boolean => text.startsWith('255.') && parseMask(text).ok

/** A mask where an address belongs, or an address or length that is not its network's. */
function typedFindings({ network, at, subnet }: NetworkText, assignment: StaticAssignment): Draft[] {
  const out: Draft[] = []
  const place = [...at, 'fixed', assignment.id]
  const { name, ip, gateway, mask } = assignment
  if (isMask(ip))
    out.push(draft('A11', 'blocker', [...place, 'ip'], { kind: 'mask-as-address', name, text: ip }))
  if (assignment.how !== 'static') return out
  if (gateway !== null && (isMask(gateway) || gateway === ip)) {
    const kind = isMask(gateway) ? 'mask-as-gateway' : 'own-as-gateway'
    out.push(draft('A11', 'blocker', [...place, 'gateway'], { kind, name, text: gateway }))
  }
  if (mask !== null && subnet && mask !== subnet.length) {
    const values = { kind: 'other-mask' as const, name, text: `/${mask}`, subnet: network.subnet }
    const mend: Mend = {
      code: 'use-mask',
      values: { length: subnet.length },
      changes: [set([...place, 'mask'], mask, null)],
    }
    out.push(draft('A11', 'warning', [...place, 'mask'], values, mend))
  }
  return out
}

/** An address given to one thing that is not one of its network's hosts. */
function strayFindings({ network, at, subnet }: NetworkText, { id, ip, name }: StaticAssignment): Draft[] {
  const address = orNull(parseIpv4(ip))
  if (!subnet || address === null) return []
  const values = { network: network.name, subnet: network.subnet, ip, name }
  const place = [...at, 'fixed', id, 'ip']
  if (!contains(subnet, address)) return [draft('A26', 'blocker', place, { ...values, kind: 'outside' })]
  if (subnet.length > 30) return []
  if (address === subnet.base) return [draft('A26', 'blocker', place, { ...values, kind: 'base' })]
  return address === lastOf(subnet) ? [draft('A26', 'blocker', place, { ...values, kind: 'broadcast' })] : []
}

export function fieldFindings(read: NetworkText): Draft[] {
  const { network, at } = read
  const values = { kind: 'mask-as-gateway' as const, name: network.name, text: network.gateway }
  return [
    ...(isMask(network.gateway) ? [draft('A11', 'blocker', [...at, 'gateway'], values)] : []),
    ...network.fixed.flatMap((assignment) => [
      ...typedFindings(read, assignment),
      ...strayFindings(read, assignment),
    ]),
  ]
}
