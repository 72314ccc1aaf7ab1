import type { DeviceKeyState } from '#contracts/answers'

/** What a device is taken for, shortly; empty where nothing was made for it. */
const SHORT: Readonly<Record<DeviceKeyState, string>> = {
  'secret-made': 'secret made, not used yet',
  'secret-expired': 'secret expired',
  bound: 'known by its key',
  revoked: 'revoked',
}
export const keyWords = (state: DeviceKeyState | null): string => (state ? SHORT[state] : '')

const LONG: Readonly<Record<DeviceKeyState | 'none', string>> = {
  none:
    'A certificate of a maker whom this Able Mast trusts shows which device it is. ' +
    'Where it has none, make a secret for it.',
  'secret-made':
    'A secret was made and not used yet. Whoever comes with it first is taken for this device, ' +
    'by the key they come with.',
  'secret-expired': 'A secret was made, and nobody came with it in time.',
  bound: 'It came with its secret and is known by its key from then on; the secret is worth nothing now.',
  revoked: 'Nothing that it shows is taken, a certificate neither, until a new secret is made.',
}
export const keyExplanation = (state: DeviceKeyState | null): string => LONG[state ?? 'none']
