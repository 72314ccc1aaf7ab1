import type { PeerId } from '#core/schema'
/** Rows and columns of the matrix: a network's id, or one of these. */
export const GATEWAY = 'gateway'
export const INTERNET = 'internet'
/** Zone of a peer. */
export const peerKey = (peerId: PeerId): string => `peer:${peerId}`
