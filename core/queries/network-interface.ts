// Question: by which address, and on which subnet, does a gateway stand in a network?
// Method: the gateway's address as it is typed with the subnet's length: a mistyped one moves the subnet, as in a
// kernel.
// Source: RFC 1812 section 4.2.2.11 (directly connected networks).
import {
  networkOf,
  parseIpv4,
  parsePrefix4,
  parseRange4,
  type Ipv4,
  type Prefix4,
  type Range4,
} from '#core/address'
import { orNull } from '#core/util'
import type { Network } from '#core/schema'

interface NetworkInterface {
  readonly address: Ipv4
  readonly prefix: Prefix4
}

/** Null where address or subnet cannot be read. */
export function networkInterface({ gateway, subnet }: Network): NetworkInterface | null {
  const [address, typed] = [orNull(parseIpv4(gateway)), orNull(parsePrefix4(subnet))]
  if (address === null || typed === null) return null
  const { length } = typed
  return { address, prefix: { base: networkOf(address, length), length } }
}

/** A range of addresses as it is typed; null where it cannot be read. */
export const readRange4 = ({ from, to }: { readonly from: string; readonly to: string }): Range4 | null =>
  orNull(parseRange4(`${from}-${to}`))
