import { defineHelp } from '~/shell/sheet'

export default defineHelp({
  sheet: 'weather',
  lines: [
    'Every uplink, device and cable between devices fails once, alone; a row says what the intents lose then.',
    'A cut flag: an intent that is meant to survive this. Point at an intent to see which services are lost.',
    'Below: what each intent hangs on. Choose a failure to see the grid under it.',
  ],
})
