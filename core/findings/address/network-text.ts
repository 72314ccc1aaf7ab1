// What of a network's typed addresses can be read.
import { parseIpv4, parsePrefix4, type Ipv4, type Prefix4, type Range4 } from '#core/address'
import { readRange4 } from '#core/queries'
import type { Network } from '#core/schema'
import { orNull } from '#core/util'

/** A network with what could be read of its texts. */
export interface NetworkText {
  readonly network: Network
  readonly at: readonly string[]
  readonly subnet: Prefix4 | null
  readonly gateway: Ipv4 | null
  readonly pool: Range4 | null
  readonly exclusions: readonly Range4[]
}

export function readNetwork(network: Network): NetworkText {
  return {
    network,
    at: ['networks', network.id],
    subnet: orNull(parsePrefix4(network.subnet)),
    gateway: orNull(parseIpv4(network.gateway)),
    pool: network.pool ? readRange4(network.pool) : null,
    exclusions: network.exclusions.flatMap((range) => readRange4(range) ?? []),
  }
}
