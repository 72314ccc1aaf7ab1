import type { BenchLine } from '#core/adopt'

/** What address the laptop takes on the bench. */
export const laptopWords = ({ laptop, factory, ssid }: BenchLine): string =>
  (ssid === '' ? '' : `joins ${ssid}; `) +
  (laptop ?? (factory.kind === 'dhcp-server' ? 'automatic, from it' : 'automatic'))
export const openWords = ({ open }: BenchLine): string => open ?? 'see the leases'
