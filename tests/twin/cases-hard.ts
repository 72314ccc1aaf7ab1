import { down, upstreamDown, type FailureScenario } from '#core/queries'
import { cat6, device, hosts, inNetwork, internet, link, ports, rule, trunk, wifi } from '#server/demo/build'
import { portOf, the, type LoosePlan } from '../plans'
import { rules, spare } from './parts'

// Sites that stand at the edge of a definition, and mistakes that people make: what the kernel does is right.

export type HardCase = readonly [what: string, change: (plan: LoosePlan) => void, scenario: FailureScenario]

/** An access point on a port of the small site's switch, with one host of an SSID of the staff's network. */
export function accessPoint(plan: LoosePlan, id: string, at: string, ssids: readonly string[], model = '') {
  plan.devices.push(
    device(
      id,
      `AP ${id}`,
      'access-point',
      model,
      'Room',
      'management',
      ports({ 1: trunk(99, 10), radio: { mode: 'radio' } }),
    ),
  )
  const [switchId = '', port = ''] = at.split(':')
  portOf(plan, switchId, `p${port}`).mode = trunk(99, 10)
  plan.links.push(link(at, `${id}:1`, cat6(4)))
  for (const ssidId of ssids) {
    const station = `${id}-${ssidId}`
    plan.devices.push(hosts(station, `Station ${station}`, 'Room', 'staff', 1))
    plan.links.push(link(`${id}:radio`, `${station}:1`, wifi(ssidId)))
    const ssid = plan.ssids.find((one) => one.id === ssidId)
    if (ssid) ssid.apIds.push(id)
    else plan.ssids.push({ id: ssidId, name: ssidId, networkId: 'staff', isolation: true, apIds: [id] })
  }
}

/** Two access points of one SSID, the second of two SSIDs that both isolate. */
export const twoAccessPoints =
  (model: string) =>
  (plan: LoosePlan): void => {
    accessPoint(plan, 'near', 'sw:4', ['air'], model)
    const sw = plan.devices.find((one) => one.id === 'sw')
    sw?.ports.push({ ...portOf(plan, 'sw', 'p4'), id: 'p5', name: '5' })
    accessPoint(plan, 'far', 'sw:5', ['air', 'yard'], model)
  }

/** A network of public addresses that the first line's provider routes here, open to the internet by one rule. */
export const publicNetwork = (plan: LoosePlan): void => {
  spare(plan)
  const line = the(plan.uplinks, 'line')
  line.facts = { ...line.facts, routed4: ['203.0.113.0/24'] }
  Object.assign(the(plan.networks, 'servers'), { subnet: '203.0.113.0/26', gateway: '203.0.113.1' })
  Object.assign(the(plan.networks, 'servers').fixed[0]!, { ip: '203.0.113.10' })
  rules(plan).push(rule('in', internet, inNetwork('servers'), ['https', 'ping'], 'The public reads the box'))
  rules(plan).push(rule('out', inNetwork('servers'), internet, [], 'The box goes out'))
}

export const HARD: readonly HardCase[] = [
  ['isolation that ends at each access point, with two SSIDs at one', twoAccessPoints('A2X'), []],
  ['isolation across all access points', twoAccessPoints('A2'), []],
  ['a network of public addresses', publicNetwork, []],
  ['a network of public addresses whose line is down', publicNetwork, [down('line')]],
  ['a network of public addresses whose line is dark', publicNetwork, [upstreamDown('line')]],
  [
    'a network of public addresses that nobody routes here',
    (plan) => (publicNetwork(plan), void (the(plan.uplinks, 'line').facts.routed4 = [])),
    [],
  ],
]
