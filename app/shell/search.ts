import type { Plan } from '#core/schema'
import type { ActionId } from './actions'

/** Something that can be gone to: what one reads, what it is, further words by which it is found, and where it is. */
export interface SearchEntry {
  readonly name: string
  readonly kind: string
  readonly words?: string
  readonly sheet: string
  readonly network?: string
  readonly device?: string
}
/** Something to do: by the button of its sheet, where it has one to press. */
export interface ActionEntry extends SearchEntry {
  readonly action?: ActionId
  /** List of the plan whose first row one goes to. */
  readonly list?: 'networks' | 'devices'
  /** Who may: everybody, whoever works on the site, or whoever edits the plan. */
  readonly who: 'all' | 'works' | 'edits'
}

/** Actions by the words that people look for, and the sheet that has the button. */
export const ACTIONS: readonly ActionEntry[] = [
  {
    name: 'Add a network',
    kind: 'on Addresses',
    words: 'new create vlan subnet',
    sheet: 'addresses',
    action: 'add-network',
    who: 'edits',
  },
  {
    name: 'Delete or rename a network',
    kind: 'on Addresses',
    words: 'remove vlan',
    sheet: 'addresses',
    list: 'networks',
    who: 'edits',
  },
  {
    name: 'Import networks from CSV',
    kind: 'on Addresses',
    words: 'spreadsheet upload',
    sheet: 'addresses',
    action: 'import-networks',
    who: 'edits',
  },
  {
    name: 'Assign subnets',
    kind: 'on Addresses',
    words: 'allocate propose',
    sheet: 'addresses',
    action: 'assign-subnets',
    who: 'edits',
  },
  {
    name: 'Reserve an address',
    kind: 'on Addresses',
    words: 'add static fixed reservation',
    sheet: 'addresses',
    action: 'reserve-address',
    who: 'edits',
  },
  {
    name: 'Add a device',
    kind: 'on Loom',
    words: 'new create switch access point host',
    sheet: 'loom',
    action: 'add-device',
    who: 'edits',
  },
  {
    name: 'Delete or rename a device',
    kind: 'on Loom',
    words: 'remove move place model',
    sheet: 'loom',
    list: 'devices',
    who: 'edits',
  },
  {
    name: 'Add a Wi-Fi name',
    kind: 'on Loom',
    words: 'new create ssid wireless wlan',
    sheet: 'loom',
    action: 'add-ssid',
    who: 'edits',
  },
  {
    name: 'Set ports',
    kind: 'on Loom',
    words: 'vlan access trunk native tagged',
    sheet: 'loom',
    action: 'set-ports',
    who: 'edits',
  },
  {
    name: 'Mend trunks',
    kind: 'on Loom',
    words: 'vlan tagged repair',
    sheet: 'loom',
    action: 'mend-trunks',
    who: 'edits',
  },
  {
    name: 'Add an uplink',
    kind: 'on Brief',
    words: 'new create uplink wan internet connection',
    sheet: 'brief',
    action: 'add-uplink',
    who: 'edits',
  },
  {
    name: 'Rename the site',
    kind: 'on Brief',
    words: 'site name address block country',
    sheet: 'brief',
    who: 'edits',
  },
  {
    name: 'Add a port forward',
    kind: 'on Uplinks',
    words: 'new create nat open port',
    sheet: 'uplinks',
    action: 'add-port-forward',
    who: 'edits',
  },
  {
    name: 'Add a static route',
    kind: 'on Uplinks',
    words: 'new create next hop',
    sheet: 'uplinks',
    who: 'edits',
  },
  {
    name: 'Add a tunnel',
    kind: 'on Tunnels',
    words: 'new create vpn wireguard peer',
    sheet: 'tunnels',
    action: 'add-tunnel',
    who: 'edits',
  },
  {
    name: 'Import a tunnel from a file',
    kind: 'on Tunnels',
    words: 'vpn wireguard conf upload',
    sheet: 'tunnels',
    action: 'import-tunnel',
    who: 'edits',
  },
  {
    name: 'Add a rule',
    kind: 'on Rules',
    words: 'new create firewall allow deny',
    sheet: 'rules',
    action: 'add-rule',
    who: 'edits',
  },
  {
    name: 'Add an intent',
    kind: 'on Rules',
    words: 'new create allow',
    sheet: 'rules',
    action: 'add-intent',
    who: 'edits',
  },
  {
    name: 'Import equipment from CSV',
    kind: 'on Equipment',
    words: 'serials boxes upload',
    sheet: 'equipment',
    action: 'import-equipment',
    who: 'edits',
  },
  { name: 'Claim a serial', kind: 'on Roster', words: 'adopt device', sheet: 'roster', who: 'works' },
  {
    name: 'Run tests in the lab',
    kind: 'on Acceptance tests',
    words: 'prove check',
    sheet: 'prove',
    who: 'works',
  },
  {
    name: 'Record a result',
    kind: 'on Acceptance tests',
    words: 'test passed failed',
    sheet: 'prove',
    who: 'works',
  },
  {
    name: 'Export the site',
    kind: 'on As-built papers',
    words: 'download backup save file',
    sheet: 'hand-over',
    who: 'all',
  },
  {
    name: 'Restore a revision',
    kind: 'on Revisions',
    words: 'history undo older',
    sheet: 'revisions',
    who: 'edits',
  },
]

