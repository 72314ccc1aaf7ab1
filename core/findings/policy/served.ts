// Question: do clients reach the name servers that they are handed, and relays the server that they ask?
// Method: the flow of each, traced from a host of the network, or from the relay, as any other.
// Source: RFC 1035 section 4.2 (UDP port 53), RFC 2131 section 4.1 and RFC 1542 section 4 (relays).
import { parseIpv4 } from '#core/address'
import {
  answeredRelays,
  flowTyped,
  INTERNET,
  stopOfFlow,
  type ReachabilityMatrix,
  type Site,
} from '#core/reachability'
import { isNothing } from '#core/filter'
import type { Network } from '#core/schema'
import { orNull } from '#core/util'
import { cellIn, passing } from '../cells'
import { draft, type Draft } from '../finding'
import type { PolicyValues } from './values'

const NAMES = { proto: 'udp', port: 53 } as const
type Stop = (PolicyValues['P11'] & { kind: 'names' })['stop']

/** Where a question for a name ends that a host of a network sends to a server; null where it is answered. */
function stopOfNames(site: Site, network: Network, server: string): Stop | null {
  const to = orNull(parseIpv4(server))
  const host = site.endpoints.find((e) => e.networkId === network.id && e.how !== 'link-local')
  const from = host?.ranges[0]?.from
  // An address that is none is told of by itself, and of a network that nobody is in nothing can be said.
  if (!host || from === undefined || to === null || from === to) return null
  const like = { from: host.id, fromAddress: from, to: INTERNET, toAddress: to, ...NAMES }
  const flow = flowTyped(site, like, { from: null, to, ...NAMES })
  if (!flow) return 'no-target'
  return flow.from === flow.to ? null : stopOfFlow(site, flow)
}

function namesFindings(site: Site, matrix: ReachabilityMatrix, network: Network): Draft[] {
  const goesOut = () => !isNothing(passing(cellIn(matrix, network.id, INTERNET)))
  // The gateway is handed out by default; who goes nowhere does without.
  const byDefault = network.options.dns.length === 0 && goesOut() ? [network.gateway] : []
  const servers = network.dhcp === 'none' ? [] : [...network.options.dns, ...byDefault]
  return servers.flatMap((server) => {
    const stop = stopOfNames(site, network, server)
    if (stop === null) return []
    const values = { kind: 'names' as const, network: network.name, server, stop, key: server }
    return [draft('P11', 'blocker', ['networks', network.id, 'options', 'dns'], values)]
  })
}

/** Relays that hear no server, where the plan has one of that address. */
function unheardRelays(site: Site): Draft[] {
  const { plan } = site.index
  const relays = plan.networks.filter(({ dhcp, relayTo }) => {
    const server = orNull(parseIpv4(relayTo ?? ''))
    const isKnown = plan.networks.some(({ fixed }) => fixed.some(({ ip }) => ip === relayTo))
    return dhcp === 'relay' && server !== null && isKnown && site.failed.size === 0
  })
  if (relays.length === 0) return []
  const answered = answeredRelays(site.index, site.plane)
  return relays
    .filter(({ id }) => !answered.has(id))
    .map(({ id, name, relayTo }) => {
      const values = { kind: 'relay' as const, network: name, server: relayTo ?? '', key: 'relay' }
      return draft('P11', 'blocker', ['networks', id, 'relayTo'], values)
    })
}

/** @param blamed networks whose addressing is already found wrong */
export function servedFindings(site: Site, matrix: ReachabilityMatrix, blamed: ReadonlySet<string>): Draft[] {
  const networks = site.index.plan.networks.filter(({ id }) => !blamed.has(id))
  return [...networks.flatMap((network) => namesFindings(site, matrix, network)), ...unheardRelays(site)]
}
