import { mkdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { checkNode, ensurePackages, ensureTypes } from './install.mjs'
import { ROOT, node, run } from './run.mjs'
import { say, Stop } from './say.mjs'

// Mutation testing of named files of core by a standard tool, Stryker: every operator, literal and block is changed
// by itself, and the unit tests that cover it are run. What was found is kept, so that the next run asks what is new.

const CORE = /^core\/.*\.ts$/
const isSource = (file) => CORE.test(file) && !file.endsWith('.test.ts')

/** Files of core that differ from the last commit, or changed with it. */
async function changedFiles() {
  const lists = await Promise.all(
    [
      ['diff', '--name-only', 'HEAD'],
      ['diff', '--name-only', 'HEAD~1', 'HEAD'],
    ].map((args) => run('git', args, { quiet: true })),
  )
  return [...new Set(lists.flatMap(({ output }) => output.split('\n')).filter(isSource))]
}

const DETECTED = new Set(['Killed', 'Timeout'])
const COUNTED = new Set([...DETECTED, 'Survived', 'NoCoverage'])

/** `core/layer2: 91.2 % of 340`, a line for each folder. */
function scores(report) {
  const byFolder = new Map()
  for (const [file, { mutants }] of Object.entries(report.files)) {
    const folder = file.split('/').slice(0, 2).join('/')
    const known = byFolder.get(folder) ?? { caught: 0, all: 0 }
    for (const { status } of mutants) {
      known.caught += DETECTED.has(status) ? 1 : 0
      known.all += COUNTED.has(status) ? 1 : 0
    }
    byFolder.set(folder, known)
  }
  return [...byFolder].map(
    ([folder, { caught, all }]) => `${folder}: ${((100 * caught) / Math.max(all, 1)).toFixed(1)} % of ${all}`,
  )
}

/** Tries the mutants of some files, or of folders; `changed` stands for what changed last. */
export async function mutantsOf(names) {
  checkNode()
  await ensurePackages()
  await ensureTypes()
  const asked = names.join(' ') === 'changed' ? await changedFiles() : names
  if (asked.length === 0) throw new Stop('No file of core has changed.')
  const files = asked.map((name) => (name.endsWith('.ts') ? name : `${name.replace(/\/$/, '')}/**/*.ts`))
  mkdirSync(join(ROOT, '.mast/mutants'), { recursive: true })
  const { code } = await node('node_modules/@stryker-mutator/core/bin/stryker.js', [
    'run',
    'stryker.config.json',
    '--mutate',
    [...files, '!core/**/*.test.ts'].join(','),
  ])
  if (code !== 0) return 1
  const report = JSON.parse(readFileSync(join(ROOT, '.mast/mutants/report.json'), 'utf8'))
  for (const line of scores(report)) say(line)
  return 0
}
