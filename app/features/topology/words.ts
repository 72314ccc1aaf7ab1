import type { namesIn } from '~/wording/reach'
import type { DrawnGap } from './drawing'
import type { LinkBundle } from './topology-graph'

type Names = ReturnType<typeof namesIn>

/** Where a VLAN stops short, and by whose fault. */
export const gapWords = (names: Names, { thread, stop }: DrawnGap) => ({
  title: `${names.network(thread.networkId)} ${thread.vlan} stops here`,
  why: `${names.device(stop.port.deviceId)} port ${names.port(stop.port)} does not carry it`,
})

export function bundleWords(names: Names, { from, fromPorts, to, toPorts, threads }: LinkBundle): string {
  const ends = `${names.device(from)} ${fromPorts} to ${names.device(to)} ${toPorts}`
  return `${ends}: VLAN ${threads.map((thread) => thread.vlan).join(', ') || 'none'}`
}
