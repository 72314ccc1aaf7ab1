import type { Plan } from '#core/model'
import type { FlowChange } from '#core/reachability'
import { isNothing } from '#core/filter'
import type { Remedy, RemedyCode } from '#core/remedy'
import { servicesText } from './cells'
import { namesIn } from './reach'

type Names = ReturnType<typeof namesIn>
type Say = (v: Remedy['parts'][number]['values'], names: Names, plan: Plan) => string
const port: (v: Remedy['parts'][number]['values'], names: Names, key?: string) => string = (
  v,
  names,
  key = 'port',
) =>
  `${names.device(String(v['device']))} port ${names.port({ deviceId: String(v['device']), portId: String(v[key]) })}`
const ssid = (v: Remedy['parts'][number]['values'], plan: Plan) =>
  plan.ssids.find((s) => s.id === v['ssid'])?.name ?? String(v['ssid'])

// What to change, as an order to whoever plans.
const WORDS: Readonly<Record<RemedyCode, Say>> = {
  'add-rule': (v, names) =>
    `add a rule that accepts it, as rule ${v['number']} of ${names.device(String(v['device']))}`,
  'widen-rule': (v, names) =>
    `let rule ${v['number']} of ${names.device(String(v['device']))} accept these services too`,
  'move-rule': (v, names) =>
    `move rule ${v['from']} of ${names.device(String(v['device']))} up to place ${v['number']}`,
  'remove-rule': (v, names) => `remove rule ${v['number']} of ${names.device(String(v['device']))}`,
  'carry-vlan': (v, names) => `tag VLAN ${v['vlan']} on ${port(v, names)}`,
  'carry-along': (v) => `tag VLAN ${v['vlan']} on all ${v['count']} ports on its way that lack it`,
  'access-port': (v, names) => `make ${port(v, names)} an access port of VLAN ${v['vlan']}`,
  'same-native': (v, names) =>
    v['vlan'] === 0
      ? `leave ${port(v, names)} without a native VLAN, as its other end`
      : `make VLAN ${v['vlan']} native on ${port(v, names)}, as at its other end`,
  'swap-ports': (v, names) =>
    `swap the modes of ${port(v, names)} and port ` +
    `${names.port({ deviceId: String(v['device']), portId: String(v['other']) })}`,
  'swap-cables': (v, names) =>
    `swap the cables in ${port(v, names)} and port ` +
    `${names.port({ deviceId: String(v['device']), portId: String(v['other']) })}`,
  'move-cable': (v, names) =>
    `move the cable in ${port(v, names)} to port ` +
    `${names.port({ deviceId: String(v['device']), portId: String(v['other']) })}`,
  'own-gateway': (v, names) =>
    `give ${names.device(String(v['device']))} the gateway of ${names.network(String(v['network']))}`,
  'own-mask': (v, names) =>
    `give ${names.device(String(v['device']))} the mask of ${names.network(String(v['network']))}`,
  'serve-dhcp': (v, names) => `serve DHCP in ${names.network(String(v['network']))}`,
  'ssid-network': (v, names, plan) => `lead SSID ${ssid(v, plan)} to ${names.network(String(v['network']))}`,
  'end-isolation': (v, _, plan) => `let the stations of SSID ${ssid(v, plan)} hear each other`,
  'take-next-line': (v, names) =>
    `let ${names.choice(String(v['policyRoute']))} take the next line while its own is down`,
  'allow-prefix': (v, names) =>
    `add ${v['prefix']} to what ${names.peer(String(v['peer']))} allows, at the far end too`,
  'forward-port': (v, names) =>
    `forward ${v['proto']} ${v['port']} on ${names.uplink(String(v['line']))} to ${v['to']}`,
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
    (f) =>
      `${names.key(f.from)} to ${names.key(f.to)} ` +
      `${[...part('lets pass unasked', f.opened), ...part('no longer passes', f.closed)].join(', ')}`,
  )
  return `Beside it: ${lines.slice(0, 3).join('; ')}${lines.length > 3 ? `; and ${lines.length - 3} more` : ''}.`
}
