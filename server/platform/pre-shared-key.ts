import { pbkdf2Sync } from 'node:crypto'

/** The key that stations make: 4,096 rounds of PBKDF2 with the SSID as salt (IEEE 802.11-2020, J.4.1). */
export const preSharedKey = (passphrase: string, ssid: string): string =>
  pbkdf2Sync(passphrase, ssid, 4096, 32, 'sha1').toString('hex')