const ofNetworks = (plan: Plan): readonly SearchEntry[] =>
  plan.networks.flatMap((network) => [
    {
      name: `${network.name} ${network.vlan} ${network.subnet}`,
      kind: 'network',
      words: `${network.gateway} vlan`,
      sheet: 'addresses',
      network: network.id,
    },
    ...network.fixed.map((fixed) => ({
      name: `${fixed.ip} ${fixed.name}`,
      kind: fixed.how === 'static' ? 'static address' : 'reservation',
      words: fixed.mac ?? '',
      sheet: 'addresses',
      network: network.id,
    })),
  ])

const ofDevices = (plan: Plan): readonly SearchEntry[] =>
  plan.devices
    .filter((device) => device.kind !== 'cloud')
    .map((device) => ({
      name: device.name,
      kind: device.kind,
      words: `${device.model} ${device.place} device`,
      sheet: 'loom',
      device: device.id,
    }))

const ofPolicy = (plan: Plan): readonly SearchEntry[] => [
  ...plan.intents.map((intent) => ({ name: intent.note || intent.id, kind: 'intent', sheet: 'rules' })),
  ...plan.policies.flatMap((policy) =>
    policy.rules.map((rule) => ({ name: rule.note || rule.id, kind: 'rule', sheet: 'rules' })),
  ),
  ...plan.groups.map((group) => ({ name: group.name, kind: 'group', sheet: 'rules' })),
  ...plan.services.map((service) => ({ name: service.name, kind: 'service', sheet: 'rules' })),
]

/** Everything of a plan that has a name, an address, a VLAN, a serial or a MAC address. */
export const entriesOf = (plan: Plan): readonly SearchEntry[] => [
  ...ofNetworks(plan),
  ...ofDevices(plan),
  ...plan.ssids.map((ssid) => ({ name: ssid.name, kind: 'Wi-Fi name', words: 'ssid', sheet: 'loom' })),
  ...plan.uplinks.map((uplink) => ({
    name: uplink.name,
    kind: 'uplink',
    words: 'wan line',
    sheet: 'uplinks',
  })),
  ...plan.tunnels.flatMap((tunnel) => [
    { name: tunnel.name, kind: 'tunnel', words: `${tunnel.address} vpn`, sheet: 'tunnels' },
    ...tunnel.peers.map((peer) => ({
      name: peer.name,
      kind: 'peer',
      words: peer.allowed.join(' '),
      sheet: 'tunnels',
    })),
  ]),
  ...ofPolicy(plan),
  ...plan.brief.equipment.map((box) => ({
    name: box.serial || box.model,
    kind: 'box',
    words: `${box.mac ?? ''} ${box.model} serial`,
    sheet: 'equipment',
  })),
]

/** Those in which all words occur, names that begin with them first. */
export function search<Entry extends SearchEntry>(
  entries: readonly Entry[],
  sought: string,
): readonly Entry[] {
  const words = sought.toLowerCase().split(/\s+/).filter(Boolean)
  const text = ({ name, kind, words: more = '' }: Entry) => `${name} ${kind} ${more}`.toLowerCase()
  const met = entries.filter((entry) => words.every((word) => text(entry).includes(word)))
  const begins = (entry: Entry) => entry.name.toLowerCase().startsWith(words[0] ?? '')
  return [...met.filter(begins), ...met.filter((entry) => !begins(entry))]
}
