import { defineSheet } from '~/shell/sheet'

export default defineSheet({
  key: 'loom',
  name: 'Loom',
  stage: 'plan',
  place: 2,
  shortcut: 'l',
})
