import type { Device, Model, Uplink } from '#core/schema'

/** What each kind of device is called. */
export const KIND_WORDS: Readonly<Record<Device['kind'], string>> = {
  gateway: 'gateway',
  switch: 'switch',
  unmanaged: 'unmanaged switch',
  'access-point': 'access point',
  'bridge-radio': 'wireless bridge',
  extender: 'Wi-Fi extender',
  injector: 'PoE injector',
  modem: 'modem',
  controller: 'controller',
  telephone: 'telephone',
  hosts: 'hosts',
  cloud: 'internet',
}

/** The same of anything that fails; what is no device is called by itself. */
export const failingWord = (kind: string): string =>
  kind in KIND_WORDS ? KIND_WORDS[kind as Device['kind']] : kind

/** Kinds to choose from, by what they are called. */
export const kindItems = (kinds: readonly Device['kind'][]) =>
  kinds.map((value) => ({ value, title: KIND_WORDS[value] }))

/** How a model is first signed in to. */
export const CREDENTIAL_WORDS: Readonly<Record<Model['credentials'], string>> = {
  label: 'password on its label',
  common: 'shared by all: change it first',
  none: 'none',
}

/** How a line gets its address. */
export const ASSIGNMENT_WORDS: Readonly<Record<Uplink['kind'], string>> = {
  pppoe: 'PPPoE',
  dhcp: 'DHCP',
  static: 'static',
}
