import { defineSheet } from '~/shell/sheet'

export default defineSheet({
  key: 'uplinks',
  name: 'Uplinks',
  stage: 'plan',
  place: 5,
  shortcut: 'u',
})
