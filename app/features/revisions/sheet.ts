import { defineSheet } from '~/shell/sheet'

export default defineSheet({
  key: 'revisions',
  name: 'Revisions',
  stage: null,
  place: 1,
  shortcut: 'v',
})
