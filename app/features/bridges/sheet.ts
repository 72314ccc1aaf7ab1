import { defineSheet } from '~/shell/sheet'

export default defineSheet({
  key: 'bridges',
  name: 'Bridges',
  stage: 'plan',
  place: 6,
  shortcut: 'i',
})
