// Question: what went wrong on site?
// Method:
// `diagnose` lays the mistakes of a catalogue on the plan and compares what they would show with what was
// observed.
export { diagnose, withMistakes } from './diagnose'
export type { Diagnosis, Explanation, Observed } from './diagnose'
export { lookId, plannedPort } from './look'
export type { Fact, Look } from './look'
export { sceneOf, seenThere } from './facts'
export { mistakesOf } from './mistakes'
export type { Mistake, MistakeCode } from './mistakes'
