import type { Mistake, MistakeCode } from '#core/diagnose'
import type { Plan } from '#core/schema'
import { namesIn } from './reach'

type Say = (v: Mistake['values'], names: ReturnType<typeof namesIn>, plan: Plan) => string
const port: (v: Mistake['values'], names: ReturnType<typeof namesIn>) => string = (values, names) =>
  `${names.device(String(values['device']))} port ` +
  `${names.port({ deviceId: String(values['device']), portId: String(values['port']) })}`
const rule = (values: Mistake['values'], plan: Plan) => {
  const note = plan.policies.flatMap((p) => p.rules).find((r) => r.id === values['rule'])?.note
  return `Rule ${values['number']}${note ? ` (${note})` : ''}`
}
const service = (id: unknown, plan: Plan) => plan.services.find((s) => s.id === id)?.name ?? String(id)

// What may have gone wrong, as one says it to whoever stands at the rack, and where to look.
const WORDS: Readonly<Record<MistakeCode, Say>> = {
  'link-down': (v, names) => `The cable ${names.thing(String(v['link']))} is not plugged or broken`,
  'device-off': (v, names) => `${names.device(String(v['device']))} is off`,
  'line-down': (v, names) => `${names.uplink(String(v['line']))} is down`,
  'line-dark': (v, names) => `${names.uplink(String(v['line']))}: nothing answers beyond the modem`,
  'wan-tag': (v, names) => `${names.uplink(String(v['line']))} is connected without tag ${v['tag']}`,
  'vlan-missing': (v, names) => `VLAN ${v['vlan']} is missing on ${port(v, names)}`,
  'wrong-pvid': (v, names) => `${port(v, names)} is an access port of VLAN ${v['vlan']}`,
  'native-differs': (v, names) => `Untagged frames on ${port(v, names)} are taken for VLAN ${v['vlan']}`,
  'cables-swapped': (values, names) =>
    `Cables swapped: ${port(values, names)} and ` +
    `${names.port({ deviceId: String(values['device']), portId: String(values['other']) })}`,
  'gateway-mistyped': (v, names) => `${names.device(String(v['device']))} has ${v['ip']} for its gateway`,
  'mask-mistyped': (v, names) => `${names.device(String(v['device']))} has a mask of /${v['length']}`,
  'plugged-elsewhere': (values, names) =>
    `The cable for ${port(values, names)} is in port ` +
    `${names.port({ deviceId: String(values['device']), portId: String(values['other']) })}`,
  'bad-pair': (v, names) => `${names.thing(String(v['link']))}: a broken pair, or an old patch cord`,
  'lan-overlap': (values, names) =>
    `${names.uplink(String(values['line']))}: the modem gives the gateway an address of a network the site has itself`,
  'modem-routes': (values, names) =>
    `${names.uplink(String(values['line']))}: the modem routes, so that nobody outside can call`,
  'second-dhcp': (v, names) => `Another DHCP server answers in ${names.network(String(v['network']))}`,
  'dhcp-off': (v, names) => `No DHCP in ${names.network(String(v['network']))}`,
  'rule-missing': (v, _, plan) => `${rule(v, plan)} is missing`,
  'rule-reversed': (v, _, plan) => `${rule(v, plan)} has its ends the wrong way round`,
  'rule-late': (v, _, plan) => `${rule(v, plan)} stands at the end`,
  'service-missing': (v, _, plan) => `${rule(v, plan)} lacks ${service(v['service'], plan)}`,
  'ssid-vlan': (values, names, plan) =>
    `SSID ${plan.ssids.find((s) => s.id === values['ssid'])?.name ?? values['ssid']} leads to ` +
    `${names.network(String(values['network']))}`,
  'peer-down': (values, names) =>
    `The tunnel with ${names.peer(String(values['peer']))} is down: nobody there, or nothing arrives`,
  'key-mismatch': (values, names) =>
    `A key of the tunnel with ${names.peer(String(values['peer']))} is another than planned`,
  'allowed-wrong': (v, names) => `${names.peer(String(v['peer']))} does not allow ${v['prefix']}`,
  'not-forwarded': (v) => `Port forward ${v['forward']} is not set`,
}
export const mistakeWords = (m: Mistake, plan: Plan): string => WORDS[m.code](m.values, namesIn(plan), plan)

const SHEET: Readonly<Record<string, string>> = {
  devices: 'loom',
  ssids: 'loom',
  networks: 'addresses',
  policies: 'rules',
  uplinks: 'uplinks',
  forwards: 'uplinks',
  tunnels: 'tunnels',
}
/** Sheet on which the plan says how it should be; empty for what is plugged and powered. */
export const sheetOfMistake = (m: Mistake): string => SHEET[m.changes[0]?.path[0] ?? ''] ?? ''
