// Question: which networks has a site, and how do hosts get addresses in them?
// Method: plain data; addresses stay text as people typed them, canonical after parsing.
// Source: terms of RFC 2131 (DHCP), RFC 4862 (SLAAC) and RFC 8415 (DHCPv6).
import { z } from 'zod'
import { isDomain } from '#core/format'
import {
  deviceId,
  id,
  ip,
  ip6,
  ips,
  list,
  mac,
  name,
  networkId,
  percent,
  prefix,
  prefix6,
  range,
  ssidId,
  vid,
  type Frozen,
  line,
} from './common'
import { ssidSettings } from './wifi'

const staticAssignment = z.strictObject({
  id,
  ip,
  name,
  deviceId: deviceId.nullable(),
  how: z.enum(['static', 'reserved']),
  /** Prefix length typed into the device; null means the network's own. Only meaningful for static. */
  mask: z.number().int().min(0).max(32).nullable(),
  /** Gateway typed into the device; null means the network's own. Only meaningful for static. */
  gateway: ip.nullable(),
  /** Hardware address a reservation is kept for; null where it is not known, or is its equipment's. */
  mac: mac.nullable(),
  /**
   * IPv6 address typed into the device beside `ip`, with the network's length and router; null where it makes
   * its own.
   * Only meaningful for static.
   */
  ip6: ip6.nullable(),
})

const dhcpOptions = z.strictObject({
  dns: ips,
  ntp: ips,
  /** Of the clients; empty for none. */
  domain: z
    .string()
    .max(253)
    .refine((text) => text === '' || isDomain(text), 'domain'),
  /** Controller that devices are told of, and by which option; null for none. */
  controller: z
    .strictObject({ option: z.union([z.literal(43), z.literal(138), z.literal(143)]), address: ip })
    .nullable(),
})

export const network = z.strictObject({
  id: networkId,
  name,
  vlan: vid,
  /** IPv4 prefix as text, host bits zero. */
  subnet: prefix,
  gateway: ip,
  /** The gateway device whose interface carries `gateway`. */
  routerId: deviceId,
  /** `relay`: requests are passed on to the server at `relayTo`. */
  dhcp: z.enum(['serve', 'relay', 'none']),
  relayTo: ip.nullable(),
  pool: range.nullable(),
  /** Parts of the pool that are not handed out. */
  exclusions: list(range, 64),
  /** Lease time, s. */
  leaseS: z.number().int().min(60).max(31_536_000),
  options: dhcpOptions,
  /** Clients expected at once. */
  expected: z.number().int().min(0).max(1_000_000),
  /** How many more are expected later, %. */
  growthPct: percent,
  /** New clients in a busy hour and how long they stay, h; null where nobody has said. */
  arrivalsPerH: z.number().min(0).max(1_000_000).nullable(),
  stayH: z.number().min(0).max(8784).nullable(),
  /** Chosen by hand: no proposal moves it. */
  pinned: z.boolean(),
  /** IPv6 prefix, usually a /64; null for none. */
  prefix6: prefix6.nullable(),
  /** How hosts get IPv6 addresses: SLAAC alone, SLAAC with DHCPv6 for the rest, DHCPv6, or not at all. */
  mode6: z.enum(['off', 'slaac', 'stateless', 'stateful']),
  fixed: list(staticAssignment, 5000),
})

export const ssid = z.strictObject({
  id: ssidId,
  name: line(32, 1),
  networkId,
  /** Client isolation: stations of this SSID cannot talk to each other. */
  isolation: z.boolean(),
  apIds: list(deviceId, 5000),
  settings: ssidSettings,
})

/** An address given to one thing for good: typed into it (static) or handed to it by DHCP (reserved). */
export interface StaticAssignment extends Frozen<z.infer<typeof staticAssignment>> {}
export interface Network extends Frozen<z.infer<typeof network>> {}
export interface Ssid extends Frozen<z.infer<typeof ssid>> {}
