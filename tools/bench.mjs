import { spawn, spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import http from 'node:http'
import { createRequire } from 'node:module'
import { cpus, tmpdir } from 'node:os'
import { join } from 'node:path'
import { setFlagsFromString } from 'node:v8'
import { runInNewContext } from 'node:vm'
import { gzipSync } from 'node:zlib'
import { checkNode, chromium, ensureBuilt, ensureDebian, ensurePackages } from './install.mjs'
import { freePort, startThrowAway } from './postgres.mjs'
import { ROOT } from './run.mjs'
import { say } from './say.mjs'
import { startServer } from './server.mjs'

const require = createRequire(import.meta.url)
const quantile = (values, share) =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * share))]
const median = (values) => quantile(values, 0.5)

function line(what, value, unit, goal, holds) {
  const met = holds ? '  meets' : '  MISSES'
  const mark = holds === undefined ? '' : met
  say(
    `${what.padEnd(58)} ${value.toFixed(value < 10 ? 2 : 1).padStart(9)} ` +
      `${unit.padEnd(6)}${goal ? ` goal ${goal}` : ''}${mark}`,
  )
}

/** Core as one file that Node can load, the same code the worker runs. */
async function loadCore(scratch) {
  const { build } = require('esbuild')
  const outfile = join(scratch, 'core.mjs')
  await build({
    stdin: {
      contents: [
        `export { analyse, findWired } from '#core/findings'`,
        `export { applyChanges, createEngine, indexPlan } from '#core/model'`,
        `export { computeMatrix, impactOf, openSite, singleFailures } from '#core/reachability'`,
        `export { gullhavenPlan } from '#server/demo/gullhaven'`,
        `export { busyPlan, largePlan } from './tests/large'`,
        `export { planToText } from '#contracts/plan'`,
      ].join('\n'),
      resolveDir: ROOT,
      loader: 'ts',
    },
    alias: {
      '#core': join(ROOT, 'core'),
      '#server': join(ROOT, 'server'),
      '#contracts': join(ROOT, 'contracts'),
    },
    bundle: true,
    format: 'esm',
    platform: 'node',
    outfile,
    logLevel: 'error',
  })
  return import(outfile)
}

