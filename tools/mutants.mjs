import { cpSync, existsSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { stripVTControlCharacters } from 'node:util'
import { checkNode, ensurePackages, ensureTypes } from './install.mjs'
import { ROOT, run } from './run.mjs'
import { say } from './say.mjs'

// Deliberate changes to what the engine means, one at a time, in a copy.
// Each must make some test fail.
// The kernel twin is not asked: what the unit tests let through would be left to it alone.

/** File under core, the text that is there, what stands there instead, and what that would mean. */
const MUTANTS = JSON.parse(readFileSync(new URL('mutants.json', import.meta.url), 'utf8'))

/**
 * Matches a piece of code however the formatter breaks its lines: blanks and trailing commas do not count.
 */
function patternOf(code) {
  const escaped = (token) => token.replace(/[$()*+.?[\\\]^{|}]/g, '\\$&')
  const tokens = code.match(/[\w$]+|\S/g) ?? []
  return new RegExp(
    tokens.map((token) => (/[)\]}]/.test(token) ? `,?\\s*${escaped(token)}` : escaped(token))).join('\\s*'),
    'g',
  )
}

/** The mutants whose text their file does not hold. */
export function strayMutants() {
  const textOf = (file) =>
    existsSync(join(ROOT, 'core', file)) ? readFileSync(join(ROOT, 'core', file), 'utf8') : ''
  return MUTANTS.filter(({ file, find }) => !patternOf(find).test(textOf(file)))
}

// One after another, until one fails: those of the changed module, then all. The property tests take longest.
const TESTS = [
  ['core/layer2', 'core/filter', 'core/reachability', 'core/findings', 'core/queries', 'core/edit'],
  ['core/radio', 'core/wifi', 'core/prove'],
  ['tests/property'],
  ['core/diagnose'],
]

const COPIED = [
  'core',
  'contracts',
  'server',
  'app',
  'tests',
  'vitest.config.ts',
  'tsconfig.json',
  'tsconfig.base.json',
  'package.json',
  '.nuxt',
]

/** A copy of what the tests need, that may be spoiled. */
function spoilableCopy() {
  const copy = mkdtempSync(join(tmpdir(), 'mast-mutants-'))
  for (const part of COPIED) cpSync(join(ROOT, part), join(copy, part), { recursive: true })
  symlinkSync(join(ROOT, 'node_modules'), join(copy, 'node_modules'))
  return copy
}

/** The first tests that fail; null where none does. */
async function failing(copy, file) {
  for (const tests of [[`core/${file.split('/')[0]}`], ...TESTS]) {
    const args = ['node_modules/vitest/vitest.mjs', 'run', '--project', 'unit', '--bail', '1', ...tests]
    const { code, output } = await run(process.execPath, args, { cwd: copy, quiet: true })
    if (code !== 0)
      return /FAIL\s+\|?unit\|?\s+(\S+\.test\.ts)/.exec(stripVTControlCharacters(output))?.[1] ?? ''
  }
  return null
}

/** Makes one change in the copy and takes it back; what caught it, or that nothing did. */
async function tryMutant(copy, { file, find, put }) {
  const path = join(copy, 'core', file)
  const text = readFileSync(path, 'utf8')
  const changed = text.replace(patternOf(find), () => put)
  if (changed === text) return 'NOT THERE'
  writeFileSync(path, changed)
  const caught = await failing(copy, file)
  writeFileSync(path, text)
  return caught ?? 'NOT CAUGHT'
}

function report(rows) {
  const lines = rows.map(([place, meaning, caught]) => {
    const by = caught.startsWith('NOT') ? `**${caught.toLowerCase()}**` : `\`${caught}\``
    return `| \`${place}\` | ${meaning} | ${by} |`
  })
  return [
    '# Deliberate changes to the engine',
    '',
    `\`./mast mutants\` makes each of these ${rows.length} changes by itself, in a copy, ` +
      'and runs the unit and property tests until one fails.',
    'The kernel twin is not asked. Written by that command.',
    '',
    'With files or folders of core behind it (`./mast mutants core/filter/services.ts`), or the word `changed`, ' +
      'the same command has Stryker change every operator, literal and block there, and prints the share that ' +
      'the unit tests caught. With `one-in=10` it draws a tenth of the functions there, others with another `seed=2`.',
    '',
    '| in `core/` | what the engine would mean | caught by |',
    '| --- | --- | --- |',
    ...lines,
    '',
  ].join('\n')
}

/**
 * Tries every mutant and writes `docs/mutants.md`; or those alone whose file or meaning holds a text, and
 * writes nothing.
 * Ends well where each was caught.
 */
export async function mutants(only = '') {
  checkNode()
  await ensurePackages()
  await ensureTypes()
  const copy = spoilableCopy()
  const rows = []
  try {
    for (const mutant of MUTANTS.filter(({ file, meaning }) => `${file} ${meaning}`.includes(only))) {
      const caught = await tryMutant(copy, mutant)
      rows.push([mutant.file, mutant.meaning, caught])
      say(`${caught.startsWith('NOT') ? caught : 'caught    '} ${mutant.file}: ${mutant.meaning}`)
    }
  } finally {
    rmSync(copy, { recursive: true, force: true })
  }
  const lost = rows.filter(([, , by]) => by.startsWith('NOT'))
  if (only === '') writeFileSync(join(ROOT, 'docs/mutants.md'), report(rows))
  say(`\n${rows.length - lost.length} of ${rows.length} caught`)
  return lost.length === 0 ? 0 : 1
}
