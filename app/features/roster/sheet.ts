import { defineSheet } from '~/shell/sheet'

export default defineSheet({
  key: 'roster',
  name: 'Roster',
  stage: 'adopt',
  place: 1,
  shortcut: 'o',
})
