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
  /** What its pictures mean, in ten lines at most. */
  readonly help: readonly string[]
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
