/** What the findings of VLANs and loops say, by code. */
export interface Layer2Values {
  /** A VLAN that no network has. */
  E01: { vlan: number; device: string; port: string; key: number }
  /** A VLAN stops short of those who need it. */
  E02: { network: string; vlan: number; device: string; port: string; affected: string; key: number }
  /** The untagged VLANs of a cable's ends differ. */
  E03: {
    device: string
    port: string
    native: number | 'none'
    otherDevice: string
    otherPort: string
    otherNative: number | 'none'
  }
  /** Tags go into a switch that does not read them. */
  E04: { device: string; port: string; switch: string; lands: string }
  /** A loop that no spanning tree breaks. */
  E05: { devices: string; key: string }
  /** Hosts land in another network than the one they want. */
  E11: { device: string; port: string; hosts: string; wanted: string; landed: string }
  /** A trunk carries VLANs that nothing beyond it needs. */
  E13: { device: string; port: string; vlans: string }
}

export interface Layer2Mends {
  tag: { vlan: number; device: string; port: string }
  untag: { vlan: number; device: string; port: string }
  access: { vlan: number; device: string; port: string }
  prune: { vlans: string; port: string }
}
