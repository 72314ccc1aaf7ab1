import { defineSheet } from '~/shell/sheet'

export default defineSheet({
  key: 'addresses',
  name: 'Addresses',
  stage: 'plan',
  place: 1,
  shortcut: 'a',
})
