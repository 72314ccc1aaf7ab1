import type { LinkSecurity } from '#core/schema'

// How a radio link is encrypted, as people read it.

export const ENCRYPTION_WORDS: Readonly<Record<LinkSecurity | 'unknown', string>> = {
  unknown: '—',
  open: 'none',
  wpa2: 'WPA2',
  wpa3: 'WPA3',
  other: 'its maker’s own',
}
export const encryptionOf = (words: string): LinkSecurity | null =>
  (['open', 'wpa2', 'wpa3', 'other'] as const).find((one) => ENCRYPTION_WORDS[one] === words) ?? null
