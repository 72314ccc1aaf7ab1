import js from '@eslint/js'
import vue from 'eslint-plugin-vue'
import ts from 'typescript-eslint'
import project from './tools/lint-rules.mjs'

const noClock = [
  {
    selector: "CallExpression[callee.object.name='Date'][callee.property.name='now']",
    message: 'Time is an argument in core.',
  },
  {
    selector: "NewExpression[callee.name='Date'][arguments.length=0]",
    message: 'Time is an argument in core.',
  },
  {
    selector: "CallExpression[callee.object.name='Math'][callee.property.name='random']",
    message: 'Randomness is an argument in core.',
  },
]

// What is remembered of plans belongs to an engine: at the top of a module of core nothing may change.
const mutable = '/^(Map|Set|WeakMap|WeakSet)$/'
const readonlyType = '/^Readonly(Map|Set)$/'
const top = ':matches(Program, Program > ExportNamedDeclaration)'
const constant = (type) => `${top} > VariableDeclaration > VariableDeclarator:not([${type}])`
const noModuleState = [
  {
    selector: `${top} > VariableDeclaration[kind="let"]`,
    message: 'No module-level state in core: let an engine own it.',
  },
  {
    selector:
      `${constant(`id.typeAnnotation.typeAnnotation.typeName.name=${readonlyType}`)} > ` +
      `NewExpression.init[callee.name=${mutable}]`,
    message: 'No module-level state in core: say ReadonlyMap or ReadonlySet, or let an engine own it.',
  },
  {
    selector:
      `${constant('id.typeAnnotation.typeAnnotation.operator="readonly"')} > ` +
      'ArrayExpression.init[elements.length=0]',
    message: 'No module-level state in core: say readonly.',
  },
]

const NODE_GLOBALS = [
  'Buffer',
  'URL',
  'clearTimeout',
  'console',
  'fetch',
  'performance',
  'process',
  'requestAnimationFrame',
  'setTimeout',
  'structuredClone',
]

export default ts.config(
  {
    ignores: [
      '.nuxt/',
      '.output/',
      '.mast/',
      'node_modules/',
      'server/db/migrations/',
      'tests/boundaries/canary/',
      'test-results/',
    ],
  },
  js.configs.recommended,
  ...ts.configs.recommended,
  ...vue.configs['flat/essential'],
  { files: ['**/*.vue'], languageOptions: { parserOptions: { parser: ts.parser } } },
  {
    plugins: { project },
    rules: {
      'no-undef': 'off', // TypeScript knows better.
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-unused-expressions': ['error', { allowTernary: true }],
      // Types of the schema get a name of their own, by which the compiler speaks of them.
      '@typescript-eslint/no-empty-object-type': ['error', { allowInterfaces: 'with-single-extends' }],
      'no-eval': 'error',
      'no-console': ['error', { allow: ['error'] }],
      'vue/multi-word-component-names': 'off',
      'no-nested-ternary': 'error',
      'max-params': ['error', 5],
      'project/name-length': 'error',
      complexity: ['error', 15],
      'project/function-lines': ['error', { max: 60, skipComments: true, skipBlankLines: true }],
      'max-lines': ['error', { max: 400, skipComments: true, skipBlankLines: true }],
      // The formatter breaks lines at 110 columns; this is for what it cannot break.
      'max-len': ['error', { code: 120 }],
    },
  },
  { files: ['mast', 'tools/**', 'tests/**'], rules: { 'no-console': 'off' } },
  {
    // The compiler does not see these: a name that nobody declares is told here.
    files: ['mast', '**/*.mjs'],
    languageOptions: { globals: Object.fromEntries(NODE_GLOBALS.map((name) => [name, 'readonly'])) },
    rules: { 'no-undef': 'error' },
  },
  // Sample data as rows of a table: a name before each value would hide the data, and a table has as many rows
  // as it has.
  {
    files: ['server/demo/**', 'tests/plans.ts', 'tests/large.ts'],
    rules: { 'max-params': 'off', 'project/function-lines': 'off' },
  },
  {
    files: ['core/**/*.ts'],
    rules: {
      'no-restricted-syntax': ['error', ...noClock, ...noModuleState],
      'no-restricted-globals': [
        'error',
        'process',
        'requestAnimationFrame',
        'Buffer',
        'fetch',
        'window',
        'document',
        'setTimeout',
        'setInterval',
        'console',
        'crypto',
      ],
    },
  },
)
