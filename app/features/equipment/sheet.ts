import { defineSheet } from '~/shell/sheet'

export default defineSheet({
  key: 'equipment',
  name: 'Equipment',
  stage: 'brief',
  place: 2,
  shortcut: 'e',
})
