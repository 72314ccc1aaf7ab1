import type { LimitTrouble, PassphraseWeakness, Served } from '#core/wifi'

/** What the findings of Wi-Fi say, by code. */
export interface WifiValues {
  /** An SSID is sent in clear. */
  F01: { ssid: string }
  /** Radios disturb each other more than they have to. */
  F06: { band: string; first: string; second: string; channel: number; dBm: number; key: string }
  /** Beacons take much of the air. */
  F07: { device: string; band: string; percent: number; key: string }
  /** The passphrase that is kept for an SSID is soon guessed. */
  F02: { ssid: string; kind: PassphraseWeakness }
  /** Two SSIDs have one passphrase. */
  F16: { ssid: string; other: string }
  /** The name of an SSID says whose it is. */
  F03: { ssid: string; word: string }
  /** A hidden name, or a list of MAC addresses, which keep nobody out. */
  F09: { ssid: string; kind: 'hidden' | 'mac-list'; key: string }
  /** A radio is set to what its country, or its standard, does not permit. */
  F11: {
    device: string
    band: string
    channel: number
    kind: LimitTrouble
    country: string
    eirpDbm: number
    mostDbm: number
  }
  /** No slowest rate, at many access points. */
  F12: { ssid: string; accessPoints: number }
  /** People work where next to nothing is heard. */
  /** An extender hears too little of what it repeats; `room`: where it would hear enough. */
  F08: { extender: string; from: string; dBm: number; room: string | null; roomDbm: number | null }
  /** More stations are expected than the radios of an access point serve well. */
  F10: { device: string; clients: number; most: number }
  /** Stations of an SSID are moved between bands, and another name of the same network takes some of them away. */
  F13: { ssid: string; other: string; network: string }
  /** An extender is to send an SSID of another network than the one it repeats. */
  F14: { extender: string; ssid: string; network: string; repeats: string; key: string }
  /** A page that greets stations asks for nothing, or never again. */
  F19: { ssid: string; kind: 'terms' | 'minutes'; key: string }
  /** Stations join at the press of a button, or by eight digits. */
  F18: { ssid: string }
  /** An extender hears and sends with one radio. */
  F20: { extender: string; from: string; mbps: number }
  /** An access point hangs higher in a house than rooms are. */
  F21: { device: string; heightM: number; ifFeetM: number }
  F17: { room: string; dBm: number | null; isRead: boolean; better: Served | null }
}

export interface WifiMends {
  'plan-channels': { band: string; radios: number }
  'show-name': { ssid: string }
  'drop-mac-list': { ssid: string }
  'wps-off': { ssid: string }
  'four-address': object
  'lower-power': { device: string; dBm: number }
  'least-rate': { ssid: string; mbps: number }
}
