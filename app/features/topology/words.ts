import { mediumText } from '#core/export'
import type { layer2Of } from '#core/layer2'
import type { FlowRef, Walk } from '#core/reachability'
import { partyWords } from '~/wording/names'
import { flowWords } from '~/wording/walk'
import { stopWords } from '~/wording/stops'
import type { namesIn } from '~/wording/names'
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

/** Two ends of a cable or of several, and what it is made of. */
export function linkWords(names: Names, { from, fromPorts, to, toPorts, links }: LinkBundle): string {
  const medium = links[0] ? mediumText(links[0].medium) : { kind: '', lengthM: '' }
  const length = links.length === 1 && medium.lengthM ? `, ${medium.lengthM} m` : ''
  return `${names.device(from)} ${fromPorts} to ${names.device(to)} ${toPorts}: ${medium.kind}${length}`
}

/** A flow, and whether it passes; `walk` is null where one of its ends is not there under the scenario. */
export function walkWords(names: Names, flow: FlowRef, walk: Walk | null): string {
  const end = walk?.lines.at(-1)
  const passed = end?.kind === 'stopped' ? `does not pass: ${stopWords(end.code)}` : 'passes'
  const result = walk ? passed : 'one of the two is not there in this weather'
  return `${partyWords(flow.from, names)} to ${partyWords(flow.to, names)}, ${flowWords(flow)}: ${result}`
}

/** What spanning tree makes of the switches; empty where none speaks it. */
export function treeWords(names: Names, layer2: ReturnType<typeof layer2Of>): string {
  const [loop] = layer2.loops()
  if (loop) return `A loop without spanning tree: ${loop.map(names.device).join(', ')}.`
  const { rootId, blocked } = layer2.tree
  if (rootId === null) return ''
  const shut = blocked.map((ref) => `${names.device(ref.deviceId)} ${names.port(ref)}`).join(', ')
  const state = shut === '' ? 'no port blocked, there is no second way' : `blocked ${shut}`
  return `Spanning tree: root ${names.device(rootId)}; ${state}.`
}
