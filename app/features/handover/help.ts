import { defineHelp } from '~/shell/sheet'

export default defineHelp({
  sheet: 'hand-over',
  lines: ['Papers and files of the saved revision. Nothing secret is in them.'],
})
