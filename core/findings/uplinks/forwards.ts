// Question: does what is handed inside arrive at somebody, also when it is called from inside?
// Method: each forward against fixed addresses, and against the intents that allow its server.
// Source: RFC 4787 section 6 (hairpinning).
import { contains, parseIpv4, readPrefixes4 } from '#core/address'
import { includes, servicesOf } from '#core/filter'
import type { Intent, Plan, PortForward } from '#core/schema'
import type { PlanIndex } from '#core/queries'
import { orNull } from '#core/util'
import { draft, set, type Draft, type Mend } from '../finding'

/**
 * Forwards to an address that is nobody's for good: of a pool, where the server gives it to anybody, or of no
 * host at all.
 */
export function targetFindings(plan: Plan): Draft[] {
  return plan.forwards
    .filter((f) => !plan.networks.some((n) => n.fixed.some((x) => x.ip === f.toAddress)))
    .map((forward) => {
      const ip = orNull(parseIpv4(forward.toAddress))
      const home = plan.networks.find(
        (n) => ip !== null && readPrefixes4([n.subnet]).some((p) => contains(p, ip)),
      )
      return draft('W16', 'warning', ['forwards', forward.id, 'toAddress'], {
        port: `${forward.proto} ${forward.from}`,
        to: forward.toAddress,
        network: home?.name ?? '',
      })
    })
}

/** Name of what a forward hands inside. */
const portText = ({ proto, from, to }: PortForward): string =>
  `${proto} ${from === to ? from : `${from}-${to}`}`

/** Forwards whose ports an earlier one of the same line has: only the first gets them. */
export function takenFindings(plan: Plan): Draft[] {
  return plan.forwards.flatMap((forward, place) => {
    const first = plan.forwards
      .slice(0, place)
      .find(
        (one) =>
          one.deviceId === forward.deviceId &&
          one.uplinkId === forward.uplinkId &&
          one.proto === forward.proto &&
          one.from <= forward.to &&
          forward.from <= one.to,
      )
    if (!first) return []
    const values = { port: portText(forward), to: forward.toAddress, other: first.toAddress }
    return [draft('W18', 'blocker', ['forwards', forward.id, 'from'], values)]
  })
}

/** Forwards of the port at which peers dial a tunnel of the same gateway. */
export function dialledFindings(plan: Plan): Draft[] {
  return plan.forwards.flatMap((forward) => {
    const tunnel = plan.tunnels.find(
      ({ deviceId, listenPort, peers }) =>
        deviceId === forward.deviceId &&
        forward.proto === 'udp' &&
        forward.from <= listenPort &&
        listenPort <= forward.to &&
        peers.some((peer) => peer.endpoint === null),
    )
    if (!tunnel) return []
    const values = { port: portText(forward), tunnel: tunnel.name, listens: tunnel.listenPort }
    return [draft('W19', 'blocker', ['forwards', forward.id, 'from'], values)]
  })
}

/** Who may reach the server behind a forward by its own address, as intents tell. */
function allowedInside(index: PlanIndex, forward: PortForward): { names: string[]; everybody: boolean } {
  const home = index.plan.networks.find((n) => n.fixed.some((f) => f.ip === forward.toAddress))
  const deviceId = home?.fixed.find((f) => f.ip === forward.toAddress)?.deviceId ?? null
  const isAsked = ({ to, services }: Intent) =>
    ((to.kind === 'device' && deviceId !== null && to.id === deviceId) ||
      (to.kind === 'network' && to.id === home?.id)) &&
    includes(servicesOf(services, index.services), forward.proto, forward.toPort)
  const senders = index.plan.intents.filter(isAsked).map(({ from }) => from)
  const names = senders.flatMap((from) =>
    from.kind === 'network' ? [index.networks.get(from.id)?.name ?? ''] : [],
  )
  return { names: [...new Set(names)], everybody: senders.some((from) => from.kind === 'inside') }
}

/**
 * Forwards whose outside address people inside will use, and get nowhere: those who may reach the same server
 * by its own.
 */
export function insideFindings(index: PlanIndex): Draft[] {
  return index.plan.forwards
    .filter((f) => !f.hairpin)
    .flatMap((forward) => {
      const { names, everybody } = allowedInside(index, forward)
      if (names.length === 0 && !everybody) return []
      const place = ['forwards', forward.id, 'hairpin']
      const values = { port: `${forward.proto} ${forward.from}`, to: forward.toAddress, names, everybody }
      const mend: Mend = { code: 'hand-inside', values: {}, changes: [set(place, false, true)] }
      return [draft('W13', 'note', place, values, mend)]
    })
}
