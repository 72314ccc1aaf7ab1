// The engine on sites of several sizes.
import { spawn, spawnSync } from 'node:child_process'
import { cpus } from 'node:os'
import { line, median, quantile } from './measure.mjs'
import { say } from '../say.mjs'

/** Many single edits of a gateway, as keystrokes make them; each is answered in full. */
export function benchCore({ analyse, computeMatrix, createEngine, gullhavenPlan }) {
  const plan = gullhavenPlan()
  const edited = (round) => ({
    ...plan,
    networks: plan.networks.map((net) =>
      net.id === 'guests' ? { ...net, gateway: `10.61.6.${(round % 250) + 1}` } : net,
    ),
  })
  const time = (run) => {
    const start = performance.now()
    run()
    return performance.now() - start
  }
  const times = (count, run) => {
    for (let n = 0; n < 40; n++) run(n)
    return Array.from({ length: count }, (_, n) => time(() => run(n)))
  }
  say('core, demo site (35 devices, 7 networks), in this process')
  const engine = createEngine()
  const full = times(200, (n) => analyse(engine.index(edited(n)), []))
  line('one edit to new Lookout and grid, median', median(full), 'ms', '< 20', median(full) < 20)
  line('  the same, 95th percentile', quantile(full, 0.95), 'ms')
  const weather = plan.devices.filter((d) => d.kind !== 'hosts').map((d) => d.id)
  const stormy = times(weather.length * 3, (round) =>
    computeMatrix(engine.index(plan), [weather[round % weather.length]]),
  )
  line('one grid under one failure, median', median(stormy), 'ms')
  const answer = analyse(engine.index(plan), [])
  const text = times(200, () => JSON.stringify(answer))
  // Five more grids are asked for it than the one it shows:
  // IPv6, and the intents under the failures they are to survive.
  line('full answer / JSON.stringify of that answer, medians', median(full) / median(text), 'ratio')
}

/** A site of fifty devices, as the worker holds it: single edits to the whole answer. */
export function benchFifty({ analyse, applyChanges, busyPlan, createEngine }) {
  const engine = createEngine()
  let held = structuredClone(
    busyPlan(20_261_125, 60, { switches: 24, portsEach: 12, networks: 10, fixedEach: 4 }),
  )
  say(
    `\nthe engine: ${held.devices.length} devices, ${held.networks.length} VLANs, ` +
      `${held.policies[0].rules.length} rules, ${held.intents.length} intents`,
  )
  const edits = {
    'a rule': (round) => [
      ['policies', 'gate', 'rules', held.policies[0].rules[30].id, 'action'],
      held.policies[0].rules[30].action,
      ['accept', 'drop', 'reject'][round % 3],
    ],
    'an address': (n) => [['networks', 'n7', 'gateway'], held.networks[7].gateway, `10.7.0.${(n % 200) + 1}`],
    'a port': (round) => [
      ['devices', 'sw9', 'ports', 'p5', 'mode'],
      held.devices.find((d) => d.id === 'sw9').ports[4].mode,
      { mode: 'access', vlan: 10 + (round % 10) },
    ],
  }
  for (const [what, make] of Object.entries(edits)) {
    const times = []
    for (let n = 0; n < 120; n++) {
      const [path, before, after] = make(n)
      const start = performance.now()
      held = applyChanges(held, [{ kind: 'set', path, before, after }]).value
      analyse(engine.index(held), [])
      if (n >= 40) times.push(performance.now() - start)
    }
    line(`one edit of ${what} to the whole answer, median`, median(times), 'ms', '< 20', median(times) < 20)
  }
}

/**
 * A site far larger than most, held as the worker holds it: each edit is a change laid on the plan, and the
 * findings anew.
 */
export function benchWired({ findWired, applyChanges, createEngine, largePlan }) {
  const engine = createEngine()
  const size = { switches: 250, portsEach: 20, networks: 64, fixedEach: 1560 }
  let held = largePlan(size)
  const count = (list) => list.reduce((sum, n) => sum + n, 0)
  say(
    `\nwired findings: ${held.devices.length} devices, ${held.networks.length} networks, ` +
      `${count(held.devices.map((d) => d.ports.length))} ports, ` +
      `${count(held.networks.map((n) => n.fixed.length))} addresses`,
  )
  const first = performance.now()
  findWired(engine.index(held))
  line('the first time, nothing remembered', performance.now() - first, 'ms')
  const edits = [
    [
      'a gateway',
      (n) => [['networks', 'n7', 'gateway'], held.networks[7].gateway, `10.7.0.${(n % 200) + 1}`],
    ],
    [
      'a port',
      (round) => [
        ['devices', 'sw9', 'ports', 'p5', 'mode'],
        held.devices.find((d) => d.id === 'sw9').ports[4].mode,
        { mode: 'access', vlan: 10 + (round % 64) },
      ],
    ],
    [
      'a cable',
      (round) => [
        ['links', held.links[40].id, 'medium'],
        held.links[40].medium,
        { ...held.links[40].medium, lengthM: 10 + (round % 80) },
      ],
    ],
  ]
  for (const [what, make] of edits) {
    const times = []
    for (let n = 0; n < 60; n++) {
      const [path, before, after] = make(n)
      const start = performance.now()
      held = applyChanges(held, [{ kind: 'set', path, before, after }]).value
      findWired(engine.index(held))
      if (n >= 20) times.push(performance.now() - start)
    }
    line(`findings after one edit of ${what}, median`, median(times), 'ms', '< 50', median(times) < 50)
  }
}

/**
 * The same pairs asked one after the other by a ping each, as somebody at a desk would: what one takes, times
 * their number.
 */
