import { expect, it } from 'vitest'
import { indexPlan } from '#core/queries'
import { gullhavenPlan } from '#server/demo/gullhaven'
import { acceptanceOf, analyse, isAcceptance } from '.'

it('each finding is accepted by a note of its own', () => {
  const notes = analyse(indexPlan(gullhavenPlan()), []).findings.map(acceptanceOf)
  expect(notes.length).toBeGreaterThan(3)
  expect(new Set(notes).size).toBe(notes.length)
  expect(notes.filter((note) => !isAcceptance(note))).toEqual([])
  expect(isAcceptance('finding of mine')).toBe(false)
})
