import { defineSheet } from '~/shell/sheet'

export default defineSheet({
  key: 'aiming',
  name: 'Aiming',
  stage: 'adopt',
  place: 2,
  shortcut: 'y',
})