export function benchPings({ busyPlan, computeMatrix, indexPlan, openSite }) {
  const plan = structuredClone(
    busyPlan(20_261_125, 1000, { switches: 99, portsEach: 12, networks: 64, fixedEach: 4 }),
  )
  const hosts = openSite(indexPlan(plan), []).endpoints.length
  const fresh = structuredClone(plan)
  const start = performance.now()
  computeMatrix(indexPlan(fresh), [])
  const gridMs = performance.now() - start
  const ping = (args) => spawnSync(args[0], args.slice(1)).status === 0
  const way = [
    ['ping', '-c', '1', '-q', '127.0.0.1'],
    ['fping', '-q', '-c', '1', '127.0.0.1'],
  ].find(ping)
  if (!way) return say('skipped: the same pairs by ping, since neither ping nor fping answers here')
  const began = performance.now()
  for (let n = 0; n < 50; n++) ping(way)
  const oneMs = (performance.now() - began) / 50
  const ratio = (oneMs * hosts * (hosts - 1)) / gridMs
  line(
    `${(hosts * (hosts - 1)).toLocaleString('en')} pairs by ${way[0]} on loopback, ` +
      `${oneMs.toFixed(1)} ms each / the grid`,
    ratio,
    'ratio',
    '>= 1000',
    ratio >= 1000,
  )
}

/**
 * Many large sites, one after another in one process, and shared out among as many processes as there are
 * processors.
 * Each has one thread, as a batch that fills all processors is best run: else a process alone has the
 * collector and the compiler on another processor, and has to share that with its neighbour when there is
 * one.
 */
export async function benchBatch(core) {
  const [warm, each] = [15, 30]
  const work =
    `import(${JSON.stringify(core)}).then(({ analyse, busyPlan, indexPlan }) => { const go = (a, b) ` +
    '=> { for (let n = a; n < b; n++) analyse(indexPlan(busyPlan(n, 1000, { switches: 99, ' +
    `portsEach: 12, networks: 64, fixedEach: 4 })), []) }; go(0, ${warm}); const began = ` +
    `performance.now(); go(${warm}, ${warm + each}); ` +
    'process.stdout.write(String(performance.now() - began)) })'
  const one = (flags) =>
    new Promise((done, fail) => {
      const child = spawn(process.execPath, [...flags, '--input-type=module', '-e', work], {
        stdio: ['ignore', 'pipe', 'inherit'],
      })
      let text = ''
      child.stdout.on('data', (chunk) => (text += chunk))
      child.on('close', (code) =>
        code === 0 ? done(each / Number(text)) : fail(new Error('a batch ended badly')),
      )
    })
  const many = cpus().length
  const mean = (list) => list.reduce((sum, n) => sum + n, 0) / list.length
  // Before and after, so that a slower minute of the machine does not fall on one side.
  const shared = async (flags) => {
    const before = await one(flags)
    const together = mean(await Promise.all(Array.from({ length: many }, () => one(flags))))
    return { alone: mean([before, await one(flags)]), together }
  }
  const { alone, together } = await shared([
    '--single-threaded',
    '--max-semi-space-size=64',
    '--min-semi-space-size=64',
  ])
  line('large sites answered by one process', alone * 1000, 'a second')
  line(
    `  ${many} processes side by side / one, for each of them`,
    together / alone,
    'ratio',
    '>= 0.8',
    together / alone >= 0.8,
  )
  const usual = await shared([])
  line(
    '  the same with the collector and the compiler on threads of their own',
    usual.together / usual.alone,
    'ratio',
  )
  line(
    `  ${many} processes with one thread each / with more, for each of them`,
    together / usual.together,
    'ratio',
  )
}

/** How the whole answer grows with the size of the site: one measure is changed, the others stay. */
export function benchGrowth({ analyse, busyPlan, createEngine, singleFailures, impactOf }) {
  const seed = Number(process.env.MAST_BENCH_SEED ?? 20_261_125)
  const usual = { switches: 50, networks: 32, rules: 500 }
  const planOf = ({ switches, networks, rules }) =>
    structuredClone(busyPlan(seed, rules, { switches, portsEach: 12, networks, fixedEach: 4 }))
  const time = (run) => {
    const start = performance.now()
    run()
    return performance.now() - start
  }
  const whole = (size) =>
    median(
      Array.from({ length: 4 }, () => {
        const plan = planOf(size)
        return time(() => analyse(createEngine().index(plan), []))
      }).slice(1),
    )
  say(
    `\ngrowth of the whole answer, ms (else ${usual.switches * 2 + 3} devices, ` +
      `${usual.networks} VLANs, ${usual.rules} rules)`,
  )
  const row = (what, sizes, make) => {
    const cells = sizes.map((n) => `${String(n).padStart(6)}: ${make(n).toFixed(0).padStart(5)}`)
    say(`${what.padEnd(10)} ${cells.join('  ')}`)
  }
  row('devices', [23, 53, 103, 203, 403], (n) => whole({ ...usual, switches: (n - 3) / 2 }))
  row('VLANs', [8, 16, 32, 64, 128], (n) => whole({ ...usual, networks: n }))
  row('rules', [100, 300, 1000, 3000, 10_000], (n) => whole({ ...usual, rules: n }))
  const plan = planOf(usual)
  const failures = singleFailures(plan)
  const index = createEngine().index(plan)
  impactOf(index, [])
  row('failures', [10, 20, 40, 80], (round) =>
    time(() => failures.slice(0, round).forEach((f) => impactOf(index, [f]))),
  )
}
