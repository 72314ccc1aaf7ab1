import { defineHelp } from '~/shell/sheet'

export default defineHelp({
  sheet: 'diagnose',
  lines: [
    'What was seen comes from the proof; change it here to try another story. Nothing is stored.',
    'Facts tell apart what fails alike: 169.254 or a stranger’s address, 100 Mb/s, a MAC address on another port.',
    'Tests that passed count as much as those that failed: they rule mistakes out.',
    'Explanations stand in order: fewest observations against them, fewest mistakes, most common.',
    'How common a mistake is, is common practice, without a source.',
    'Try next, look next: what splits the explanations that are left most evenly.',
    'See the grid so: the reach grid with that cable, device or uplink down.',
  ],
})
