import { expect, it } from 'vitest'
import { strayMutants } from '../../tools/mutants.mjs'

it('every deliberate change finds the code it changes', () => {
  expect(strayMutants()).toEqual([])
})
