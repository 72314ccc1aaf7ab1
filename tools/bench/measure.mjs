import { setFlagsFromString } from 'node:v8'
import { runInNewContext } from 'node:vm'
import { say } from '../say.mjs'

export const quantile = (values, share) =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * share))]
export const median = (values) => quantile(values, 0.5)

export function line(what, value, unit, goal, holds) {
  const met = holds ? '  meets' : '  MISSES'
  const mark = holds === undefined ? '' : met
  say(
    `${what.padEnd(58)} ${value.toFixed(value < 10 ? 2 : 1).padStart(9)} ` +
      `${unit.padEnd(6)}${goal ? ` goal ${goal}` : ''}${mark}`,
  )
}

/** Frees what nothing holds, so that what is left is what the engine remembers. */
export function collect() {
  setFlagsFromString('--expose_gc')
  runInNewContext('gc')()
}

/** Milliseconds that something takes. */
export function time(run) {
  const start = performance.now()
  run()
  return performance.now() - start
}
