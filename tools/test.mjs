import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import {
  checkNode,
  ensureBuilt,
  ensureDebian,
  ensurePackages,
  ensureTypes,
  twinEnvironment,
} from './install.mjs'
import { freePort, startThrowAway } from './postgres.mjs'
import { node, run } from './run.mjs'
import { say, Stop } from './say.mjs'
import { startServer } from './server.mjs'

const TYPES = [
  ['core and contracts', ['node_modules/typescript/bin/tsc', '-p', 'contracts']],
  ['tests', ['node_modules/typescript/bin/tsc', '-p', 'tests']],
  ['app and its tests', ['node_modules/vue-tsc/bin/vue-tsc.js', '--noEmit', '-p', 'tests/app']],
  ['server', ['node_modules/vue-tsc/bin/vue-tsc.js', '--noEmit', '-p', '.nuxt/tsconfig.server.json']],
]

/**
 * Runs a script.
 * Beside something that must not be held up it gives way, and says what it has to say at its end.
 */
async function script(args, beside, env = {}) {
  if (!beside) return node(args[0], args.slice(1), { env })
  const { code, output } = await run('nice', ['-n', '10', process.execPath, ...args], { quiet: true })
  if (output.trim() !== '') say(output.trimEnd())
  return { code }
}

/** What failed, told once more at the end, where a long print is read first. */
const failures = []

/** One program that must end well counts as one test. */
async function check(name, args, beside) {
  const { code } = await script(args, beside)
  if (code !== 0) failures.push(name)
  say(`${code === 0 ? 'ok    ' : 'FAILED'} ${name}`)
  return { passed: code === 0 ? 1 : 0, failed: code === 0 ? 0 : 1, skipped: 0 }
}

async function lint(beside) {
  return [
    await check(
      'formatting',
      ['node_modules/prettier/bin/prettier.cjs', '--check', '--log-level', 'warn', '.'],
      beside,
    ),
    await check(
      'dead code',
      ['node_modules/knip/bin/knip.js', '--no-progress', '--include', 'exports,types,files'],
      beside,
    ),
    await check('lint', ['node_modules/eslint/bin/eslint.js', '.', '--max-warnings', '0'], beside),
  ]
}

async function types(beside) {
  const results = []
  for (const [name, args] of TYPES) results.push(await check(`types of ${name}`, args, beside))
  return results
}

/** Lines told of each failure at the end. */
const MOST_LINES = 25

const scratch = mkdtempSync(join(tmpdir(), 'mast-report-'))
/** What tests skipped, and why, a line each. */
const SKIPPED = join(scratch, 'skipped')
const skippedLines = () => (existsSync(SKIPPED) ? readFileSync(SKIPPED, 'utf8').trim().split('\n') : [])

/** A report that was not written is a failure, whatever the exit code says. */
function readReport(file, read) {
  try {
    return read(JSON.parse(readFileSync(file, 'utf8')))
  } catch {
    return { passed: 0, failed: 1, skipped: 0 }
  }
}

/** Vitest's tests and files that failed, each with the start of what it said. */
const failedIn = ({ testResults }) =>
  testResults.flatMap((file) => [
    ...(file.status === 'failed' && file.assertionResults.length === 0
      ? [`${file.name}\n${file.message}`]
      : []),
    ...file.assertionResults
      .filter(({ status }) => status === 'failed')
      .map(({ fullName, failureMessages }) => `${file.name} > ${fullName}\n${failureMessages.join('\n')}`),
  ])

/** Playwright's specs that failed, in suites that hold suites. */
const failedSpecs = ({ suites = [], specs = [] }) => [
  ...specs.filter(({ ok }) => !ok).map(({ file, line, title }) => `${file}:${line} > ${title}`),
  ...suites.flatMap(failedSpecs),
]

/** Vitest's projects that are a part together. */
const PROJECTS = { unit: ['unit', 'app'] }

