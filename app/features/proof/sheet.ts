import { defineSheet } from '~/shell/sheet'

export default defineSheet({
  key: 'prove',
  name: 'Acceptance tests',
  stage: 'prove',
  place: 1,
  shortcut: 'p',
})
