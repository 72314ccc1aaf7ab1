import type { Plan } from '#core/schema'
import type { FlowChange } from '#core/reachability'
import { isNothing } from '#core/filter'
import type { Remedy, RemedyCode } from '#core/remedy'
import { servicesText } from './cells'
import { namesIn, type Names } from './names'

type Say = (v: Remedy['parts'][number]['values'], names: Names, plan: Plan) => string
const port: (v: Remedy['parts'][number]['values'], names: Names, key?: string) => string = (
  values,
  names,
  key = 'port',
) =>
  `${names.device(String(values['device']))} port ` +
  names.port({ deviceId: String(values['device']), portId: String(values[key]) })
const ssid = (values: Remedy['parts'][number]['values'], plan: Plan) =>
  plan.ssids.find((s) => s.id === values['ssid'])?.name ?? String(values['ssid'])

// What to change, as an order to whoever plans.
const WORDS: Readonly<Record<RemedyCode, Say>> = {
  'add-rule': (values, names) =>
    `add a rule that accepts it, as rule ${values['number']} of ${names.device(String(values['device']))}`,
  'widen-rule': (values, names) =>
    `let rule ${values['number']} of ${names.device(String(values['device']))} accept these services too`,
  'move-rule': (values, names) =>
    `move rule ${values['from']} of ${names.device(String(values['device']))} up to place ${values['number']}`,
  'remove-rule': (v, names) => `remove rule ${v['number']} of ${names.device(String(v['device']))}`,
  'carry-vlan': (v, names) => `tag VLAN ${v['vlan']} on ${port(v, names)}`,
  'carry-along': (v) => `tag VLAN ${v['vlan']} on all ${v['count']} ports on its way that lack it`,
  'access-port': (v, names) => `make ${port(v, names)} an access port of VLAN ${v['vlan']}`,
  'same-native': (values, names) =>
    values['vlan'] === 0
      ? `leave ${port(values, names)} without a native VLAN, as its other end`
      : `make VLAN ${values['vlan']} native on ${port(values, names)}, as at its other end`,
  'swap-ports': (values, names) =>
    `swap the modes of ${port(values, names)} and port ` +
    `${names.port({ deviceId: String(values['device']), portId: String(values['other']) })}`,
  'swap-cables': (values, names) =>
    `swap the cables in ${port(values, names)} and port ` +
    `${names.port({ deviceId: String(values['device']), portId: String(values['other']) })}`,
  'move-cable': (values, names) =>
    `move the cable in ${port(values, names)} to port ` +
    `${names.port({ deviceId: String(values['device']), portId: String(values['other']) })}`,
  'own-gateway': (values, names) =>
    `give ${names.device(String(values['device']))} the gateway of ${names.network(String(values['network']))}`,
  'own-mask': (values, names) =>
    `give ${names.device(String(values['device']))} the mask of ${names.network(String(values['network']))}`,
  'serve-dhcp': (v, names) => `serve DHCP in ${names.network(String(v['network']))}`,
  'ssid-network': (v, names, plan) => `lead SSID ${ssid(v, plan)} to ${names.network(String(v['network']))}`,
  'end-isolation': (v, _, plan) => `let the stations of SSID ${ssid(v, plan)} hear each other`,
  'take-next-uplink': (values, names) =>
    `let ${names.choice(String(values['policyRoute']))} take the next uplink while its own is down`,
  'allow-prefix': (values, names) =>
    `add ${values['prefix']} to what ${names.peer(String(values['peer']))} allows, at the far end too`,
  'forward-port': (values, names) =>
    `forward ${values['proto']} ${values['port']} on ${names.uplink(String(values['uplink']))} to ${values['to']}`,
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)

export function remedyWords(remedy: Remedy, plan: Plan): string {
  const names = namesIn(plan)
  return capital(remedy.parts.map((p) => WORDS[p.code](p.values, names, plan)).join(', and '))
}

/** What else a remedy would do, beyond the intents. */
export function asideWords(aside: readonly FlowChange[], plan: Plan): string {
  if (aside.length === 0) return 'Nothing else changes against the intents.'
  const names = namesIn(plan)
  const part = (verb: string, set: FlowChange['opened']) =>
    isNothing(set) ? [] : [`${verb} ${servicesText(set, plan.services)}`]
  const lines = aside.map(
    (change) =>
      `${names.key(change.from)} to ${names.key(change.to)} ` +
      `${[...part('lets pass unasked', change.opened), ...part('no longer passes', change.closed)].join(', ')}`,
  )
  return `Beside it: ${lines.slice(0, 3).join('; ')}${lines.length > 3 ? `; and ${lines.length - 3} more` : ''}.`
}
