import { createHash } from 'node:crypto'
import { mkdirSync, readdirSync, readFileSync, statSync } from 'node:fs'
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

const filesIn = (name) =>
  statSync(join(ROOT, name)).isFile()
    ? [name]
    : readdirSync(join(ROOT, name), { recursive: true }).map((file) => join(name, file))

/** Whether chance, by a seed, takes what stands there: one of so many, the same at each run. */
const isDrawn = (place, oneIn, seed) =>
  createHash('sha256').update(`${seed} ${place}`).digest().readUInt32BE() % oneIn === 0

/** `core/filter/rules.ts:12-40`: the functions and other statements of a file that chance takes. */
async function drawnRanges(file, oneIn, seed) {
  const { createSourceFile, ScriptTarget } = (await import('typescript')).default
  const source = createSourceFile(file, readFileSync(join(ROOT, file), 'utf8'), ScriptTarget.Latest, true)
  const lineOf = (position) => source.getLineAndCharacterOfPosition(position).line + 1
  return source.statements
    .map((statement) => `${file}:${lineOf(statement.getStart())}-${lineOf(statement.end)}`)
    .filter((range) => isDrawn(range, oneIn, seed))
}

const numberAfter = (word, names) =>
  Number(names.find((name) => name.startsWith(word))?.slice(word.length) ?? 1)

/**
 * Tries the mutants of some files, or of folders; `changed` stands for what changed last.
 * With `one-in=10` one of ten functions is drawn by chance, others with another `seed=2`: the share that is caught is
 * then an estimate.
 */
export async function mutantsOf(words) {
  checkNode()
  await ensurePackages()
  await ensureTypes()
  const [oneIn, seed] = [numberAfter('one-in=', words), numberAfter('seed=', words)]
  const names = words.filter((word) => !word.includes('='))
  const asked = names.join(' ') === 'changed' ? await changedFiles() : names
  if (asked.length === 0) throw new Stop('No file of core has changed.')
  const files = asked.flatMap(filesIn).filter(isSource)
  const drawn = async () => (await Promise.all(files.map((file) => drawnRanges(file, oneIn, seed)))).flat()
  const tried = oneIn > 1 ? await drawn() : files
  if (tried.length === 0) throw new Stop('Nothing there to be changed: name other files, or another seed.')
  mkdirSync(join(ROOT, '.mast/mutants'), { recursive: true })
  const { code } = await node('node_modules/@stryker-mutator/core/bin/stryker.js', [
    'run',
    'stryker.config.json',
    '--mutate',
    tried.join(','),
  ])
  if (code !== 0) return 1
  const report = JSON.parse(readFileSync(join(ROOT, '.mast/mutants/report.json'), 'utf8'))
  for (const line of scores(report)) say(line)
  return 0
}
