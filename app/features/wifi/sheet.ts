import { defineSheet } from '~/shell/sheet'

export default defineSheet({
  key: 'wifi',
  name: 'Wi-Fi',
  stage: 'plan',
  place: 7,
  shortcut: 'm',
})
