import { mkdtempSync, rmSync } from 'node:fs'
import { cpus, tmpdir } from 'node:os'
import { join } from 'node:path'

import { bundle } from './bundle.mjs'
import { checkNode, ensureBuilt, ensureDebian, ensurePackages } from './install.mjs'
import { freePort, startThrowAway } from './postgres.mjs'
import { ROOT } from './run.mjs'
import { say } from './say.mjs'
import { startServer } from './server.mjs'

import { benchField } from './bench/field.mjs'
import { benchApi, benchLoom, benchPage, signIn } from './bench/application.mjs'
import { benchBatch, benchCore, benchFifty, benchGrowth, benchPings, benchWired } from './bench/engine.mjs'
import { benchBusy } from './bench/office.mjs'
import { benchPeople, benchSites } from './bench/people.mjs'
import { benchCoverage } from './bench/coverage.mjs'
import { benchSchedule } from './bench/schedule.mjs'

async function loadCore(scratch) {
  const outfile = join(scratch, 'core.mjs')
  const contents = [
    `export { analyse, findWired } from '#core/findings'`,
    `export { applyChanges } from '#core/edit'`,
    `export { createEngine, indexPlan } from '#core/queries'`,
    `export { computeMatrix, impactOf, openSite, singleFailures } from '#core/reachability'`,
    `export { compile, createSearch, projectOf, spreadOf } from '#core/schedule'`,
    `export { chance } from '#core/util'`,
    `export { emittersOf, levelGrid, roomSignals } from '#core/wifi'`,
    `export { gullhavenPlan } from '#server/demo/gullhaven'`,
    `export { busyPlan, largePlan } from './tests/large'`,
    `export { planToText } from '#contracts/plan'`,
  ].join('\n')
  await bundle({ stdin: { contents, resolveDir: ROOT, loader: 'ts' } }, outfile)
  return import(outfile)
}

/** The application, with a database of its own. */
async function benchApplication(core) {
  const database = await startThrowAway()
  const port = await freePort()
  const server = startServer({
    host: '127.0.0.1',
    port,
    database,
    serverKey: 'a-password-for-bench-of-32-letters',
    env: { MAST_DEMO: '1' },
  })
  try {
    await server.ready
    const url = `http://127.0.0.1:${port}`
    const cookie = await signIn(url)
    await benchApi(url, cookie)
    await benchPage(url, cookie)
    await benchField(url, cookie)
    await benchLoom(url, core)
    await benchPeople(url)
    await benchSites(url, database)
  } finally {
    server.child.kill('SIGTERM')
    await server.ended
    await database.stop()
  }
}

/** Measures and prints. Nothing here passes or fails: speed depends on the machine, ratios less so. */
export async function bench() {
  checkNode()
  await ensureDebian({ browser: true })
  await ensurePackages()
  await ensureBuilt()
  const scratch = mkdtempSync(join(tmpdir(), 'mast-bench-'))
  try {
    say(`${cpus().length} processors, ${cpus()[0]?.model.trim()}, Node.js ${process.versions.node}\n`)
    const core = await loadCore(scratch)
    // The largest first, before the others leave anything to be freed.
    benchBusy(core)
    benchCore(core)
    benchFifty(core)
    benchWired(core)
    benchSchedule(core)
    benchCoverage(core)
    benchPings(core)
    await benchBatch(join(scratch, 'core.mjs'))
    benchGrowth(core)
    await benchApplication(core)
    return 0
  } finally {
    rmSync(scratch, { recursive: true, force: true })
  }
}
