import { defineHelp } from '~/shell/sheet'

export default defineHelp({
  sheet: 'roster',
  lines: [
    'A row a device, its steps from claim to in sync. What waits says for what.',
    'The shelf below holds simulated devices that speak to the controller as real ones do.',
  ],
})
