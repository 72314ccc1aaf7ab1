import Papa from 'papaparse'

/** First characters by which a spreadsheet takes a cell, or a line of it, for a formula (OWASP, CSV injection). */
const FORMULA = /^[=+\-@\t\r]/m

/** RFC 4180 text; cells that a spreadsheet would run as a formula are made harmless by an apostrophe. */
export const csvText = (rows: readonly (readonly string[])[]): string =>
  `${Papa.unparse(
    rows.map((row) => [...row]),
    { escapeFormulae: FORMULA },
  )}\r\n`