/** Many single edits of a gateway, as keystrokes make them; each is answered in full. */
function benchCore({ analyse, computeMatrix, createEngine, gullhavenPlan }) {
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
function benchFifty({ analyse, applyChanges, busyPlan, createEngine }) {
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
function benchWired({ findWired, applyChanges, createEngine, largePlan }) {
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

/** Frees what nothing holds, so that what is left is what the engine remembers. */
function collect() {
  setFlagsFromString('--expose_gc')
  runInNewContext('gc')()
}

/**
 * A large office with a thousand rules: the whole answer anew, one edit, every single failure, and what it
 * all takes.
 */
function benchBusy({ analyse, busyPlan, applyChanges, createEngine, singleFailures, impactOf }) {
  let engine = createEngine()
  const seed = Number(process.env.MAST_BENCH_SEED ?? 20_261_125)
  const size = { switches: 99, portsEach: 12, networks: 64, fixedEach: 4 }
  const anew = () => structuredClone(busyPlan(seed, 1000, size))
  const plan = anew()
  say(
    `\nthe engine: ${plan.devices.length} devices, 64 VLANs, 1,000 rules, ` +
      `${plan.intents.length} intents, seed ${seed} (MAST_BENCH_SEED)`,
  )
  const time = (run) => {
    const start = performance.now()
    run()
    return performance.now() - start
  }
  // Taken in turns, so that a slower minute of the machine falls on all three alike.
  const [full, edits, text] = [[], [], []]
  let held = anew()
  const edited = (path, before, after) =>
    time(() => {
      held = applyChanges(held, [{ kind: 'set', path, before, after }]).value
      analyse(engine.index(held), [])
    })
  const modeOf = (port) => held.devices.find((d) => d.id === 'sw9').ports.find((p) => p.id === port).mode
  const others = {
    'a port with nobody on it': (round) => [
      ['devices', 'sw9', 'ports', 'p5', 'mode'],
      modeOf('p5'),
      { mode: 'access', vlan: 10 + round },
    ],
    'a port, whose hosts change network': (round) => [
      ['devices', 'sw9', 'ports', 'p2', 'mode'],
      modeOf('p2'),
      { mode: 'access', vlan: 30 + round },
    ],
    'the address of a host': (round) => [
      ['networks', 'n7', 'fixed', 'f1', 'ip'],
      held.networks[7].fixed.find((f) => f.id === 'f1').ip,
      `10.7.1.${9 + round}`,
    ],
    'the gateway of a network': (round) => [
      ['networks', 'n7', 'gateway'],
      held.networks[7].gateway,
      `10.7.0.${2 + round}`,
    ],
  }
  const took = new Map(Object.keys(others).map((what) => [what, []]))
  for (let n = 0; n < 32; n++) {
    held = anew()
    engine = createEngine()
    full.push(time(() => analyse(engine.index(held), [])))
    for (const action of ['accept', 'drop', 'reject']) {
      const rule = held.policies[0].rules[500]
      edits.push(edited(['policies', 'gate', 'rules', rule.id], rule, { ...rule, action }))
    }
    const answer = analyse(engine.index(held), [])
    text.push(time(() => JSON.stringify(answer)))
    for (const [what, make] of Object.entries(others))
      for (const match of [0, 1]) took.get(what).push(edited(...make((2 * n + match) % 20)))
  }
  const warm = (list) => median(list.slice(Math.floor(list.length / 4)))
  line('the whole answer, nothing remembered, median', warm(full), 'ms', '< 150', warm(full) < 150)
  line('one edit of a rule to the whole answer, median', warm(edits), 'ms', '< 50', warm(edits) < 50)
  line(
    '  the whole answer / JSON.stringify of it',
    warm(full) / warm(text),
    'ratio',
    '<= 5',
    warm(full) / warm(text) <= 5,
  )
  for (const [what, times] of took) {
    line(`one edit of ${what}, median`, warm(times), 'ms', '< 50', warm(times) < 50)
    line('  the same / the whole answer', warm(times) / warm(full), 'ratio')
  }
  const failures = singleFailures(held)
  const storm = median(
    Array.from({ length: 3 }, () => {
      const index = createEngine().index(structuredClone(held))
      return time(() => failures.forEach((failure) => impactOf(index, [failure])))
    }),
  )
  line(
    `every single failure (${failures.length}), each intent judged under it, median of 3`,
    storm,
    'ms',
    '< 3000',
    storm < 3000,
  )
  collect()
  line(
    'memory of the process after it',
    process.memoryUsage().heapUsed / 1e6,
    'MB',
    '< 200',
    process.memoryUsage().heapUsed / 1e6 < 200,
  )
}

/**
 * The same pairs asked one after the other by a ping each, as somebody at a desk would: what one takes, times
 * their number.
 */
function benchPings({ busyPlan, computeMatrix, indexPlan, openSite }) {
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
async function benchBatch(core) {
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
function benchGrowth({ analyse, busyPlan, createEngine, singleFailures, impactOf }) {
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

/**
 * The Loom of a site of 50 devices: how long its layout takes in its own worker, and whether frames are
 * dropped while it is scaled.
 */
async function benchLoom(url, { largePlan, planToText }) {
  say('\nLoom of 50 devices, Chromium')
  const cookie = await signIn(url, 'Planner', 'chart-and-pencil')
  const plan = { ...largePlan({ switches: 24, portsEach: 12, networks: 12, fixedEach: 4 }) }
  const made = await (
    await fetch(`${url}/api/sites`, {
      method: 'POST',
      headers: { origin: url, 'content-type': 'application/json', cookie },
      body: JSON.stringify({ text: planToText(plan) }),
    })
  ).json()
  const { chromium: browserType } = require('@playwright/test')
  const browser = await browserType.launch({
    executablePath: chromium(),
    args: process.getuid?.() === 0 ? ['--no-sandbox'] : [],
  })
  const [name, value] = cookie.split(/=(.*)/s)
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } })
  await context.addCookies([{ name, value, url }])
  const page = await context.newPage()
  const laid = async () => {
    await page.getByRole('group', { name: 'Loom', exact: true }).waitFor()
    return page.evaluate(() => performance.getEntriesByName('loom layout').at(-1).duration)
  }
  const [opened, cold] = [[], []]
  for (let n = 0; n < 5; n++) {
    await page.goto(`${url}/sites/${made.slug}/loom`)
    cold.push(await laid())
    await page.goto(`${url}/sites/${made.slug}/addresses`)
    await page.waitForFunction(() => performance.getEntriesByName('loom warm').length > 0)
    await page.getByRole('link', { name: 'Loom', exact: true }).click()
    opened.push(await laid())
  }
  line(
    `layout of ${plan.devices.length} devices in its worker, from another sheet, median of 5`,
    median(opened),
    'ms',
    '< 300',
    median(opened) < 300,
  )
  line('  the same as the first page of all, its engine not yet loaded', median(cold), 'ms')
  await page.getByRole('region', { name: 'Loom picture' }).hover()
  await page.keyboard.down('Control')
  const gaps = page.evaluate(
    () =>
      new Promise((resolve) => {
        const seen = []
        let last = performance.now()
        const tick = (now) => {
          seen.push(now - last)
          last = now
          if (seen.length < 90) requestAnimationFrame(tick)
          else resolve(seen.slice(2))
        }
        requestAnimationFrame(tick)
      }),
  )
  for (let n = 0; n < 40; n++) {
    await page.mouse.wheel(0, n < 20 ? -100 : 100)
    await new Promise((done) => setTimeout(done, 16))
  }
  const frames = await gaps
  line('frames later than 34 ms while it is scaled, of 88', frames.filter((g) => g > 34).length, 'frames')
  line('  the longest gap between two frames', Math.max(...frames), 'ms')
  await browser.close()
}

async function signIn(url, who = 'Keeper', password = 'lamp-and-ledger') {
  const reply = await fetch(`${url}/api/sign-in`, {
    method: 'POST',
    headers: { origin: url, 'content-type': 'application/json' },
    body: JSON.stringify({ name: who, password }),
  })
  return reply.headers.get('set-cookie').split(';')[0]
}

/**
 * Reads by 20 clients at once.
 * With a pause they are people with the application open; without one, the server is full.
 */
async function benchApi(url, cookie) {
  const agent = new http.Agent({ keepAlive: true, maxSockets: 20 })
  const read = (path, times) =>
    new Promise((resolve) => {
      const start = performance.now()
      http
        .get(`${url}/api/${path}`, { agent, headers: { cookie } }, (reply) => {
          reply.resume().on('end', () => {
            if (reply.statusCode === 200) times.push(performance.now() - start)
            resolve()
          })
        })
        .on('error', resolve)
    })
  async function clients(path, each, pauseMs) {
    const times = []
    const client = async () => {
      for (let n = 0; n < each; n++) {
        if (pauseMs > 0) await new Promise((done) => setTimeout(done, pauseMs * (0.5 + Math.random())))
        await read(path, times)
      }
    }
    const start = performance.now()
    await Promise.all(Array.from({ length: 20 }, client))
    return {
      times,
      perSecond: times.length / ((performance.now() - start) / 1000),
      failed: 20 * each - times.length,
    }
  }
  for (const [pauseMs, title] of [
    [100, 'each asking again after some 100 ms'],
    [0, 'each asking again at once, so that the server is full'],
  ]) {
    say(`\nAPI reads, 20 clients, ${title}`)
    for (const path of [
      'sites',
      'sites/gullhaven/plan',
      'sites/gullhaven/roster',
      'sites/gullhaven/proof',
      'sites/gullhaven/revisions',
    ]) {
      await clients(path, 25, 0)
      const { times, perSecond, failed } = await clients(path, 40, pauseMs)
      const p95 = quantile(times, 0.95)
      line(`GET ${path}, 95th percentile`, p95, 'ms', '< 25', p95 < 25)
      say(`${' '.repeat(4)}${perSecond.toFixed(0)} answers a second${failed > 0 ? `, ${failed} FAILED` : ''}`)
    }
  }
  agent.destroy()
}

/** What a browser loads before the first sheet can be used, and how long that takes from a warm server. */
async function benchPage(url, cookie) {
  say('\nfirst page (Addresses), Chromium, empty cache, loopback')
  const { chromium: browserType } = require('@playwright/test')
  const browser = await browserType.launch({
    executablePath: chromium(),
    args: process.getuid?.() === 0 ? ['--no-sandbox'] : [],
  })
  const [name, value] = cookie.split(/=(.*)/s)
  const ready = []
  const scripts = new Set()
  for (let n = 0; n < 7; n++) {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } })
    await context.addCookies([{ name, value, url }])
    const page = await context.newPage()
    // What comes after that, for other sheets, is not the first page's.
    let waiting = true
    page.on('response', (response) => {
      if (waiting && response.request().resourceType() === 'script')
        scripts.add(new URL(response.url()).pathname)
    })
    const start = performance.now()
    await page.goto(`${url}/sites/gullhaven/addresses`)
    // Interactive: the table answers to a key.
    await page.getByRole('gridcell', { name: '10.61.6.1', exact: true }).focus()
    await page.keyboard.press('ArrowDown')
    ready.push(performance.now() - start)
    waiting = false
    await context.close()
  }
  await browser.close()
  const kb =
    [...scripts].reduce(
      (sum, path) => sum + gzipSync(readFileSync(join(ROOT, '.output/public', path))).length,
      0,
    ) / 1000
  line('JavaScript of the first page, gzip', kb, 'kB', '<= 350', kb <= 350)
  line('until the table answers to a key, median of 7', median(ready), 'ms', '< 1500', median(ready) < 1500)
}

