// Question: how long after a line dies does an intent hold again on the next one?
// Method: the change-over, and for what goes by a tunnel that this gateway dials, the time until its peer
// hears from the new address: at the latest one keepalive later, or when somebody here sends, where there is
// none.
// Source:
// `probe` for the change-over;
// WireGuard's roaming (a peer answers to where the last good packet came from):
// J.
// A.
// Donenfeld, WireGuard:
// Next Generation Kernel Network Tunnel, NDSS 2017, section II.A, and wg(8), PersistentKeepalive.
import type { Intent, Peer, Plan, Probe, Selector, Uplink } from '#core/schema'
import { outage, type Times } from './probe'

export interface Recovery extends Times {
  /** Peers without a keepalive: they hear of the new line when somebody here sends to them, no sooner. */
  readonly silent: readonly string[]
}

function peersIn(plan: Plan, selector: Selector): readonly Peer[] {
  if (selector.kind === 'group')
    return (plan.groups.find((g) => g.id === selector.id)?.members ?? []).flatMap((m) => peersIn(plan, m))
  if (selector.kind === 'tunnel') return plan.tunnels.find((t) => t.id === selector.id)?.peers ?? []
  return selector.kind === 'peer'
    ? plan.tunnels.flatMap((t) => t.peers).filter((p) => p.id === selector.id)
    : []
}

/**
 * Worked: probed every 5 s, 3 misses, 1 s to wait: 11 to 16 s; through a tunnel with a keepalive of 25 s: 11
 * to 41 s.
 */
export function recovery(
  plan: Plan,
  probe: Probe,
  next: Pick<Uplink, 'standby' | 'bringUpS'>,
  intent: Pick<Intent, 'from' | 'to'>,
): Recovery {
  const over = outage(probe, next)
  const dialled = [...peersIn(plan, intent.from), ...peersIn(plan, intent.to)].filter(
    (p) => p.endpoint !== null,
  )
  const wait = dialled.reduce((most, p) => Math.max(most, p.keepaliveS ?? 0), 0)
  return {
    leastS: over.leastS,
    typicalS: over.typicalS + wait / 2,
    worstS: over.worstS + wait,
    silent: dialled.filter((p) => !p.keepaliveS).map((p) => p.name),
  }
}
