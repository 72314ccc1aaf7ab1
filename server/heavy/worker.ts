import { QUESTIONS } from './questions'

// A thread that answers one question after the other.

interface Asked {
  readonly question: keyof typeof QUESTIONS
  readonly told: readonly unknown[]
}

export default ({ question, told }: Asked): unknown =>
  (QUESTIONS[question] as (...told: readonly unknown[]) => unknown)(...told)
