import { readFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { expect, it } from 'vitest'
import { CASES } from '../../tests/findings'
import { findingsOf } from '../../tests/findings/found'
import { kindsByType } from '../../tests/findings/kinds'

it('every kind of every finding has a case that raises it', () => {
  const raised = new Set(
    CASES.flatMap(([, , , raises]) =>
      findingsOf(raises).flatMap(({ code, values }) => ('kind' in values ? [`${code} ${values.kind}`] : [])),
    ),
  )
  const kinds = kindsByType(fileURLToPath(new URL('..', import.meta.url)).replace(/\/$/, ''))
  expect(kinds.length).toBeGreaterThan(60)
  // Of what the server keeps: kept-passphrases.test.ts.
  expect(kinds.filter((kind) => !raised.has(kind))).toEqual(['F02 guessable', 'F02 short'])
}, 120_000)

it('every code has a case of its own', () => {
  const domains = [
    'address',
    'brief',
    'cabling',
    'layer2',
    'policy',
    'radio',
    'tunnels',
    'uplinks',
    'wifi',
    'work',
  ]
  const texts = domains.map((name) => readFileSync(new URL(`${name}/values.ts`, import.meta.url), 'utf8'))
  const codes = texts.flatMap((text) => [...text.matchAll(/^ {2}([A-Z]\d\d):/gm)].map((m) => m[1]))
  expect(codes.length).toBeGreaterThan(70)
  // Those of what the server keeps: kept-passphrases.test.ts.
  expect(codes.filter((code) => !CASES.some(([c]) => c === code))).toEqual(['F02', 'F16'])
})
