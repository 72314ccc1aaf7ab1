import { defineSheet } from '~/shell/sheet'

export default defineSheet({
  key: 'roster',
  name: 'Roster',
  stage: 'adopt',
  place: 1,
  shortcut: 'o',
  help: [
    'A row a device, its steps from claim to in sync. What waits says for what.',
    'The shelf below holds simulated devices that speak to the controller as real ones do.',
  ],
})
