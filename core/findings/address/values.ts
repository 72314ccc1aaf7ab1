/** What the findings of addressing say, by code. */
export interface AddressValues {
  /** The gateway lies outside its subnet. */
  A01: { network: string; gateway: string; subnet: string }
  /** The gateway is the network's own or its broadcast address. */
  A02: { network: string; gateway: string; subnet: string }
  /** An address in use lies in the pool. */
  /** `gateway`: which a server made from the plan does not hand out, unlike what somebody typed elsewhere. */
  A03: { network: string; ip: string; name: string; kind: 'gateway' | 'fixed' }
  /** The pool leaves its subnet. */
  A04: { network: string; from: string; to: string; subnet: string }
  /** Two networks overlap. */
  A05: { network: string; subnet: string; other: string; otherSubnet: string; key: string }
  /** A network overlaps the address that an uplink has. */
  A06: { network: string; subnet: string; uplink: string; address: string; key: string }
  /** A network overlaps a far site, or the inside of a tunnel to it. */
  A07: { network: string; subnet: string; far: string; other: string; kind: 'site' | 'tunnel'; key: string }
  /** One address is given twice. */
  A08: { ip: string; name: string; other: string }
  /** Public addresses inside. */
  A09: { network: string; subnet: string }
  /** The pool is smaller than the clients expected. */
  A10: { network: string; size: number; expected: number }
  /** What is typed into a device is not what its field means. */
  A11:
    | { kind: 'mask-as-gateway' | 'mask-as-address' | 'own-as-gateway'; name: string; text: string }
    | { kind: 'other-mask'; name: string; text: string; subnet: string }
  /** The lease is too long for the turnover. */
  A12: {
    network: string
    /** One client in so many finds the pool empty. */
    oneIn: number
    size: number
    leaseS: number
    arrivalsPerH: number
    stayH: number
    needed: number
  }
  /** A VLAN number that cannot be used; `other`: who has it already, or empty where it is no VLAN number. */
  A13: { network: string; vlan: number; other: string }
  /** A subnet that every home router uses. */
  A14: { network: string; subnet: string }
  /** Two networks in one third octet. */
  A15: { network: string; other: string; octet: number }
  /** Infrastructure without an address of its own. */
  A16: { device: string; network: string }
  /** A network outside the site's block. */
  A17: { network: string; subnet: string; supernet: string }
  /** One MAC reserved twice. */
  A18: { network: string; mac: string; name: string; other: string }
  /** A relay whose server is no address of the plan; empty where none is named. */
  A19: { network: string; server: string }
  /** IPv6 on without a prefix, or with one outside the site's. */
  A20: { network: string; prefix: string; kind: 'none' | 'outside'; site: string }
  /** Two networks share IPv6 addresses. */
  A21: { network: string; prefix: string; other: string }
  /** Hosts are to form their addresses, and have no 64 bits for it. */
  A22: { network: string; prefix: string; length: number }
  /** An exclusion outside the pool. */
  A23: { network: string; from: string; to: string; key: number }
  /** A typed IPv6 address that leads nowhere. */
  A24:
    | { network: string; name: string; text: string; prefix: string; kind: 'off' | 'reserved' | 'outside' }
    | { network: string; name: string; text: string; prefix: string; kind: 'twice'; other: string }
  /** A network serves DHCP and has nothing to hand out. */
  A25: { network: string; kind: 'none' | 'excluded' }
  /** An address given to one thing that is no host address of its network. */
  A26: { network: string; subnet: string; ip: string; name: string; kind: 'outside' | 'base' | 'broadcast' }
}

/** What the buttons of their mends say, by code. */
export interface AddressMends {
  'use-gateway': { ip: string }
  'use-pool': { from: string; to: string }
  'use-mask': { length: number }
  'use-lease': { leaseS: number }
  'move-six': { ip: string }
  reserve: { ip: string }
}
