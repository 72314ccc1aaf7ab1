import { defineSheet } from '~/shell/sheet'

export default defineSheet({
  key: 'cables',
  name: 'Cables',
  stage: 'plan',
  place: 3,
  shortcut: 'c',
})
