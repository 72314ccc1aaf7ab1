import { defineHelp } from '~/shell/sheet'

export default defineHelp({
  sheet: 'loom',
  lines: [
    'Bars are devices, from the internet at the left to the edge at the right.',
    'Each thread is a VLAN, told by colour and dash; its number stands in the legend.',
    'A thread that ends in a magenta knot stops short: the port named there does not carry it.',
    'A bar in brick and dashes is down in the weather chosen; a cross stands on its cables.',
    '“One way” beside a thread: frames pass in one direction only, as over unlike native VLANs.',
    'Choose a thread, a bar or a cable: the table below shows its ports, and they are edited there.',
    'Mend trunks proposes the least tags that serve every edge; Set ports changes a span at once.',
    'Speed is what both ends and the cable agree on. Light is the transceiver in the port.',
    'Below the picture: the root of the spanning tree and the ports it blocks.',
  ],
})
