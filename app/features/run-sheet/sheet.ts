import { defineSheet } from '~/shell/sheet'

export default defineSheet({
  key: 'run-sheet',
  name: 'Run sheet',
  stage: 'stage',
  place: 1,
  shortcut: 'x',
})
