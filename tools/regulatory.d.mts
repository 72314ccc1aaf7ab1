/** From and to, kHz; greatest width, kHz; greatest EIRP, hundredths of a dBm; flags. */
export type RegulatoryRow = [fromKhz: number, toKhz: number, widthKhz: number, eirp: number, flags: string]
export function readRegulatory(data: Buffer): Record<string, RegulatoryRow[]>
