import { fileURLToPath } from 'node:url'
import { expect, it } from 'vitest'
import { CASES } from '../../tests/findings'
import { kindsByType } from '../../tests/findings/kinds'
import { site } from '../../tests/plans'
import { indexPlan } from '#core/queries'
import { analyse } from '.'

it('every kind of every finding has a case that raises it', () => {
  const raised = new Set(
    CASES.flatMap(([, , , raises]) =>
      analyse(indexPlan(site(raises)), []).findings.flatMap(({ code, values }) =>
        'kind' in values ? [`${code} ${values.kind}`] : [],
      ),
    ),
  )
  const kinds = kindsByType(fileURLToPath(new URL('..', import.meta.url)).replace(/\/$/, ''))
  expect(kinds.length).toBeGreaterThan(60)
  expect(kinds.filter((kind) => !raised.has(kind))).toEqual([])
}, 120_000)
