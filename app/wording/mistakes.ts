import type { Mistake, MistakeCode } from '#core/diagnose'
import type { Plan } from '#core/schema'
import { namesIn } from './names'

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
  'uplink-down': (v, names) => `${names.uplink(String(v['uplink']))} is down`,
  'upstream-down': (v, names) => `${names.uplink(String(v['uplink']))}: nothing answers beyond the modem`,
  'wan-tag': (v, names) => `${names.uplink(String(v['uplink']))} is connected without tag ${v['tag']}`,
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
    `${names.uplink(String(values['uplink']))}: the modem gives the gateway an address of one of the site’s networks`,
  'modem-routes': (values, names) =>
    `${names.uplink(String(values['uplink']))}: the modem routes, so that nobody outside can call`,
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

// One of several alike, of which nothing tells which it is.
const ONE_OF: Readonly<Record<MistakeCode, (n: number) => string>> = {
  'link-down': (n) => `One of ${n} cables is not plugged or broken`,
  'device-off': (n) => `One of ${n} devices is off`,
  'uplink-down': (n) => `One of ${n} uplinks is down`,
  'upstream-down': (n) => `Beyond one of ${n} modems nothing answers`,
  'wan-tag': (n) => `One of ${n} uplinks is connected without its tag`,
  'vlan-missing': (n) => `A VLAN is missing on one of ${n} ports`,
  'wrong-pvid': (n) => `One of ${n} access ports is in another VLAN`,
  'native-differs': (n) => `Untagged frames on one of ${n} trunks are taken for another VLAN`,
  'cables-swapped': (n) => `Two cables are swapped, one of ${n} pairs`,
  'gateway-mistyped': (n) => `One of ${n} hosts has another gateway`,
  'mask-mistyped': (n) => `One of ${n} hosts has another mask`,
  'plugged-elsewhere': (n) => `A cable is in another port, one of ${n} ways`,
  'bad-pair': (n) => `One of ${n} cables has a broken pair, or an old patch cord`,
  'lan-overlap': (n) => `One of ${n} modems gives the gateway an address of one of the site’s networks`,
  'modem-routes': (n) => `One of ${n} modems routes, so that nobody outside can call`,
  'second-dhcp': (n) => `Another DHCP server answers in one of ${n} networks`,
  'dhcp-off': (n) => `No DHCP in one of ${n} networks`,
  'rule-missing': (n) => `One of ${n} rules is missing`,
  'rule-reversed': (n) => `One of ${n} rules has its ends the wrong way round`,
  'rule-late': (n) => `One of ${n} rules stands at the end`,
  'service-missing': (n) => `A rule lacks a service, one of ${n}`,
  'ssid-vlan': (n) => `An SSID leads to another network, one of ${n} ways`,
  'peer-down': (n) => `One of ${n} tunnels is down: nobody there, or nothing arrives`,
  'key-mismatch': (n) => `A key of one of ${n} tunnels is another than planned`,
  'allowed-wrong': (n) => `A far end does not allow a prefix, one of ${n}`,
  'not-forwarded': (n) => `One of ${n} port forwards is not set`,
}
export const oneOfWords = (code: MistakeCode, n: number): string => ONE_OF[code](n)
