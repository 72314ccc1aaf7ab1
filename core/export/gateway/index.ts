export { choiceMark, lanName, lineMark, routedName, wanName, wgName } from './interfaces'
export { dnsmasqConf, isKept, poolParts } from './dhcp-server'
export { ip6Rules, ipBatch } from './routing'
export { nftRuleset } from './ruleset'
