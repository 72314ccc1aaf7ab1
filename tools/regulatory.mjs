// Reads Debian's `wireless-regdb` (ISC licence) and writes core/wifi/regulatory.json.
// Source of the format: regulatory.db(5), `struct fwdb_*` of the Linux kernel, net/wireless/reg.c.
import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { ROOT } from './run.mjs'

const MAGIC = 0x52474442
const VERSION = 20
/** Bits of a rule's flags. */
const FLAGS = { indoor: 2, dfs: 4, listenOnly: 8, joins: 16 }

/** Pointers of the file count in units of four bytes. */
const at = (pointer) => pointer * 4

function ruleAt(data, offset) {
  const flags = data.readUInt8(offset + 1)
  return [
    data.readUInt32BE(offset + 4),
    data.readUInt32BE(offset + 8),
    data.readUInt32BE(offset + 12),
    data.readUInt16BE(offset + 2),
    Object.entries(FLAGS)
      .filter(([, bit]) => flags & bit)
      .map(([name]) => name)
      .join(' '),
  ]
}

function rulesAt(data, offset) {
  // The list of pointers begins at the next even place behind what the collection says of itself.
  const first = offset + 2 * Math.ceil(data.readUInt8(offset) / 2)
  const count = data.readUInt8(offset + 1)
  return Array.from({ length: count }, (_, i) => ruleAt(data, at(data.readUInt16BE(first + 2 * i))))
}

/**
 * The rules of each country by its ISO 3166-1 code: from and to in kHz, greatest width in kHz, greatest EIRP in
 * hundredths of a dBm, flags.
 */
export function readRegulatory(data) {
  if (data.readUInt32BE(0) !== MAGIC || data.readUInt32BE(4) !== VERSION)
    throw new Error('This is no regulatory.db of version 20.')
  const countries = {}
  for (let offset = 8; data.readUInt16BE(offset) !== 0; offset += 4) {
    const code = data.toString('latin1', offset, offset + 2)
    if (/^[A-Z]{2}$/.test(code)) countries[code] = rulesAt(data, at(data.readUInt16BE(offset + 2)))
  }
  return countries
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const [file, version] = process.argv.slice(2)
  if (!file || !version) throw new Error('Usage: node tools/regulatory.mjs FILE PACKAGE-VERSION')
  const countries = readRegulatory(readFileSync(file))
  const rows = Object.keys(countries)
    .sort()
    .map((code) => `    ${JSON.stringify(code)}: ${JSON.stringify(countries[code])}`)
  writeFileSync(
    join(ROOT, 'core/wifi/regulatory.json'),
    `{\n  "version": ${JSON.stringify(version)},\n  "countries": {\n${rows.join(',\n')}\n  }\n}\n`,
  )
}
