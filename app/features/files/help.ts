import { defineHelp } from '~/shell/sheet'

export default defineHelp({
  sheet: 'files',
  lines: [
    'What each device is told, made from the plan: choose a device, then a file.',
    'The same plan gives the same bytes; secrets are not in them unless asked for.',
    'Gateway files are for a Linux router: nftables, iproute2, dnsmasq or Kea, WireGuard.',
  ],
})
