import { defineSheet } from '~/shell/sheet'

export default defineSheet({
  key: 'brief',
  name: 'Facts',
  stage: 'brief',
  place: 1,
  shortcut: 'b',
})
