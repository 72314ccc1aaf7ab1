import { defineHelp } from '~/shell/sheet'

export default defineHelp({
  sheet: 'brief',
  lines: [
    'Missing facts: what nobody has found out yet, and which stage waits for it. Choose one to go to its field.',
    'Before you unplug: a list made from the uplinks in use. Ticks are kept with who and when.',
    'A question mark in the tables of the uplinks stands for a fact that is not known.',
    'Needs: devices by kind with growth; subnets for them are given on Addresses.',
    'A cellular uplink’s signal is as good as its worse half; the caution there counts for every antenna outside.',
    'Distances and rooms decide where copper ends and fibre begins.',
  ],
})
