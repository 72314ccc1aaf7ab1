import { defineSheet } from '~/shell/sheet'

export default defineSheet({
  key: 'hand-over',
  name: 'As-built papers',
  stage: 'hand-over',
  place: 1,
  shortcut: 'h',
})
