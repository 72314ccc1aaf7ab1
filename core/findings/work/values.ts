/** What the findings of the work on site say, by code. */
export interface WorkValues {
  /** Radios choose their channels by themselves, and nobody has them do so on site. */
  F15: { radios: number }
  /** The cut-over takes longer than its window, or leaves no time to go back; minutes. */
  S01: { kind: 'whole' | 'back'; neededMin: number; windowMin: number }
  /** Nobody works while the window of the cut-over is open. */
  S02: { date: string }
  /** The window of the cut-over has closed before the work begins. */
  S03: { date: string; startDate: string }
}

export interface WorkMends {
  'choose-on-site': { radios: number }
}
