// Question: which texts, numbers and lists may stand in a plan?
// Method: each kind of field once, with its bounds, so that a hostile file costs no more than a look.
// Source: RFC 4632 and RFC 4291 for addresses and prefixes, IEEE 802.1Q for VLAN numbers.
import { z } from 'zod'
import {
  parseIpv4,
  parseIpv6,
  parseMac,
  parsePrefix4,
  parsePrefix6,
  readInterface4,
  readInterface6,
} from '#core/address'
import { isPrintableLine, minuteOf } from '#core/format'

/** What cannot be changed, all the way down. */
export type Frozen<T> = T extends string | number | boolean | null | undefined
  ? T
  : T extends readonly (infer Item)[]
    ? readonly Frozen<Item>[]
    : { readonly [Key in keyof T]: Frozen<T[Key]> }

/** The same while it is being changed. */
export type Draft<T> = T extends string | number | boolean | null | undefined
  ? T
  : { -readonly [Key in keyof T]: Draft<T[Key]> }

/**
 * The id of one kind of thing: a text, for which the compiler takes no id of another kind.
 * Texts that are not known to be an id of another kind are taken.
 */
export type Id<Kind extends string> = string & { readonly __kind?: Kind }
export type DeviceId = Id<'device'>
export type LinkId = Id<'link'>
export type NetworkId = Id<'network'>
export type PeerId = Id<'peer'>
export type PersonId = Id<'person'>
export type PortId = Id<'port'>
export type RuleId = Id<'rule'>
export type ScheduleId = Id<'schedule'>
export type ServiceId = Id<'service'>
export type BuildingId = Id<'building'>
export type SsidId = Id<'ssid'>
export type TunnelId = Id<'tunnel'>
export type UplinkId = Id<'uplink'>

export const id = z
  .string()
  .min(1)
  .max(80)
  .regex(/^[A-Za-z0-9][A-Za-z0-9._~-]*$/, 'id')
const idOf = <Kind extends string>() => id as unknown as z.ZodType<Id<Kind>, Id<Kind>>
export const buildingId = idOf<'building'>()
export const deviceId = idOf<'device'>()
export const groupId = idOf<'group'>()
export const linkId = idOf<'link'>()
export const networkId = idOf<'network'>()
export const peerId = idOf<'peer'>()
export const personId = idOf<'person'>()
export const portId = idOf<'port'>()
export const ruleId = idOf<'rule'>()
export const scheduleId = idOf<'schedule'>()
export const serviceId = idOf<'service'>()
export const ssidId = idOf<'ssid'>()
export const tunnelId = idOf<'tunnel'>()
export const uplinkId = idOf<'uplink'>()

/** An array of at most so many items. */
export const list = <T extends z.ZodType>(item: T, most: number) => z.array(item).max(most)

/** One printable line: every text of a plan is one, so that none begins a line of its own in a file made from it. */
export const line = (most: number, least = 0) =>
  z.string().min(least).max(most).refine(isPrintableLine, 'printable')
export const name = line(80, 1)
export const note = line(200)
export const short = line(80)

/** A time of a day, `00:00` to `24:00`. */
export const timeOfDay = z
  .string()
  .max(5)
  .refine((text) => minuteOf(text) !== null, 'time')

export const vid = z.number().int().min(1).max(4094)
export const metres = z.number().min(0).max(200_000)
/** Above the sea, or above anything else that all heights of a site are measured from, m. */
export const heightM = z.number().min(-500).max(9000)
export const mbps = z.number().int().min(1).max(1_000_000)
export const watts = z.number().min(0).max(100_000)
export const percent = z.number().min(0).max(1000)
export const seconds = z.number().min(0).max(86_400)
/** A TCP or UDP port. */
export const port = z.number().int().min(0).max(65535)

export const ip = z
  .string()
  .max(15)
  .refine((text) => parseIpv4(text).ok, 'ipv4')
export const ips = list(ip, 8)
export const prefix = z
  .string()
  .max(18)
  .refine((text) => parsePrefix4(text).ok, 'prefix')
export const ip6 = z
  .string()
  .max(39)
  .refine((text) => parseIpv6(text).ok, 'ipv6')
export const prefix6 = z
  .string()
  .max(43)
  .refine((text) => parsePrefix6(text).ok, 'prefix6')
export const mac = z
  .string()
  .max(17)
  .refine((text) => parseMac(text).ok, 'mac')
/** A prefix of either family. */
export const anyPrefix = z
  .string()
  .max(43)
  .refine((text) => parsePrefix4(text).ok || parsePrefix6(text).ok, 'prefix')
/** An address and the length of its subnet, with host bits: `10.61.255.1/30`. */
export const interface4 = z
  .string()
  .max(18)
  .refine((text) => readInterface4(text) !== null, 'prefix')
export const interface6 = z
  .string()
  .max(43)
  .refine((text) => readInterface6(text) !== null, 'prefix6')
export const range = z.strictObject({ from: ip, to: ip })

/** An address range, both ends included. */
export interface TextRange extends Frozen<z.infer<typeof range>> {}
