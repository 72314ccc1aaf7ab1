export { ADDRESS_COLUMNS, addressRows, mediumText, modeText, PORT_COLUMNS, portRows } from './tables'
export { deviceConfig } from './device-config'
export {
  choiceMark,
  countRuleLines,
  dnsmasqConf,
  ip6Rules,
  ipBatch,
  lanName,
  uplinkMark,
  MOST_RULE_LINES,
  nftRuleset,
  routedName,
  wanName,
  wgName,
} from './gateway'
export { siteGeoJson } from './geojson'
export { hostapdFiles } from './hostapd'
export { supplicantFiles } from './wpa-supplicant'
export { keaConf } from './kea'
export { hostsFile, namedAddresses, unboundZones, zoneFiles } from './names'

export { interfacesJson } from './yang'
export { endpointOf, keyFollower, peerConf, wireguardConf } from './wireguard'
export { deviceFiles, devicesWithFiles, TABLES } from './files'
export type { FileCode } from './files'
