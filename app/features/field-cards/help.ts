import { defineHelp } from '~/shell/sheet'

export default defineHelp({
  sheet: 'field-cards',
  lines: [
    'One step of the run sheet at a time: what, where, with which values, how long.',
    'Start, then Done with what it asks for; or not as it should be; or skip it, with the reason.',
    'A wait counts down, and says from when on to worry.',
    'What is told without a network is kept on this telephone and sent when it is back.',
    'After each step the rest of the run sheet is laid out again.',
  ],
})
