import { defineSheet } from '~/shell/sheet'

export default defineSheet({
  key: 'tunnels',
  name: 'Tunnels',
  stage: 'plan',
  place: 8,
  shortcut: 'n',
})
