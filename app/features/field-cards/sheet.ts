import { defineSheet } from '~/shell/sheet'

export default defineSheet({
  key: 'field-cards',
  name: 'Field cards',
  stage: 'stage',
  place: 2,
  shortcut: 'j',
})
