export { ADDRESS_COLUMNS, addressRows, mediumText, modeText, PORT_COLUMNS, portRows } from './tables'
export { deviceConfig } from './device-config'
export { CABLE_COLUMNS, cableRows, EQUIPMENT_COLUMNS, equipmentRows, MATERIAL_COLUMNS, materialRows } from './papers'
export { dnsmasqConf, ipBatch, lanName, nftRuleset, wanName } from './gateway'
