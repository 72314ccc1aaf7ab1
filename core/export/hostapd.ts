// Question: what does an access point's radio have to be told so that it sends the plan's SSIDs?
// Method: one file for each radio that sends any; names as hexadecimal, so that no letter of one can end a line.
// Secrets are none of a plan: passphrases stand in a file of the device's own, which is named here.
// Source: hostapd.conf of hostapd 2.10, its commented example; hostapd 2.10 reads what is written.
import { farEnd, joiningEnd } from '#core/queries'
import type { Device, DeviceId, Plan, Ssid } from '#core/schema'
import { apRadios, spanOf, type ApRadio } from '#core/wifi'
import { hashComment } from './hash-comment'
import { hexOf, KEYS } from './ssid-text'

/** What is said of a channel's width: of 80, 160 and 320 MHz beyond 40. */
const CHANNEL_WIDTH = { 20: 0, 40: 0, 80: 1, 160: 2, 320: 9 } as const
const BASE_MHZ = { '2.4': 2407, '5': 5000, '6': 5950 } as const

/** Number of the channel in the middle of a span, as the wide ones are named. */
function middleOf(radio: ApRadio): number | null {
  const span = spanOf(radio)
  return span && ((span.fromMhz + span.toMhz) / 2 - BASE_MHZ[radio.band]) / 5
}

/** Whether the second 20 MHz of a channel lie above its first, or below. */
function secondHalf(radio: ApRadio): string {
  const middle = middleOf({ ...radio, widthMhz: 40 })
  return middle !== null && radio.channel !== null && middle < radio.channel ? '[HT40-]' : '[HT40+]'
}

function widthLines(radio: ApRadio): string[] {
  const { generation, widthMhz, channel, band } = radio
  const isWide = widthMhz >= 80
  const prefixes = [...(band === '6' ? [] : ['vht']), ...(['ax', 'be'].includes(generation) ? ['he'] : [])]
  const middle = middleOf(radio)
  return [
    ...(band !== '6' && widthMhz >= 40 && channel !== null ? [`ht_capab=${secondHalf(radio)}`] : []),
    ...(isWide && middle !== null
      ? prefixes.flatMap((prefix) => [
          `${prefix}_oper_chwidth=${CHANNEL_WIDTH[widthMhz]}`,
          `${prefix}_oper_centr_freq_seg0_idx=${middle}`,
        ])
      : []),
  ]
}

function radioLines(radio: ApRadio, country: string): string[] {
  const { band, generation, channel } = radio
  const knows = (...generations: readonly string[]) => generations.includes(generation)
  return [
    ...(country === '' ? [] : [`country_code=${country}`, 'ieee80211d=1']),
    ...(country !== '' && band === '5' ? ['ieee80211h=1'] : []),
    `hw_mode=${band === '2.4' ? 'g' : 'a'}`,
    // 0: it looks for the best channel itself, before it begins.
    `channel=${channel ?? 0}`,
    ...(band === '6' ? [] : ['ieee80211n=1']),
    ...(band === '5' && knows('ac', 'ax', 'be') ? ['ieee80211ac=1'] : []),
    ...(knows('ax', 'be') ? ['ieee80211ax=1'] : []),
    ...widthLines(radio),
  ]
}

function securityLines({ id, settings: { security } }: Ssid): string[] {
  if (security === null) return ['# Nobody has said how it is secured: add it before this is loaded.']
  const [management, frames] = KEYS[security]
  if (management === '') return []
  return [
    'wpa=2',
    `wpa_key_mgmt=${management}`,
    'rsn_pairwise=CCMP',
    `ieee80211w=${frames}`,
    ...(management.includes('PSK') ? [`wpa_psk_file=/etc/hostapd/${id}.psk`] : []),
    ...(management.includes('SAE')
      ? ['# sae_password: write it on the device, it is no part of the plan.']
      : []),
    ...(security === 'enterprise'
      ? ['ieee8021x=1', '# auth_server_addr and its secret: write them on the device.']
      : []),
  ]
}

/** Rates of OFDM, in tenths of a Mb/s (IEEE 802.11-2020, table 17-4). */
const RATES = [60, 90, 120, 180, 240, 360, 480, 540]

/** A bridge that joins with four-address frames gets an interface of its own, in the bridge that has the tags. */
const bridgeLines = (ssid: Ssid, plan: Plan, deviceId: DeviceId): string[] =>
  plan.links.some(
    (link) =>
      link.medium.kind === 'wifi' &&
      link.medium.fourAddress &&
      link.medium.ssidId === ssid.id &&
      farEnd(
        link,
        joiningEnd(link, (id) => plan.devices.find((device) => device.id === id)),
      ).deviceId === deviceId,
  )
    ? ['wds_sta=1', 'wds_bridge=br0']
    : []

function ssidLines(ssid: Ssid, plan: Plan, deviceId: DeviceId): string[] {
  const { id, name, networkId, isolation, settings } = ssid
  const vlan = plan.networks.find(({ id }) => id === networkId)?.vlan
  const least = settings.leastMbps === null ? null : settings.leastMbps * 10
  return [
    hashComment(name),
    `ssid2=${hexOf(name)}`,
    ...(vlan === undefined ? [] : [`bridge=br${vlan}`]),
    `ignore_broadcast_ssid=${settings.hidden ? 1 : 0}`,
    `ap_isolate=${isolation ? 1 : 0}`,
    `wps_state=${settings.wps ? 2 : 0}`,
    ...(settings.macList
      ? [`# Its list is no part of the plan: macaddr_acl=1 and accept_mac_file=/etc/hostapd/${id}.accept`]
      : []),
    ...(settings.hours
      ? [hashComment(`Sent from ${settings.hours.from} to ${settings.hours.to}: hostapd has no clock.`)]
      : []),
    ...(least === null
      ? []
      : [`supported_rates=${RATES.filter((rate) => rate >= least).join(' ')}`, `basic_rates=${least}`]),
    ...bridgeLines(ssid, plan, deviceId),
    ...securityLines(ssid),
  ]
}

/** Files of an access point, one for each radio that sends an SSID. */
export function hostapdFiles(plan: Plan, device: Device): { readonly name: string; readonly text: string }[] {
  const radios = apRadios(plan).filter(({ deviceId }) => deviceId === device.id)
  return radios.flatMap((radio, i) => {
    const [first, ...rest] = plan.ssids.filter(
      ({ apIds, settings }) => apIds.includes(device.id) && settings.bands.includes(radio.band),
    )
    if (!first) return []
    const lines = [
      hashComment(`${device.name}, ${radio.band} GHz. Power is set apart: ${radio.powerDbm} dBm.`),
      `interface=wlan${i}`,
      'driver=nl80211',
      ...radioLines(radio, plan.site.country),
      ...ssidLines(first, plan, device.id),
      ...rest.flatMap((ssid, n) => [`bss=wlan${i}_${n + 1}`, ...ssidLines(ssid, plan, device.id)]),
    ]
    return [{ name: `hostapd-wlan${i}.conf`, text: `${lines.join('\n')}\n` }]
  })
}
