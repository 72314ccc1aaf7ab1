/** A sheet, as its folder registers it: one `sheet.ts` beside the component `…Sheet.vue` that shows it. */
export interface SheetEntry {
  /** Last part of its address. */
  readonly key: string
  readonly name: string
  /** Key of the stage it belongs to; null for one outside the order of work. */
  readonly stage: string | null
  /** Among the sheets of its stage, from 1. */
  readonly place: number
  /** Key after `g`. */
  readonly shortcut: string
}

/** What the pictures of a sheet mean, as `help.ts` beside `sheet.ts` says: loaded when somebody asks for help. */
export interface SheetHelp {
  /** Key of the sheet. */
  readonly sheet: string
  /** Ten at most. */
  readonly lines: readonly string[]
}

/** The seven stages of the work, in their order. */
export const STAGES: readonly { readonly key: string; readonly name: string }[] = [
  { key: 'brief', name: 'Brief' },
  { key: 'plan', name: 'Plan' },
  { key: 'rehearse', name: 'Rehearse' },
  { key: 'stage', name: 'Stage' },
  { key: 'adopt', name: 'Adopt' },
  { key: 'prove', name: 'Prove' },
  { key: 'hand-over', name: 'Hand over' },
]

export const defineSheet = (entry: SheetEntry): SheetEntry => entry
export const defineHelp = (help: SheetHelp): SheetHelp => help
