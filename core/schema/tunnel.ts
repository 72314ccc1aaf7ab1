// Question: which tunnels lead to other sites, people and providers?
// Method: plain data, as the rest of a plan; private keys are never in it.
// Source: terms of wg(8) (peers, allowed addresses) and RFC 7296 (IKEv2).
import { z } from 'zod'
import { isEndpoint, isPublicKey } from '#core/format'
import {
  anyPrefix,
  deviceId,
  id,
  interface4,
  interface6,
  list,
  mbps,
  name,
  peerId,
  port,
  prefix,
  short,
  tunnelId,
  type Frozen,
  line,
} from './common'

const publicKey = z.string().max(44).refine(isPublicKey, 'key')

const mapping = z.strictObject({ id, inside: prefix, outside: prefix })

const peer = z.strictObject({
  id: peerId,
  name,
  /** Another site, one person on the road, or a provider through which the internet is reached. */
  kind: z.enum(['site', 'person', 'provider']),
  publicKey: publicKey.nullable(),
  /**
   * A new key that is let in beside the old one until a day, `2026-12-09`, while the peer changes over; null
   * while it has one key.
   */
  next: z.strictObject({ publicKey, until: z.iso.date() }).nullable(),
  /** Addresses that belong to the peer: taken from it and sent to it. */
  allowed: list(anyPrefix, 100),
  /** Addresses of ours that the peer's own configuration allows: what it sends here, and takes from here. */
  theirAllowed: list(anyPrefix, 100),
  /** Host and port that this gateway dials; null where the peer dials us. */
  endpoint: z.string().max(260).refine(isEndpoint, 'endpoint').nullable(),
  /** Its own line, Mb/s; null where nobody knows. */
  downMbps: mbps.nullable(),
  upMbps: mbps.nullable(),
  /** Seconds between packets that keep a translation open on the way; null for none. */
  keepaliveS: z.number().int().min(0).max(65535).nullable(),
})

export const tunnel = z.strictObject({
  id: tunnelId,
  name,
  deviceId,
  /** Name under which peers find it (kept up to date by dynamic DNS); null where they dial an address. */
  publicName: z
    .string()
    .min(1)
    .max(253)
    .regex(/^[A-Za-z0-9.-]+$/, 'name')
    .nullable(),
  /**
   * How often whoever keeps that name looks whether the address has changed, and how long others remember its
   * answer (RFC 2136, RFC 1035 section 3.2.1), s.
   */
  nameEveryS: z.number().int().min(0).max(604_800),
  nameTtlS: z.number().int().min(0).max(604_800),
  /** Address in the tunnel and the length of its subnet: `10.61.20.1/29`. */
  address: interface4,
  /** The same of IPv6: `fd61:6a11:20::1/64`; null where the tunnel carries none. */
  address6: interface6.nullable(),
  listenPort: port,
  mtu: z.number().int().min(576).max(9000),
  /** Public key, 44 characters of base64; null while there is none. Private keys are never in a plan. */
  publicKey: publicKey.nullable(),
  /**
   * Networks of ours that peers know by another prefix of the same length, address for address (RFC 3022
   * section 2.1).
   */
  mapped: list(mapping, 100),
  peers: list(peer, 1000),
})

const names = list(line(40, 1), 20)
const life = z.number().int().min(60).max(31_536_000)

const ipsecSuite = z.strictObject({
  encryption: names,
  integrity: names,
  /** For the key exchange alone; empty for what carries data. */
  prf: names,
  /** Key exchange groups; empty for what carries data: no fresh exchange for it. */
  groups: list(z.number().int().min(1).max(65_535), 20),
})

const ipsecEnd = z.strictObject({
  /** What it calls itself. */
  identity: short,
  /** Where it is found; empty where nobody can call it. */
  address: line(253),
  subnets: list(prefix, 100),
  ike: ipsecSuite,
  esp: ipsecSuite,
  /** After so many seconds keys are made anew. */
  ikeLifeS: life,
  espLifeS: life,
  /** Seconds of silence after which the other end is asked whether it lives; null for never. */
  dpdS: z.number().int().min(1).max(86_400).nullable(),
  auth: z.enum(['psk', 'certificate']),
  /** Opens the connection by itself. */
  starts: z.boolean(),
})

export const ipsecLink = z.strictObject({ id, name, deviceId, ours: ipsecEnd, theirs: ipsecEnd })

export interface Peer extends Frozen<z.infer<typeof peer>> {}
/** A WireGuard interface of a gateway and who may speak on it. */
export interface Tunnel extends Frozen<z.infer<typeof tunnel>> {}
/**
 * What one end of an IPsec connection accepts, of each kind of transform, by the names of IANA's registry;
 * groups by number.
 */
export interface IpsecSuite extends Frozen<z.infer<typeof ipsecSuite>> {}
export interface IpsecEnd extends Frozen<z.infer<typeof ipsecEnd>> {}
/** An IPsec connection (IKEv2) as a sheet for both ends; Able Mast runs none. */
export interface IpsecLink extends Frozen<z.infer<typeof ipsecLink>> {}
