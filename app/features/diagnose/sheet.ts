import { defineSheet } from '~/shell/sheet'

export default defineSheet({
  key: 'diagnose',
  name: 'Diagnose',
  stage: 'prove',
  place: 2,
  shortcut: 'd',
})
