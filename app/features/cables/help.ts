import { defineHelp } from '~/shell/sheet'

export default defineHelp({
  sheet: 'cables',
  lines: [
    'Each cable has one label, made by the rule and printed for both ends with a code.',
    'Link is the speed at which the ends come up over this cable and length.',
    'LAG: cables with the same name between two devices run as one bundle.',
    'To buy: cable by kind with spare, cords, transceivers and devices.',
  ],
})
