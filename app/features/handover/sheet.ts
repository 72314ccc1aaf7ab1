import { defineSheet } from '~/shell/sheet'

export default defineSheet({
  key: 'hand-over',
  name: 'As-built papers',
  stage: 'hand-over',
  place: 1,
  shortcut: 'h',
  help: ['Papers and files of the saved revision. Nothing secret is in them.'],
})
