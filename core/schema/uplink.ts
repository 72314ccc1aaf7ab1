// Question: how does a site meet the outside?
// Its lines, what is known of them, and what goes out and in by them.
// Method: plain data, as the rest of a plan; addresses stay text.
// Source: terms of RFC 2516 (PPPoE) and RFC 3022 (port forwards).
import { z } from 'zod'
import { LEAST_RSRP, LEAST_SINR, MOST_RSRP, MOST_SINR, parseApn, parseSim } from '#core/format'
import {
  deviceId,
  id,
  interface4,
  ip,
  ips,
  list,
  mac,
  name,
  note,
  port,
  portId,
  prefix,
  prefix6,
  seconds,
  short,
  uplinkId,
  vid,
  type Frozen,
  line,
} from './common'

const price = z.number().min(0).max(1_000_000)

const probe = z.strictObject({
  kind: z.enum(['icmp', 'dns', 'http']),
  targets: list(line(253, 1), 8),
  /** So many targets must be silent for a round to count as missed. */
  quorum: z.number().int().min(1).max(8),
  everyS: z.number().min(0.1).max(3600),
  timeoutS: z.number().min(0.05).max(3600),
  /**
   * Missed rounds in a row after which the line is taken for dead, and good ones after which it is taken for
   * well.
   */
  misses: z.number().int().min(1).max(1000),
  returns: z.number().int().min(1).max(1000),
})

const cellular = z.strictObject({
  /** Number printed on the SIM (ITU-T E.118). */
  sim: z
    .string()
    .max(20)
    .refine((text) => parseSim(text).ok, 'sim')
    .nullable(),
  /** Access point name (3GPP TS 23.003 section 9). */
  apn: z
    .string()
    .max(100)
    .refine((text) => parseApn(text).ok, 'apn')
    .nullable(),
  /** How many antennas, and in words where they are and how far their feeders run. */
  antennas: z.number().int().min(0).max(16).nullable(),
  antennasAt: line(200).nullable(),
  /**
   * Received power of the reference signal, dBm, and its distance to noise and others, dB (3GPP TS 36.214),
   * measured where the antennas will be.
   */
  rsrpDbm: z.number().min(LEAST_RSRP).max(MOST_RSRP).nullable(),
  sinrDb: z.number().min(LEAST_SINR).max(MOST_SINR).nullable(),
  /** A month with what `capGb` allows, and each GB beyond it, in the site's currency. */
  pricePerMonth: price.nullable(),
  pricePerGb: price.nullable(),
})

const uplinkFacts = z.strictObject({
  /** Where user name and password are kept; never the secret itself. */
  credentialsAt: short.nullable(),
  /** True where it is certain that `tag` is right, also where there is none. */
  tagKnown: z.boolean(),
  /** 802.1p priority of the tag, 0 to 7. */
  pcp: z.number().int().min(0).max(7).nullable(),
  macLock: z.enum(['yes', 'no']).nullable(),
  lockedMac: mac.nullable(),
  linkSpeed: z.enum(['auto', '100', '1000', '2500', '10000']).nullable(),
  /** Data a month, GB; 0 for no cap. */
  capGb: z.number().min(0).max(1_000_000).nullable(),
  /** True where it is certain what the outside sees. */
  outsideKnown: z.boolean(),
  /** Address and length on the gateway's side of the line: given by contract, or seen. */
  address: interface4.nullable(),
  gateway: ip.nullable(),
  dns: ips,
  modem: z.enum(['bridge', 'routing', 'none']).nullable(),
  /** What a cellular line needs and hears; null for a line that is none. */
  cellular: cellular.nullable(),
  /** True where a port that its maker ships switched off or unlicensed has been enabled. */
  portEnabled: z.boolean(),
  /**
   * True where a routing modem hands what the gateway is called for on to it, and false where it does not.
   * Null: nobody has found out.
   */
  modemForwards: z.boolean().nullable(),
  /** IPv6 prefix that the provider delegates to the site over this line; null for none. */
  delegated6: prefix6.nullable(),
  /** IPv4 prefixes that the provider routes to the site over this line. */
  routed4: list(prefix, 16),
})

export const uplink = z.strictObject({
  id: uplinkId,
  name,
  deviceId,
  portId,
  kind: z.enum(['pppoe', 'dhcp', 'static']),
  /** VLAN tag the provider asks for; null for none. */
  tag: vid.nullable(),
  /** 1 is used first. Lines of the same number share what goes out, by weight, when it is their turn. */
  priority: z.number().int().min(1).max(100),
  /** 1 to 1,000: how much of it this line takes, beside the others of its number. */
  weight: z.number().int().min(1).max(1000),
  /** What the outside sees: an address of our own, or one shared by the provider (nobody can dial in). */
  outside: z.enum(['own', 'shared']),
  downMbps: z.number().min(0).max(1_000_000),
  upMbps: z.number().min(0).max(1_000_000),
  /** How the gateway finds out that the line is dead; null where it only sees its own cable. */
  probe: probe.nullable(),
  /** `hot`: connected all the time. `cold`: dialled when it is needed, which takes `bringUpS`. */
  standby: z.enum(['hot', 'cold']),
  bringUpS: seconds,
  /** How long the line must have been well before traffic returns to it, s. */
  holdDownS: seconds,
  /**
   * What it depends on, in words: a duct, a pole, a power feed, a provider.
   * Lines that share one fail together.
   */
  sharedRisks: list(short, 10),
  /** Share of probes that get lost on the line when it is well, %. */
  lossPct: z.number().min(0).max(100),
  /** Share of the year for which the line works, %; null where nobody has said. */
  availablePct: z.number().min(0).max(100).nullable(),
  /** Data that the site moves over it in a usual day, GB; null where nobody has said. */
  usualGbPerDay: z.number().min(0).max(1_000_000).nullable(),
  facts: uplinkFacts,
})

export const staticRoute = z.strictObject({
  id,
  deviceId,
  prefix,
  via: ip,
  /** Of routes to the same prefix the lowest is used. */
  metric: z.number().int().min(0).max(4_294_967_295),
})

export const portForward = z.strictObject({
  id,
  deviceId,
  uplinkId,
  proto: z.enum(['tcp', 'udp']),
  from: port,
  to: port,
  toAddress: ip,
  /** Port there that `from` becomes; the others follow. */
  toPort: port,
  /** Whoever calls the line's address from inside is handed the same. */
  hairpin: z.boolean(),
  note,
})

/** What is asked over a line, how often, and how many silent answers in a row count. */
export interface Probe extends Frozen<z.infer<typeof probe>> {}
/** Null: nobody has found out. Its PIN and password are kept where `credentialsAt` says. */
export interface Cellular extends Frozen<z.infer<typeof cellular>> {}
/** What has to be known of a provider's line before it is touched. Null: nobody has found out. */
export interface UplinkFacts extends Frozen<z.infer<typeof uplinkFacts>> {}
export interface Uplink extends Frozen<z.infer<typeof uplink>> {}
export interface StaticRoute extends Frozen<z.infer<typeof staticRoute>> {}
/** What arrives on a line at these ports is handed to one address inside. */
export interface PortForward extends Frozen<z.infer<typeof portForward>> {}
