import { defineSheet } from '~/shell/sheet'

export default defineSheet({
  key: 'weather',
  name: 'Weather table',
  stage: 'rehearse',
  place: 2,
  shortcut: 't',
})
