import type { Cellular, Uplink } from '#core/schema'

// What is known of a line, in the words of a checklist.

export const KIND = { pppoe: 'PPPoE', dhcp: 'DHCP', static: 'static address' } as const

export const cellularText = ({ sim, apn, antennas, antennasAt, rsrpDbm, sinrDb }: Cellular): string =>
  [
    sim === null ? '' : `SIM ${sim}`,
    apn ?? '',
    antennas === null ? '' : `${antennas} antennas`,
    antennasAt ?? '',
    rsrpDbm === null ? '' : `${rsrpDbm} dBm`,
    sinrDb === null ? '' : `${sinrDb} dB`,
  ]
    .filter((t) => t !== '')
    .join(', ')

export function tagText({ tag, facts }: Uplink): string {
  if (tag === null) return facts.tagKnown ? 'untagged' : ''
  return `VLAN ${tag}${facts.pcp === null ? '' : `, priority ${facts.pcp}`}`
}

export function macLockText({ macLock, lockedMac }: Uplink['facts']): string {
  if (macLock === null) return ''
  return macLock === 'no' ? 'not tied' : `tied to ${lockedMac ?? 'a MAC address'}`
}

export function linkSpeedText({ linkSpeed }: Uplink['facts']): string {
  if (linkSpeed === null) return ''
  return linkSpeed === 'auto' ? 'negotiated' : `forced to ${linkSpeed} Mb/s`
}

export const contractText = ({ downMbps, upMbps }: Uplink): string =>
  downMbps > 0 ? `${downMbps}/${upMbps} Mb/s contracted` : ''

export const tunnelTo = (name: string): string => `tunnel to ${name}`
