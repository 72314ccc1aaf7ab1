import { defineHelp } from '~/shell/sheet'

export default defineHelp({
  sheet: 'uplinks',
  lines: [
    'Uplinks stand in their order: the first that is well carries the site. Drag one, or use its buttons.',
    'Uplinks of the same order share new flows by weight when it is their turn; one sender stays with one of them.',
    'The strip is one failure: a fault, when it is noticed, traffic on the other uplink, and the return.',
    'The dashed box is where the change-over may fall: a fault can come at any moment between two rounds.',
    'Play it: the same with rounds at random moments; red ticks are missed rounds, green ones good.',
    'False alarms: how often an uplink that is well is taken for dead, by formula and simulated.',
    'Affected: intents that fail until the fault is noticed, and on the other uplink.',
    'Policy routes: the first that fits decides; the rest takes the uplinks in order.',
    'Port forwards: what is handed inside, and who inside gets through by the outside address.',
  ],
})