/** Measures and prints. Nothing here passes or fails: speed depends on the machine, ratios less so. */
export async function bench() {
  checkNode()
  await ensureDebian({ browser: true })
  await ensurePackages()
  await ensureBuilt()
  const scratch = mkdtempSync(join(tmpdir(), 'mast-bench-'))
  const database = await startThrowAway()
  const port = await freePort()
  const server = startServer({
    host: '127.0.0.1',
    port,
    databaseUrl: database.url,
    sessionPassword: 'a-password-for-bench-of-32-letters',
    env: { MAST_DEMO: '1' },
  })
  try {
    say(`${cpus().length} processors, ${cpus()[0]?.model.trim()}, Node.js ${process.versions.node}\n`)
    const core = await loadCore(scratch)
    benchCore(core)
    benchFifty(core)
    benchWired(core)
    benchBusy(core)
    benchPings(core)
    await benchBatch(join(scratch, 'core.mjs'))
    benchGrowth(core)
    await server.ready
    const url = `http://127.0.0.1:${port}`
    const cookie = await signIn(url)
    await benchApi(url, cookie)
    await benchPage(url, cookie)
    await benchLoom(url, core)
    return 0
  } finally {
    server.child.kill('SIGTERM')
    await server.ended
    await database.stop()
    rmSync(scratch, { recursive: true, force: true })
  }
}
