import { defineHelp } from '~/shell/sheet'

export default defineHelp({
  sheet: 'aiming',
  lines: [
    'One end of a radio link: where to look, what to read there, and what it reads now.',
    'The bar: the level now, the highest so far, and the one that is computed.',
    'Spoken or as a tone, so that the telephone can stay in a pocket: a higher tone is a higher level.',
    'Readings come from the radios, from the lab’s simulated ones, or are typed as they are read.',
    'What is kept at the end is a result of the acceptance test of that end.',
  ],
})
