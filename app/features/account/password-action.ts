import type { Problem } from '#core/util'

/** What came of it: why not, or what is to be shown next. */
export interface ActionOutcome {
  readonly problems?: readonly Problem[]
  readonly next?: () => void
}

/** What the password is asked for, and what is done with it. */
export interface PasswordAction {
  readonly title: string
  readonly words: string
  readonly verb: string
  /** Whether a name is asked for, too. */
  readonly named?: boolean
  go(password: string, name: string): Promise<ActionOutcome>
}
