import { defineSheet } from '~/shell/sheet'

export default defineSheet({
  key: 'power',
  name: 'Power',
  stage: 'plan',
  place: 4,
  shortcut: 'w',
})
