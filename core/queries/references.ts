// Question: which references of a plan name something that is not there, or that is taken?
// Method: cables, SSIDs, forwards, routes and intents against what they name; rules and groups are judged elsewhere,
// since a rule that names nothing is still a rule.
// Source: the plan's own semantics; no figures used.
import type { Link, Plan, PortRef } from '#core/schema'
import { failableThings } from './failable'
import { RAIN_ID } from './failure-scenario'
import { portKey } from './plan-index'

export interface DanglingReference {
  readonly code: 'names-nothing' | 'port-taken' | 'from-after-to'
  /** The field, from the plan's root. */
  readonly path: readonly (string | number)[]
  /** How many steps of the path lead to the item of a list that is nothing without it. */
  readonly itemSteps: number
  /** What it names. */
  readonly text: string
}

const missing = (path: DanglingReference['path'], itemSteps: number, text: string): DanglingReference => ({
  code: 'names-nothing',
  path,
  itemSteps,
  text,
})

/** Of cables one leads to a port; what goes through the air shares it. */
const isPlugged = ({ medium }: Link): boolean =>
  medium.kind === 'copper' || medium.kind === 'fibre' || medium.kind === 'line'

function ofLinks({ devices, links, ssids }: Plan): DanglingReference[] {
  const ports = new Set(
    devices.flatMap(({ id, ports: own }) => own.map((port) => portKey({ deviceId: id, portId: port.id }))),
  )
  const ssidIds = new Set(ssids.map(({ id }) => id))
  const taken = new Set<string>()
  return links.flatMap((link, i): DanglingReference[] => {
    const found = (['a', 'b'] as const).flatMap((end): DanglingReference[] => {
      const ref: PortRef = link[end]
      const key = portKey(ref)
      if (!ports.has(key)) return [missing(['links', i, end], 2, key)]
      if (!isPlugged(link)) return []
      if (taken.size < taken.add(key).size) return []
      return [{ code: 'port-taken', path: ['links', i, end], itemSteps: 2, text: key }]
    })
    const { medium } = link
    if (medium.kind !== 'wifi' || ssidIds.has(medium.ssidId)) return found
    return [...found, missing(['links', i, 'medium', 'ssidId'], 2, medium.ssidId)]
  })
}

function ofSsids({ devices, networks, ssids }: Plan): DanglingReference[] {
  const [deviceIds, networkIds] = [
    new Set(devices.map(({ id }) => id)),
    new Set(networks.map(({ id }) => id)),
  ]
  return ssids.flatMap(({ networkId, apIds }, i) => [
    ...(networkIds.has(networkId) ? [] : [missing(['ssids', i, 'networkId'], 2, networkId)]),
    ...apIds.flatMap((id, n) => (deviceIds.has(id) ? [] : [missing(['ssids', i, 'apIds', n], 4, id)])),
  ])
}

/** Radios, places and what was heard, of devices that are there. */
function ofWifi({ devices, wifi }: Plan): DanglingReference[] {
  const ids = new Set(devices.map(({ id }) => id))
  return (['radios', 'placements', 'foreign'] as const).flatMap((list) =>
    wifi[list].flatMap(({ deviceId }, i) =>
      ids.has(deviceId) ? [] : [missing(['wifi', list, i, 'deviceId'], 3, deviceId)],
    ),
  )
}

function ofWaysOut({ devices, uplinks, tunnels, forwards, routes, policyRoutes }: Plan): DanglingReference[] {
  const deviceIds = new Set(devices.map(({ id }) => id))
  const exits = new Set<string>([...uplinks, ...tunnels].map(({ id }) => id))
  const owner = (list: string, i: number, deviceId: (typeof devices)[number]['id']) =>
    deviceIds.has(deviceId) ? [] : [missing([list, i, 'deviceId'], 2, deviceId)]
  return [
    ...forwards.flatMap(({ deviceId, uplinkId, from, to }, i): DanglingReference[] => [
      ...owner('forwards', i, deviceId),
      ...(exits.has(uplinkId) ? [] : [missing(['forwards', i, 'uplinkId'], 2, uplinkId)]),
      ...(from > to
        ? [
            {
              code: 'from-after-to' as const,
              path: ['forwards', i, 'to'],
              itemSteps: 2,
              text: `${from}-${to}`,
            },
          ]
        : []),
    ]),
    ...routes.flatMap(({ deviceId }, i) => owner('routes', i, deviceId)),
    ...policyRoutes.flatMap(({ deviceId, out }, i) => [
      ...owner('policyRoutes', i, deviceId),
      ...(exits.has(out.id) ? [] : [missing(['policyRoutes', i, 'out', 'id'], 2, out.id)]),
    ]),
  ]
}

function ofIntents(plan: Plan): DanglingReference[] {
  const known = new Set([RAIN_ID, ...failableThings(plan).map(({ id }) => id)])
  return plan.intents.flatMap(({ survives }, i) =>
    survives.flatMap((id, n) => (known.has(id) ? [] : [missing(['intents', i, 'survives', n], 4, id)])),
  )
}

/** Every such reference, list by list. */
export const danglingReferences = (plan: Plan): DanglingReference[] => [
  ...ofLinks(plan),
  ...ofSsids(plan),
  ...ofWifi(plan),
  ...ofWaysOut(plan),
  ...ofIntents(plan),
]
