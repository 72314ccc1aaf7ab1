import { defineSheet } from '~/shell/sheet'

export default defineSheet({
  key: 'rules',
  name: 'Rules',
  stage: 'plan',
  place: 9,
  shortcut: 's',
})
