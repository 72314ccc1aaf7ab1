import { count } from '../count'
import type { FindingWords, MendWords } from './words'

// What the findings of the work on site say, and the buttons of their mends.

export const WORK_WORDS = {
  F15: ({ radios }) => ({
    title: `${count(radios, 'radio')} would keep a channel chosen at the bench`,
    what: 'They choose by themselves, and choosing on site is left out of the run sheet.',
    why: 'At the bench they hear other neighbours than on site. They choose on site, at night.',
  }),
  S01: ({ kind, neededMin, windowMin }) => ({
    title: kind === 'whole' ? 'The cut-over does not fit its window' : 'No time to turn back in the window',
    what:
      kind === 'whole'
        ? `It takes ${neededMin} min at usual speed, and the window is ${windowMin} min long.`
        : `With the way back at its worst it takes ${neededMin} min, and the window is ${windowMin} min long.`,
    why:
      kind === 'whole'
        ? 'People would be without a line after the window closes. Agree a longer one, or shorten what is done in it.'
        : 'If it fails at its end, the old line is not back before the window closes. Agree a longer one.',
  }),
  S02: ({ date }) => ({
    title: 'Nobody works at the cut-over',
    what: `On ${date} no hours of anybody named reach into the window.`,
    why: 'The schedule finds no place for it. Change the window, or somebody’s hours or days.',
  }),
  S03: ({ date, startDate }) => ({
    title: 'The window is before the work',
    what: `The cut-over is on ${date}, and the work begins on ${startDate}.`,
    why: 'Nothing can be done in it. Agree another window, or begin earlier.',
  }),
} satisfies Partial<FindingWords>

export const WORK_MENDS = {
  'choose-on-site': ({ radios }) => `Let ${count(radios, 'radio')} choose on site`,
} satisfies Partial<MendWords>