async function vitest(project, { beside = false, env = {} } = {}) {
  const file = join(scratch, `${project}.json`)
  const { code } = await script(
    [
      'node_modules/vitest/vitest.mjs',
      'run',
      ...(PROJECTS[project] ?? [project]).flatMap((name) => ['--project', name]),
      '--reporter',
      'default',
      '--reporter',
      'json',
      '--outputFile.json',
      file,
    ],
    beside,
    env,
  )
  const counts = readReport(file, (report) => {
    failures.push(...failedIn(report))
    return {
      passed: report.numPassedTests,
      failed: report.numFailedTests,
      skipped: report.numPendingTests + report.numTodoTests,
    }
  })
  return [code !== 0 && counts.failed === 0 ? { ...counts, failed: 1 } : counts]
}

async function browser() {
  const file = join(scratch, 'e2e.json')
  const database = await startThrowAway()
  const port = await freePort()
  const server = startServer({
    host: '127.0.0.1',
    port,
    database,
    serverKey: 'a-password-for-tests-of-32-letters',
    env: { MAST_DEMO: '1', MAST_SILENCE_LIMIT_MS: '2500', MAST_LAB_SPEED: '120' },
  })
  try {
    await server.ready
    const env = { MAST_BASE_URL: `http://127.0.0.1:${port}`, PLAYWRIGHT_JSON_OUTPUT_NAME: file }
    const { code } = await node(
      'node_modules/@playwright/test/cli.js',
      ['test', '-c', 'tests/e2e', '--reporter', 'list,json'],
      { env },
    )
    const counts = readReport(file, (report) => {
      failures.push(...failedSpecs(report))
      const { stats } = report
      return {
        passed: stats.expected,
        failed: stats.unexpected + stats.flaky,
        skipped: stats.skipped,
      }
    })
    return [code !== 0 && counts.failed === 0 ? { ...counts, failed: 1 } : counts]
  } finally {
    server.child.kill('SIGTERM')
    await server.ended
    await database.stop()
  }
}

const built = (run) => async () => {
  await ensureBuilt()
  return run()
}
const PARTS = {
  lint,
  types,
  unit: (beside) => vitest('unit', { beside }),
  twin: () => vitest('twin', { env: { ...twinEnvironment(), MAST_SKIPPED_FILE: SKIPPED } }),
  server: built(() => vitest('server')),
  browser: built(browser),
}

/** Runs the parts named, or all of them, and ends with one line of counts. */
export async function test(names) {
  const unknown = names.filter((name) => !(name in PARTS))
  if (unknown.length > 0)
    throw new Stop(`No such part: ${unknown.join(', ')}. Parts are ${Object.keys(PARTS).join(', ')}.`)
  checkNode()
  const chosen = names.length > 0 ? names : Object.keys(PARTS)
  await ensureDebian({ browser: chosen.includes('browser'), twin: chosen.includes('twin') })
  await ensurePackages()
  await ensureTypes()
  const total = { passed: 0, failed: 0, skipped: 0 }
  const runOne = async (name, beside) => {
    say(`\n== ${name}${beside ? ', beside the kernel twin' : ''}`)
    for (const counts of await PARTS[name](beside))
      for (const key of Object.keys(total)) total[key] += counts[key]
  }
  try {
    // The twin waits for silence most of its time: what only computes runs beside it.
    const beside = chosen.includes('twin')
      ? chosen.filter((name) => ['lint', 'types', 'unit'].includes(name))
      : []
    const later = chosen.filter((name) => !beside.includes(name) && name !== 'twin')
    const computing = async () => {
      for (const name of beside) await runOne(name, true)
      if (beside.length > 0 && later.length > 0) await ensureBuilt()
    }
    if (chosen.includes('twin')) await Promise.all([runOne('twin', false), computing()])
    for (const name of later) await runOne(name, false)
    for (const line of skippedLines()) say(`\nskipped: ${line}`)
    for (const text of failures) say(`\nfailed: ${text.split('\n').slice(0, MOST_LINES).join('\n')}`)
  } finally {
    rmSync(scratch, { recursive: true, force: true })
  }
  say(`\n${total.passed} passed, ${total.failed} failed, ${total.skipped} skipped`)
  return total.failed === 0 ? 0 : 1
}
