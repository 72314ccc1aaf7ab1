// Question: what does an extender, or an access point, have to be told so that it joins the SSID of another?
// Method: one network, named as hexadecimal, so that no letter of it can end a line. Its passphrase is none of a plan:
// where it is to be written is said.
// Source: wpa_supplicant.conf of wpa_supplicant 2.10, its commented example; wpa_supplicant 2.10 reads what is written.
import type { Device, Plan, Ssid } from '#core/schema'
import { repeatsOf } from '#core/wifi'
import { hashComment } from './hash-comment'
import { hexOf, KEYS } from './ssid-text'

function securityLines({ settings: { security } }: Ssid): string[] {
  if (security === null) return ['# Nobody has said how it is secured: add it before this is loaded.']
  const [management, frames] = KEYS[security]
  if (management === '') return ['key_mgmt=NONE']
  return [
    `key_mgmt=${management}`,
    'pairwise=CCMP',
    `ieee80211w=${frames}`,
    ...(security === 'owe' || security === 'enterprise'
      ? []
      : ['# psk: write it on the device, it is no part of the plan.']),
    ...(security === 'enterprise' ? ['# eap, identity and password: write them on the device.'] : []),
  ]
}

/** The file of an extender or access point that has joined an SSID; none of any other device. */
export function supplicantFiles(
  plan: Plan,
  device: Device,
): { readonly name: string; readonly text: string }[] {
  const repeat = repeatsOf(plan).find(({ deviceId }) => deviceId === device.id)
  const ssid = plan.ssids.find(({ id }) => id === repeat?.ssidId)
  if (!ssid) return []
  const { country } = plan.site
  const medium = plan.links.find(({ id }) => id === repeat?.linkId)?.medium
  const suffix = medium?.kind === 'wifi' ? medium.suffix : ''
  // What sends SSIDs has its radios for that, and joins by an interface beside them.
  const own = repeat?.isExtender ? 'wlan0' : 'sta0'
  const lines = [
    hashComment(device.name),
    ...(repeat?.isExtender ? [] : [`# Before it joins: iw dev wlan0 interface add ${own} type managed`]),
    ...(repeat?.mode === 'bridge'
      ? [`# Before it joins: iw dev ${own} set 4addr on, and ${own} into the bridge; tags pass then.`]
      : []),
    ...(suffix === '' ? [] : [hashComment(`It sends on as ${ssid.name}${suffix}.`)]),
    ...(country === '' ? [] : [`country=${country}`]),
    'network={',
    ...[
      hashComment(ssid.name),
      `ssid=${hexOf(ssid.name)}`,
      ...(ssid.settings.hidden ? ['scan_ssid=1'] : []),
      ...securityLines(ssid),
    ].map((line) => `\t${line}`),
    '}',
  ]
  return [{ name: `wpa_supplicant-${own}.conf`, text: `${lines.join('\n')}\n` }]
}
