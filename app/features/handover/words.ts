import type { RosterRow, StepRecord } from '#contracts/api'
import { ADDRESS_COLUMNS, addressRows, PORT_COLUMNS } from '#core/export'
import { expandPairDefaults } from '#core/queries'
import type { Plan, PolicyRoute, Ssid, Tunnel, Uplink } from '#core/schema'
import { STEP_STATES, titleOfId } from '~/wording/activities'
import { dateText } from '~/wording/adoption'
import { servicesNamed } from '~/wording/cells'
import { ASSIGNMENT_WORDS } from '~/wording/kinds'
import { namesIn, type Names } from '~/wording/names'

/** A table of the as-built page. */
export interface PaperSection {
  readonly title: string
  readonly heads: readonly string[]
  readonly rows: readonly (readonly string[])[]
  /** What stands there where there is no row. */
  readonly none: string
}

const NONE = '—'
const listed = (texts: readonly string[]): string => texts.join(', ') || NONE

function probeText({ probe }: Uplink): string {
  if (!probe || probe.targets.length === 0) return 'its own cable alone'
  const quorum = probe.targets.length > 1 ? `, ${probe.quorum} of ${probe.targets.length} silent` : ''
  const rounds = `every ${probe.everyS} s, dead after ${probe.misses} missed${quorum}`
  return `${probe.kind} to ${probe.targets.join(', ')} ${rounds}`
}

function uplinkRow(uplink: Uplink, names: Names): string[] {
  const { facts } = uplink
  return [
    uplink.name,
    names.device(uplink.deviceId),
    String(uplink.priority),
    ASSIGNMENT_WORDS[uplink.kind],
    facts.address ?? (uplink.kind === 'static' ? 'not noted' : 'from the provider'),
    uplink.tag === null ? NONE : String(uplink.tag),
    uplink.downMbps > 0 ? `${uplink.downMbps}/${uplink.upMbps}` : 'not noted',
    probeText(uplink),
    `${uplink.standby}, back after ${uplink.holdDownS} s`,
  ]
}

const ssidRow = ({ name, networkId, apIds, isolation }: Ssid, names: Names): string[] => [
  name,
  names.network(networkId),
  listed(apIds.map((id) => names.device(id))),
  isolation ? 'yes' : 'no',
]

const tunnelRows = (tunnel: Tunnel, names: Names): string[][] =>
  tunnel.peers.map((peer) => [
    tunnel.name,
    names.device(tunnel.deviceId),
    [tunnel.address, ...(tunnel.address6 ? [tunnel.address6] : [])].join(', '),
    String(tunnel.listenPort),
    peer.name,
    peer.endpoint ?? 'dials in',
    listed(peer.allowed),
    peer.publicKey ?? 'none yet',
  ])

const routeRow = (route: PolicyRoute, plan: Plan, names: Names): string[] => [
  names.device(route.deviceId),
  names.selector(route.from),
  servicesNamed(route.services, plan.services),
  route.out.kind === 'uplink' ? names.uplink(route.out.id) : names.tunnel(route.out.id),
  route.orElse === 'next' ? 'the next uplink' : 'nothing',
  route.note || NONE,
]

/** How a site meets the outside and the air: uplinks, SSIDs, tunnels, policy routes. */
function outsideSections(plan: Plan, names: Names): readonly PaperSection[] {
  return [
    {
      title: 'Internet connections',
      heads: ['Uplink', 'On', 'Order', 'Kind', 'Address', 'Tag', 'Mb/s', 'Probe', 'Standby'],
      rows: plan.uplinks.map((uplink) => uplinkRow(uplink, names)),
      none: 'No uplink to the internet.',
    },
    {
      title: 'Wi-Fi',
      heads: ['SSID', 'Network', 'Sent by', 'Client isolation'],
      rows: plan.ssids.map((ssid) => ssidRow(ssid, names)),
      none: 'No SSID is sent.',
    },
    {
      title: 'Tunnels',
      heads: ['Tunnel', 'On', 'Address', 'Port', 'Peer', 'Endpoint', 'Allowed IPs', 'Public key'],
      rows: plan.tunnels.flatMap((tunnel) => tunnelRows(tunnel, names)),
      none: 'No peer of a tunnel.',
    },
    {
      title: 'Policy routes',
      heads: ['On', 'From', 'Services', 'By', 'While that is down', 'Note'],
      rows: plan.policyRoutes.map((route) => routeRow(route, plan, names)),
      none: 'Everybody takes the uplinks in their order.',
    },
  ]
}

const pastText = (past: RosterRow['past']): string =>
  listed(
    past.map((claim) => `${claim.serial}, ${dateText(claim.claimedAtMs)} to ${dateText(claim.releasedAtMs)}`),
  )

const boxRow = (row: RosterRow, names: Names): string[] => [
  names.device(row.deviceId),
  row.serial ?? 'none',
  row.claimedBy ?? NONE,
  pastText(row.past),
]

const ruleRows = (plan: Plan, names: Names): string[][] =>
  plan.policies.flatMap((policy) =>
    expandPairDefaults(policy).rules.map((rule, i) => [
      String(i + 1),
      names.device(policy.deviceId),
      rule.chain,
      rule.action,
      names.selector(rule.from),
      names.selector(rule.to),
      servicesNamed(rule.services, plan.services),
      rule.note || NONE,
    ]),
  )

/** What was last told of a step: by whom, when, what was read and noted. */
const stepRow = (plan: Plan, { activityId, state, reading, note, who, at }: StepRecord): string[] => [
  titleOfId(plan, activityId),
  STEP_STATES[state],
  reading || NONE,
  note || NONE,
  `${who}, ${dateText(at)}`,
]

interface AsBuilt {
  /** Rows of the port map that say something. */
  readonly ports: readonly (readonly string[])[]
  readonly boxes: readonly RosterRow[]
  /** The newest record of each step. */
  readonly steps: readonly StepRecord[]
}

/** What was planned and what serves, for the as-built page, in the order of its sections. */
export function asBuiltSections(plan: Plan, { ports, boxes, steps }: AsBuilt): readonly PaperSection[] {
  const names = namesIn(plan)
  return [
    { title: 'Address plan', heads: ADDRESS_COLUMNS, rows: addressRows(plan), none: 'No network.' },
    ...outsideSections(plan, names),
    {
      title: 'Devices under management',
      heads: ['Device', 'Serial', 'Claimed by', 'Served before'],
      rows: boxes.map((row) => boxRow(row, names)),
      none: 'No managed device.',
    },
    { title: 'Port map', heads: PORT_COLUMNS, rows: ports, none: 'No cable yet.' },
    {
      title: 'Work on site',
      heads: ['Step', 'What became of it', 'Read', 'Note', 'By, when'],
      rows: steps.map((record) => stepRow(plan, record)),
      none: 'Nothing was told of a step.',
    },
    {
      title: 'Rules, in order',
      heads: ['n', 'On', 'Chain', 'Action', 'From', 'To', 'Services', 'Why'],
      rows: ruleRows(plan, names),
      none: 'No rule: the defaults decide alone.',
    },
  ]
}
