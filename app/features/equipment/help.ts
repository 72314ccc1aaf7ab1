import { defineHelp } from '~/shell/sheet'

export default defineHelp({
  sheet: 'equipment',
  lines: [
    'Boxes: what stands on each label, and which device of the plan the box becomes.',
    'Scan: a serial begins a box or fills the first that waits for one; a MAC completes the box before.',
    'Models: ports, power and factory habits. Models of your own come before those of the catalogue.',
  ],
})
