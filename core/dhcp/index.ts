export { keepsAddress, leasesOf, servedRanges } from './leases'
export type { Lease, Leases } from './leases'
export { erlangB, leaseFor, LEASES_S, leaseTimers, offeredLoad, poolFor } from './erlang'
export { addressList, discoveryOption } from './options'
