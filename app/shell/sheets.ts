import { STAGES, type SheetEntry } from './sheet'

// Every sheet there is, as the folders of features register them.

const found = import.meta.glob<SheetEntry>('../features/*/sheet.ts', { eager: true, import: 'default' })

const orderOf = ({ stage }: SheetEntry): number =>
  stage === null ? STAGES.length : STAGES.findIndex((s) => s.key === stage)

/** In the order of work; those outside it come last. */
export const SHEETS: readonly SheetEntry[] = Object.values(found).sort(
  (a, b) => orderOf(a) - orderOf(b) || a.place - b.place,
)

export const sheetsOf = (stage: string | null): readonly SheetEntry[] =>
  SHEETS.filter((sheet) => sheet.stage === stage)
export const sheetNamed = (key: string): SheetEntry | undefined => SHEETS.find((sheet) => sheet.key === key)
