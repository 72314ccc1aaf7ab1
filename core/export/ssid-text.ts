// How an SSID's name and its security are called in the files of hostapd and wpa_supplicant.
// Source: the commented examples of hostapd.conf and wpa_supplicant.conf, 2.10.
import type { Ssid } from '#core/schema'

/** The octets of a text in UTF-8, which is how it is escaped in a URI (RFC 3986, section 2.5). */
export const hexOf = (text: string): string =>
  [...encodeURIComponent(text).matchAll(/%(..)|./g)]
    .map(([letter, escaped]) => escaped?.toLowerCase() ?? letter.charCodeAt(0).toString(16).padStart(2, '0'))
    .join('')

/** Protected management frames: 0 none, 1 where a station can, 2 always. */
export const KEYS: Readonly<
  Record<NonNullable<Ssid['settings']['security']>, readonly [management: string, frames: 0 | 1 | 2]>
> = {
  open: ['', 0],
  owe: ['OWE', 2],
  wpa2: ['WPA-PSK', 1],
  'wpa2-wpa3': ['WPA-PSK SAE', 1],
  wpa3: ['SAE', 2],
  enterprise: ['WPA-EAP', 1],
}
