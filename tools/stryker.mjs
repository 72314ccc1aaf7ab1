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

const percent = (share) => `${(100 * share).toFixed(1)} %`
const sum = (counts, key) => counts.reduce((total, count) => total + count[key], 0)

/**
 * How many mutants of each file or range of lines that was tried were counted and caught. The report holds what was
 * found in earlier runs, too: that is not counted.
 */
function countsOf(file, mutants, tried) {
  const within = tried
    .filter((range) => range.split(':')[0] === file)
    .map((range) => (range.split(':')[1] ?? '0-Infinity').split('-').map(Number))
  const counts = within.map(([first, last]) => {
    const own = mutants.filter(({ location, status }) => {
      const { line } = location.start
      return COUNTED.has(status) && line >= first && line <= last
    })
    return { all: own.length, caught: own.filter(({ status }) => DETECTED.has(status)).length }
  })
  return counts.filter(({ all }) => all > 0)
}

/**
 * The share that is caught, and how far it may be from that of all statements: 95 of 100 draws come that near.
 * Mutants of one statement are alike, so statements are what is drawn: the ratio estimate of single-stage cluster
 * sampling (W. G. Cochran, Sampling Techniques, 3rd ed. 1977, chapter 9A).
 */
function estimate(counts) {
  const [all, drawn] = [sum(counts, 'all'), counts.length]
  const share = sum(counts, 'caught') / all
  const squares = counts.reduce((total, count) => total + (count.caught - share * count.all) ** 2, 0)
  return { all, share, within: (1.96 * Math.sqrt((squares * drawn) / (drawn - 1))) / all }
}

/** `core/layer2: 91.2 % of 340`, a line for each folder; of drawn statements with how far that may be off. */
function scores(report, tried) {
  const byFolder = new Map([['all', []]])
  for (const [file, { mutants }] of Object.entries(report.files)) {
    const folder = file.split('/').slice(0, 2).join('/')
    const counts = countsOf(file, mutants, tried)
    byFolder.set(folder, [...(byFolder.get(folder) ?? []), ...counts])
    byFolder.get('all').push(...counts)
  }
  return [...byFolder].flatMap(([folder, counts]) => {
    if (counts.length === 0) return []
    const { all, share, within } = estimate(counts)
    const isDrawn = tried.some((range) => range.includes(':'))
    const off = isDrawn && counts.length > 1 ? ` ± ${percent(within)}` : ''
    return [`${folder}: ${percent(share)}${off} of ${all}`]
  })
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
  for (const line of scores(report, tried)) say(line)
  return 0
}
