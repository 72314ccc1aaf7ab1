import type { Blocks, CheckCode, FactKey } from '#core/brief'

// What each fact is called and how to find it out; what each item of the checklist asks for.

interface FactWords {
  readonly name: string
  readonly ask: string
}

export const FACTS: Readonly<Record<string, FactWords>> & Readonly<Record<FactKey, FactWords>> = {
  credentials: {
    name: 'user name and password',
    ask: 'Where are they kept? The provider sends them again on request.',
  },
  tagging: { name: 'VLAN tag', ask: 'Does the provider want a tag, and which? The old router shows it.' },
  'priority-tag': { name: '802.1p priority', ask: 'Which priority goes with the tag? Usually 0.' },
  'mac-lock': { name: 'MAC lock', ask: 'Is the uplink tied to the old router’s MAC address?' },
  'link-speed': { name: 'link speed', ask: 'Negotiated, or forced by the provider’s box?' },
  'contracted-speed': { name: 'contracted speed', ask: 'Down and up, in Mb/s, from the contract.' },
  'data-cap': { name: 'data cap', ask: 'GB a month; 0 for none.' },
  'public-address': {
    name: 'outside address',
    ask: 'An address of one’s own, or shared by the provider? Compare the WAN address with what the outside sees.',
  },
  'static-address': { name: 'static address', ask: 'Address, mask and gateway from the contract.' },
  'static-dns': { name: 'name servers', ask: 'Two addresses from the contract.' },
  'modem-mode': { name: 'modem mode', ask: 'Does the box in front bridge or route?' },
  sim: { name: 'SIM', ask: 'The number printed on it. Its PIN stays where it is kept.' },
  apn: { name: 'access point name', ask: 'From the contract.' },
  antennas: { name: 'antennas', ask: 'How many, where, and how far do their feeders run?' },
  signal: { name: 'signal', ask: 'Measure it where the antennas will be; the modem’s page shows it in dBm.' },
  price: { name: 'price', ask: 'A month, and each GB beyond what it allows.' },
  distance: { name: 'distance', ask: 'Metres along the way a cable or the air would take.' },
  headcount: { name: 'people', ask: 'How many work there?' },
  clients: { name: 'clients', ask: 'How many devices at once?' },
  serial: { name: 'serial', ask: 'Read it off the label.' },
  'reservation-mac': { name: 'MAC address', ask: 'A reservation is kept by it; read it off the label.' },
  'far-subnets': { name: 'subnets', ask: 'Ask the other site for its address plan.' },
  country: { name: 'country', ask: 'Where do the radios stand?' },
  'other-way': {
    name: 'another way out',
    ask: 'How do you get onto the internet while the uplinks are down?',
  },
}

export const BLOCKED: Readonly<Record<Blocks, string>> = {
  plan: 'Plan',
  rehearse: 'Rehearse',
  stage: 'Stage',
  adopt: 'Adopt',
  prove: 'Prove',
  'hand-over': 'Hand over',
}

export const CHECKS: Readonly<Record<CheckCode, string>> = {
  'other-way': 'Have another way onto the internet, and try it',
  photograph: 'Photograph the wiring, the lights and every label, front and back',
  kind: 'Note the kind of uplink',
  credentials: 'Have user name and password at hand, tried once on the provider’s page',
  address: 'Note address, mask, gateway and name servers',
  tag: 'Note VLAN tag and priority',
  'mac-lock': 'Find out whether the uplink is tied to a MAC address; note the old router’s',
  'link-speed': 'Note the link speed at the old router’s WAN port',
  'speed-now': 'Measure the speed now, by cable, and write it down',
  modem: 'Note whether the box in front bridges or routes',
  cellular: 'Note SIM, APN, antenna places and signal',
  labels: 'Label each cable at both ends before it is pulled',
  backup: 'Save the old router’s configuration',
  tell: 'Tell people when it will be down, and whom to call',
}
