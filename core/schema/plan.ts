// Question: what is a plan? One readonly document that says how a site is meant to be built.
// Method: the schema that files are checked by; every type of a plan is inferred from it, so that no field is
// written twice.
// Source: docs/file-formats.md.
import { z } from 'zod'
import { PLAN_FORMAT, PLAN_VERSION } from '#core/format'
import { brief } from './brief'
import { list, name, prefix, prefix6, seconds, short, type Frozen, line } from './common'
import { device, link, portTemplate } from './device'
import { network, ssid } from './network'
import { wifi } from './wifi'
import { group, intent, policy, policyRoute, schedule, service } from './policy'
import { model } from './product'
import { ipsecLink, tunnel } from './tunnel'
import { portForward, staticRoute, uplink } from './uplink'
import { work } from './work'

const siteFacts = z.strictObject({
  name,
  supernet: prefix,
  /** IPv6 prefix of the whole site; null where IPv6 is left off. */
  prefix6: prefix6.nullable(),
  /** How subnets are chosen: VLAN number as third octet, or the tightest gap that fits. */
  subnetPolicy: z.enum(['octet', 'best-fit']),
  /** ISO 3166-1 alpha-2 code of where radios operate; empty while it is not set. */
  country: z.string().regex(/^([A-Z]{2})?$/, 'country'),
  labelRule: line(120, 1),
  upsWh: z.number().min(0).max(10_000_000).nullable(),
  upsEfficiency: z.number().min(0.1).max(1),
  pricePerKwh: z.number().min(0).max(1000),
  currency: line(8),
  /** Share of a PoE budget kept free, %. */
  poeHeadroomPct: z.number().min(0).max(90),
  /** Who is told when a line fails; empty for nobody. */
  toldTo: short,
  /**
   * Longest outage that a line's failure may cause, s, and how often a year a line may be taken for dead
   * without reason; null for no wish.
   */
  mostOutageS: seconds.nullable(),
  mostFalseAlarms: z.number().min(0).max(1_000_000).nullable(),
})

export const planSchema = z.strictObject({
  format: z.literal(PLAN_FORMAT),
  version: z.literal(PLAN_VERSION),
  site: siteFacts,
  brief,
  /** Models of the planner's own, beside the catalogue. */
  models: list(model, 500),
  templates: list(portTemplate, 500),
  networks: list(network, 4094),
  devices: list(device, 5000),
  links: list(link, 20_000),
  ssids: list(ssid, 200),
  wifi,
  uplinks: list(uplink, 50),
  groups: list(group, 200),
  schedules: list(schedule, 50),
  services: list(service, 1000),
  policies: list(policy, 100),
  routes: list(staticRoute, 10_000),
  policyRoutes: list(policyRoute, 1000),
  forwards: list(portForward, 1000),
  ipsec: list(ipsecLink, 200),
  tunnels: list(tunnel, 100),
  intents: list(intent, 10_000),
  work,
})

export interface SiteFacts extends Frozen<z.infer<typeof siteFacts>> {}
export interface Plan extends Frozen<z.infer<typeof planSchema>> {}
