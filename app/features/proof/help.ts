import { defineHelp } from '~/shell/sheet'

export default defineHelp({
  sheet: 'prove',
  lines: [
    'Tests follow from the intent. A full pennant passed, a cut one failed, a bare staff was not tried.',
  ],
})
