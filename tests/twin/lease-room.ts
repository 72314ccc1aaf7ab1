// Whether a plan says who gets a lease, read from its text alone.
import type { Device, Network, Plan } from '#core/schema'

/** An address as a number. */
export const valueOf = (address: string): number =>
  address.split('.').reduce((sum, octet) => sum * 256 + Number(octet), 0)

/** How many addresses a server hands out to anybody: those of the pool that are neither excluded nor reserved. */
function freeAddresses({ pool, exclusions, fixed, gateway }: Network): number {
  if (pool === null) return 0
  const [from, to] = [valueOf(pool.from), valueOf(pool.to)]
  const isExcluded = (value: number) =>
    exclusions.some((range) => value >= valueOf(range.from) && value <= valueOf(range.to))
  const kept = new Set([gateway, ...fixed.map(({ ip }) => ip)].map(valueOf))
  let free = 0
  for (let value = from; value <= to && free < 1000; value++)
    if (!isExcluded(value) && !kept.has(value)) free++
  return free
}

const clientsOf = ({ kind, ports }: Device): number => (kind === 'hosts' ? ports.length : 1)

/**
 * Whether a router leads elsewhere a part of a subnet of which it leases addresses: dnsmasq then loses its offers of
 * that part, and Kea, which sends frames itself, does not.
 */
const isLedAway = ({ pool, subnet }: Network, { prefix }: Plan['routes'][number]): boolean => {
  const [base = '', length = ''] = prefix.split('/')
  const size = 2 ** (32 - Number(length))
  const from = valueOf(base)
  const isLonger = Number(length) > Number(subnet.split('/')[1])
  return pool !== null && isLonger && from <= valueOf(pool.to) && from + size > valueOf(pool.from)
}

/**
 * Whether somebody is to have the broadcast address among neighbours: a kernel lets some of their answers to it through
 * as broadcasts, others not, and the engine promises none (RFC 1122 section 3.2.1.3: no source address).
 */
function speaksAsAll({ subnet, fixed }: Network, clients: readonly Device[]): boolean {
  const [base = '', length = ''] = subnet.split('/')
  const last = valueOf(base) + 2 ** (32 - Number(length)) - 1
  return (
    clients.filter(({ kind }) => kind === 'hosts').length > 1 && fixed.some(({ ip }) => valueOf(ip) === last)
  )
}

/**
 * True where each network that serves has an address for each of its clients, or for none: else the first ask; and
 * where every program that serves it gets its answers to them; and where no kernel is asked what a broadcast address
 * gets.
 */
export const isDecided = ({ networks, devices, routes }: Plan): boolean =>
  networks.every((network) => {
    const clients = devices.filter(({ homeNetworkId }) => homeNetworkId === network.id)
    if (speaksAsAll(network, clients)) return false
    if (network.dhcp === 'none') return true
    const free = freeAddresses(network)
    const isEnough = free === 0 || free >= clients.reduce((sum, each) => sum + clientsOf(each), 0)
    return isEnough && !routes.some((route) => isLedAway(network, route))
  })
