import { defineSheet } from '~/shell/sheet'

export default defineSheet({
  key: 'reach',
  name: 'Reach grid',
  stage: 'rehearse',
  place: 1,
  shortcut: 'r',
})
