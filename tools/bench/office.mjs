// A large office with a thousand rules.
import { collect, line, median, time } from './measure.mjs'
import { say } from '../say.mjs'

/** Edits that are made one after another, by what they change; `held`: the plan as it stands. */
const EDITS = {
  'a port with nobody on it': (held, round) => [
    ['devices', 'sw9', 'ports', 'p5', 'mode'],
    modeOf(held, 'p5'),
    { mode: 'access', vlan: 10 + round },
  ],
  'a port, whose hosts change network': (held, round) => [
    ['devices', 'sw9', 'ports', 'p2', 'mode'],
    modeOf(held, 'p2'),
    { mode: 'access', vlan: 30 + round },
  ],
  'the address of a host': (held, round) => [
    ['networks', 'n7', 'fixed', 'f1', 'ip'],
    held.networks[7].fixed.find((f) => f.id === 'f1').ip,
    `10.7.1.${9 + round}`,
  ],
  'the gateway of a network': (held, round) => [
    ['networks', 'n7', 'gateway'],
    held.networks[7].gateway,
    `10.7.0.${2 + round}`,
  ],
}
const modeOf = (held, port) => held.devices.find((d) => d.id === 'sw9').ports.find((p) => p.id === port).mode

const TURNS = 32

/** Whole answers, edits and their texts, taken in turns, so that a slower minute falls on all alike. */
function takeInTurns({ analyse, applyChanges, createEngine }, anew) {
  // Made before anything is timed: what making them leaves to be freed is not the engine's.
  const plans = Array.from({ length: TURNS }, anew)
  let [held, engine] = [plans[0], createEngine()]
  const edited = (path, before, after) =>
    time(() => {
      held = applyChanges(held, [{ kind: 'set', path, before, after }]).value
      analyse(engine.index(held), [])
    })
  const [full, rules, text] = [[], [], []]
  const took = new Map(Object.keys(EDITS).map((what) => [what, []]))
  for (let n = 0; n < TURNS; n++) {
    held = plans[n]
    engine = createEngine()
    full.push(time(() => analyse(engine.index(held), [])))
    for (const action of ['accept', 'drop', 'reject']) {
      const rule = held.policies[0].rules[500]
      rules.push(edited(['policies', 'gate', 'rules', rule.id], rule, { ...rule, action }))
    }
    const answer = analyse(engine.index(held), [])
    text.push(time(() => JSON.stringify(answer)))
    for (const [what, make] of Object.entries(EDITS))
      for (const turn of [0, 1]) took.get(what).push(edited(...make(held, (2 * n + turn) % 20)))
  }
  return { held, full, rules, text, took }
}

const warm = (list) => median(list.slice(Math.floor(list.length / 4)))
const under = (what, value, unit, most) => line(what, value, unit, `< ${most}`, value < most)

/** Every single failure, each intent judged under it. */
function benchFailures({ createEngine, singleFailures, impactOf }, held) {
  const failures = singleFailures(held)
  const runs = Array.from({ length: 3 }, () => {
    const index = createEngine().index(structuredClone(held))
    return time(() => failures.forEach((failure) => impactOf(index, [failure])))
  })
  const what = `every single failure (${failures.length}), each intent judged under it, median of 3`
  under(what, median(runs), 'ms', 3000)
}

/** The whole answer anew, one edit, every single failure, and what it all takes. */
export function benchBusy(core) {
  const seed = Number(process.env.MAST_BENCH_SEED ?? 20_261_125)
  const size = { switches: 99, portsEach: 12, networks: 64, fixedEach: 4 }
  const anew = () => structuredClone(core.busyPlan(seed, 1000, size))
  const plan = anew()
  say(
    `\nthe engine: ${plan.devices.length} devices, 64 VLANs, 1,000 rules, ` +
      `${plan.intents.length} intents, seed ${seed} (MAST_BENCH_SEED)`,
  )
  const { held, full, rules, text, took } = takeInTurns(core, anew)
  under('the whole answer, nothing remembered, median', warm(full), 'ms', 150)
  under('one edit of a rule to the whole answer, median', warm(rules), 'ms', 50)
  const ratio = warm(full) / warm(text)
  line('  the whole answer / JSON.stringify of it', ratio, 'ratio', '<= 5', ratio <= 5)
  for (const [what, times] of took) {
    under(`one edit of ${what}, median`, warm(times), 'ms', 50)
    line('  the same / the whole answer', warm(times) / warm(full), 'ratio')
  }
  benchFailures(core, held)
  collect()
  under('memory of the process after it', process.memoryUsage().heapUsed / 1e6, 'MB', 200)
}
