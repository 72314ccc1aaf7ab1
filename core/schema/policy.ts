// Question: what must pass, and which ordered rules see to it?
// Method: plain data; selectors name ends, services name ports, a rule list is met from the top.
// Source: terms of nft(8) (chains, accept, drop, reject) and ip-rule(8) (policy routes).
import { z } from 'zod'
import {
  anyPrefix,
  deviceId,
  groupId,
  id,
  list,
  name,
  networkId,
  note,
  peerId,
  port,
  ruleId,
  scheduleId,
  serviceId,
  timeOfDay,
  tunnelId,
  uplinkId,
  type Frozen,
} from './common'

const protocol = z.enum(['tcp', 'udp', 'icmp'])

const serviceEntry = z.strictObject({
  proto: protocol /** First and last destination port, 0 to 65535; 0 and 0 for icmp. */,
  from: port,
  to: port,
})

export const service = z.strictObject({ id: serviceId, name, entries: list(serviceEntry, 100) })

const ends = [
  z.strictObject({ kind: z.literal('any') }),
  z.strictObject({ kind: z.literal('inside') }),
  z.strictObject({ kind: z.literal('network'), id: networkId }),
  z.strictObject({ kind: z.literal('device'), id: deviceId }),
  z.strictObject({ kind: z.literal('prefix'), prefix: anyPrefix }),
  z.strictObject({ kind: z.literal('internet') }),
  z.strictObject({ kind: z.literal('gateway') }),
  z.strictObject({ kind: z.literal('tunnel'), id: tunnelId }),
  z.strictObject({ kind: z.literal('peer'), id: peerId }),
] as const
const member = z.discriminatedUnion('kind', ends)

const selector = z.discriminatedUnion('kind', [
  ...ends,
  z.strictObject({ kind: z.literal('group'), id: groupId }),
])
const services = list(serviceId, 100)

export const group = z.strictObject({
  id: groupId,
  name /** No groups among them. */,
  members: list(member, 200),
})

const rule = z.strictObject({
  id: ruleId,
  /** `forward`: through the gateway. `input`: to the gateway itself. */
  chain: z.enum(['forward', 'input']),
  action: z.enum(['accept', 'drop', 'reject']),
  from: selector,
  to: selector,
  /** Service ids; an empty list means every service. */
  services,
  note,
  /** What it decides is written to the gateway's log. */
  log: z.boolean(),
  /** Schedule at whose times alone it is there; null for always. */
  when: scheduleId.nullable(),
})

export const schedule = z.strictObject({
  id: scheduleId,
  name,
  /** 1 is Monday, 7 Sunday. */
  days: list(z.number().int().min(1).max(7), 7),
  /**
   * `08:00`, included, to `18:00`, not included;
   * `24:00` is the end of the day.
   * Where the end is before the beginning it is on the next day.
   */
  from: timeOfDay,
  to: timeOfDay,
})

const pairDefault = z.strictObject({ id, from: selector, to: selector, action: z.enum(['accept', 'drop']) })

export const policy = z.strictObject({
  deviceId,
  forward: z.enum(['accept', 'drop']),
  input: z.enum(['accept', 'drop']),
  rules: list(rule, 10_000),
  /**
   * What happens through the gateway between two ends that no rule names; the first that fits, before
   * `forward`.
   */
  pairs: list(pairDefault, 1000),
})

export const policyRoute = z.strictObject({
  id,
  deviceId,
  from: selector,
  /** Service ids; an empty list means every service. */
  services,
  out: z.discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('uplink'), id: uplinkId }),
    z.strictObject({ kind: z.literal('tunnel'), id: tunnelId }),
  ]),
  /** While `out` is down: take what comes next, or nothing at all. */
  orElse: z.enum(['next', 'refuse']),
  note,
})

export const intent = z.strictObject({
  id,
  from: selector,
  to: selector,
  /** Service ids; an empty list means every service. */
  services,
  /** Ids of devices, links or uplinks whose single failure this intent must survive. */
  survives: list(id, 100),
  /** New connections that it lets through are written down. */
  log: z.boolean(),
  /** Schedule at whose times alone it is meant; null for always. */
  when: scheduleId.nullable(),
  note,
})

export type Protocol = z.infer<typeof protocol>
export interface ServiceEntry extends Frozen<z.infer<typeof serviceEntry>> {}
export interface Service extends Frozen<z.infer<typeof service>> {}
/**
 * `any` is truly anything;
 * `inside` is every network of the site, without the internet and the gateway itself.
 */
export type Selector = Frozen<z.infer<typeof selector>>
/**
 * Networks, devices, prefixes and so on under one name: a zone, where all of them are networks.
 * It speaks of whatever one of its members speaks of.
 */
export interface Group extends Frozen<z.infer<typeof group>> {}
export interface Rule extends Frozen<z.infer<typeof rule>> {}
/** Times of the week, by the gateway's clock. */
export interface Schedule extends Frozen<z.infer<typeof schedule>> {}
export interface PairDefault extends Frozen<z.infer<typeof pairDefault>> {}
/** The ordered rules of one gateway and what happens when none matches. Replies follow accepted flows. */
export interface Policy extends Frozen<z.infer<typeof policy>> {}
/**
 * Which line, or tunnel, some senders take to the internet.
 * The first that matches decides; the rest takes the lines in order.
 */
export interface PolicyRoute extends Frozen<z.infer<typeof policyRoute>> {}
/** What must get through. Whatever no intent names must not. */
export interface Intent extends Frozen<z.infer<typeof intent>> {}
