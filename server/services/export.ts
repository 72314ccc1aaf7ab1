import Papa from 'papaparse'
import { planToText } from '#contracts/plan'
import {
  ADDRESS_COLUMNS,
  addressRows,
  CABLE_COLUMNS,
  cableRows,
  EQUIPMENT_COLUMNS,
  equipmentRows,
  MATERIAL_COLUMNS,
  materialRows,
  PORT_COLUMNS,
  portRows,
} from '#core/export'
import { refused } from '#server/platform/route'
import { currentPlan } from './plans'

const CSV = 'text/csv; charset=utf-8'

/** RFC 4180 text; cells that a spreadsheet would run as a formula are made harmless. */
const csv = (columns: readonly string[], rows: readonly (readonly string[])[]): string =>
  `${Papa.unparse([[...columns], ...rows.map((r) => [...r])], { escapeFormulae: true })}\r\n`

export async function exported(
  slug: string,
  file: string,
): Promise<{ text: string; type: string; name: string }> {
  const { plan } = await currentPlan(slug)
  switch (file) {
    case 'addresses.csv':
      return { text: csv(ADDRESS_COLUMNS, addressRows(plan)), type: CSV, name: `${slug}-addresses.csv` }
    case 'ports.csv':
      return { text: csv(PORT_COLUMNS, portRows(plan)), type: CSV, name: `${slug}-ports.csv` }
    case 'cables.csv':
      return { text: csv(CABLE_COLUMNS, cableRows(plan)), type: CSV, name: `${slug}-cables.csv` }
    case 'materials.csv':
      return { text: csv(MATERIAL_COLUMNS, materialRows(plan)), type: CSV, name: `${slug}-materials.csv` }
    case 'equipment.csv':
      return { text: csv(EQUIPMENT_COLUMNS, equipmentRows(plan)), type: CSV, name: `${slug}-equipment.csv` }
    case 'site.json':
      return { text: planToText(plan), type: 'application/json', name: `${slug}-site.json` }
    default:
      throw refused(404, 'no-such-file', file)
  }
}
