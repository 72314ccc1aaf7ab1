import type { FailureScenario } from '#core/queries'
import { cat6, device, hosts, link, ports, trunk, wifi } from '#server/demo/build'
import { portOf, type LoosePlan } from '../plans'

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

export const HARD: readonly HardCase[] = [
  ['isolation that ends at each access point, with two SSIDs at one', twoAccessPoints('A2X'), []],
  ['isolation across all access points', twoAccessPoints('A2'), []],
]
