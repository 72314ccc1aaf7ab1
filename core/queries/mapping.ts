// Question: by which other address do the peers of a tunnel know one of ours, and which of ours do they mean
// by one of theirs?
// Method: two prefixes of one length, address for address; the first mapping that has an address decides.
// Source:
// RFC 3022 section 2.1 (static assignment); nft(8), `snat ip prefix to`.
import { contains, ipv4, parsePrefix4, type Ipv4, type Prefix4 } from '#core/address'
import { orNull } from '#core/util'
import type { Tunnel } from '#core/schema'

export interface AddressMap {
  readonly inside: Prefix4
  readonly outside: Prefix4
}

/** The mappings of a tunnel that are whole: two prefixes of the same length. */
export function mapsOf(tunnel: Pick<Tunnel, 'mapped'>): AddressMap[] {
  return tunnel.mapped.flatMap((mapping) => {
    const [inside, outside] = [orNull(parsePrefix4(mapping.inside)), orNull(parsePrefix4(mapping.outside))]
    return inside && outside && inside.length === outside.length ? [{ inside, outside }] : []
  })
}

/**
 * An address at the same place of another prefix.
 * Worked: 192.168.1.7 of 192.168.1.0/24, in 10.99.1.0/24, is 10.99.1.7.
 */
export const rebase = (address: Ipv4, from: Prefix4, to: Prefix4): Ipv4 =>
  ipv4(to.base + (address - from.base))

/** What peers call an address of ours: itself where no mapping has it. */
export function translateSource(maps: readonly AddressMap[], address: Ipv4): Ipv4 {
  const map = maps.find((m) => contains(m.inside, address))
  return map ? rebase(address, map.inside, map.outside) : address
}

/** Whom of ours peers mean by an address: itself where no mapping has it. */
export function translateDestination(maps: readonly AddressMap[], address: Ipv4): Ipv4 {
  const map = maps.find((m) => contains(m.outside, address))
  return map ? rebase(address, map.outside, map.inside) : address
}
