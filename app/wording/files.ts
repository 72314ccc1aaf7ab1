import type { FileCode } from '#core/export'
import type { Drift, DriftCode, LeftOut, RunningKind } from '#core/ingest'

interface FileWords {
  readonly title: string
  readonly what: string
  /** How it is loaded, and how to see first whether it would be. */
  readonly load: string
}

export const FILE_WORDS: Readonly<Record<FileCode, FileWords>> = {
  nftables: {
    title: 'nftables',
    what:
      'The complete ruleset: filter, marks of the uplinks, translation. Loading it replaces ' +
      'what was there, in one go. Times of a schedule are turned into UTC as it is loaded ' +
      'and days are counted in UTC: load it again when summer time begins or ends.',
    load: 'nft -c -f nftables.conf, then nft -f nftables.conf',
  },
  'ip-batch': {
    title: 'Addresses and routes',
    what:
      'Addresses of its interfaces, planned routes, the choice between uplinks. The default ' +
      'routes come with the uplinks.',
    load: 'ip -force -batch addresses-and-routes.ip',
  },
  'ip6-rules': {
    title: 'Routing rules of IPv6',
    what: 'Whoever has a prefix of a provider goes out by that provider’s uplink.',
    load: 'ip -6 -force -batch ipv6-rules.ip',
  },
  dnsmasq: {
    title: 'DHCP, dnsmasq',
    what: 'Pools, reservations, options; router advertisements where a network speaks IPv6.',
    load: 'dnsmasq --test -C dnsmasq.conf',
  },
  kea: {
    title: 'DHCP, Kea',
    what: 'The same pools, reservations and options for a Kea server.',
    load: 'kea-dhcp4 -t kea-dhcp4.json',
  },
  hostapd: {
    title: 'Wi-Fi, hostapd',
    what:
      'One radio and the SSIDs that it sends, each into the bridge of its VLAN. Passphrases are no part of the plan: ' +
      'the file names where the device keeps them.',
    load: 'hostapd hostapd-wlan0.conf',
  },
  supplicant: {
    title: 'Wi-Fi, wpa_supplicant',
    what:
      'The SSID that the extender joins. Its passphrase is no part of the plan: the file says where it is to be ' +
      'written on the device.',
    load: 'wpa_supplicant -i wlan0 -c wpa_supplicant-wlan0.conf',
  },
  wireguard: {
    title: 'WireGuard',
    what: 'The interface and its peers. The private key is on the Tunnels sheet, and shown on purpose.',
    load: 'wg setconf wg1 wg1.conf',
  },
  'key-follower': {
    title: 'Keys that change',
    what:
      'A peer’s addresses follow whichever of its two keys was heard last. Run it every few ' +
      'seconds until nobody changes any more; what is lost at the change is one pause ' +
      'between two runs.',
    load: 'while sleep 5; do sh wg1-keys.sh; done',
  },
  hosts: { title: 'hosts', what: 'Every fixed address by name.', load: '' },
  unbound: {
    title: 'Names, unbound',
    what: 'The same names as local zones, to be included in its configuration.',
    load: 'unbound-checkconf unbound-local.conf',
  },
  zone: {
    title: 'Zone',
    what: 'A zone file; its serial is the plan’s revision.',
    load: 'named-checkzone ZONE FILE',
  },
  interfaces: {
    title: 'Interfaces, RFC 8343',
    what: 'Interfaces and addresses in the standard modules, as JSON (RFC 7951).',
    load: 'yanglint -t config ietf-interfaces.yang ietf-ip.yang iana-if-type.yang ietf-interfaces.json',
  },
  'access-lists': {
    title: 'Access lists, RFC 8519',
    what:
      'The rules by address alone: these lists know no interfaces and no connections, so ' +
      'answers must be let back by what loads them; nor times, so rules with a schedule are ' +
      'left out.',
    load: '',
  },
  onboarding: { title: 'Onboarding', what: 'What the device is given when it is adopted.', load: '' },
}

export const KIND_WORDS: Readonly<Record<RunningKind, string>> = {
  nft: 'the filter rules',
  address: 'addresses',
  route: 'routes',
  rule: 'the choice between routing tables',
  wireguard: 'WireGuard',
  leases: 'DHCP leases',
}

type Say = (d: Drift) => string
const DRIFTS: Readonly<Record<DriftCode, Say>> = {
  'chain-missing': (d) => `Chain ${d.where} is not loaded`,
  'default-differs': (d) => `Chain ${d.where}: its default is ${d.running}, planned is ${d.planned}`,
  'rule-missing': (drift) =>
    drift.running === '' ? `${drift.where}: planned and not there` : `${drift.where}: says something else`,
  'rule-extra': (d) => `${d.where}: there and not planned`,
  'rule-moved': (d) => `Chain ${d.where}: the order is another`,
  'not-there': (d) => `${d.where} is not there`,
  'address-missing': (d) => `${d.where} lacks its address`,
  'address-extra': (d) => `${d.where} has an address that is not planned`,
  'route-missing': (d) => `No such route to ${d.where}`,
  'route-extra': (d) => `A route to ${d.where} that is not planned`,
  'choice-missing': (d) => `ip rule ${d.where} is missing`,
  'choice-extra': (d) => `ip rule ${d.where} is not planned`,
  'lease-outside': (d) => `${d.where} is leased and lies in no pool`,
  'lease-taken': (d) => `${d.where} is reserved for ${d.planned}`,
  'lease-elsewhere': (d) => `${d.where} has not the address that is reserved for it`,
  'peer-missing': (d) => `${d.where} is no peer there`,
  'peer-unknown': (d) => `${d.where}: a peer that is not planned`,
  'allowed-differs': (d) => `${d.where}: other addresses are allowed`,
  'port-differs': (d) => `${d.where} listens on another port`,
  'key-differs': (d) => `${d.where} has another key`,
  'never-heard': (d) => `${d.where} has never been heard: keys that do not match, or it never called`,
}
export const driftWords = (d: Drift): string => DRIFTS[d.code](d)

const LEFT_OUT: Readonly<Record<LeftOut, (text: string) => string>> = {
  preshared: () => 'A pre-shared key: type it into the gateway beside what is made here.',
  commands: (t) => `Commands (${t}): nothing is run that a file asks for. Read them, and plan what they do.`,
  table: (t) => `Table = ${t}: who goes by the tunnel is said by policy routes.`,
  fwmark: (t) => `FwMark = ${t}`,
  dns: (t) => `DNS ${t}: give it to the networks that go by the tunnel.`,
  addresses: (t) => `Further addresses ${t}: a tunnel has one of each family.`,
  'no-key': () => 'There is no private key in it: type the public key in, or make a pair.',
}
/** What of a WireGuard file a plan has no place for. */
export const leftOutWords = (what: LeftOut, text: string): string => LEFT_OUT[what](text)
