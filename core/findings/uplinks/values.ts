/** What the findings of uplinks and of what is handed inside say, by code. */
export interface UplinkValues {
  /** An uplink is not probed, or by what proves little. */
  W02:
    | { kind: 'none'; uplink: string; key: 'none' }
    | { kind: 'near'; uplink: string; target: string; key: 'near' }
    | { kind: 'single'; uplink: string; target: string; key: 'single' }
  /** A change-over later, or false alarms more often, than was asked for. */
  W03: {
    uplink: string
    /** Seconds. */
    worst: number
    /** A year. */
    alarms: number
    mostOutage: number | ''
    mostAlarms: number | ''
    kind: 'late' | 'loud'
    /** Whether some setting keeps both wishes. */
    possible: boolean
  }
  /** Two uplinks fail together. */
  W04: { uplink: string; other: string; shared: string; key: string }
  /** Forwards and those who dial in die with an uplink; `shared`: nobody can dial in over the next one. */
  W05: { uplink: string; other: string; count: number; dialIns: number; shared: boolean }
  /** An uplink is faster than its gateway inspects; Mb/s. */
  W06: { uplink: string; model: string; inspection: number; down: number }
  /** A month's data is soon gone. */
  W08: { uplink: string; cap: number; hours: number }
  /** No hold-down. */
  W09: { uplink: string }
  /** Nobody is told of a change-over. */
  W10: { uplink: string }
  /** A forward whose outside address people inside will use in vain. */
  W13: { port: string; to: string; names: readonly string[]; everybody: boolean }
  /** Shares of uplinks do not follow their speeds; per cent. */
  W14: { uplink: string; share: number; speed: number }
  /** A weak cellular signal; empty where a figure is not known. */
  W15: { uplink: string; rsrp: number | ''; sinr: number | ''; antennas: number | '' }
  /** A forward to an address that is nobody's for good. */
  W16: { port: string; to: string; network: string }
  /** A forward whose ports an earlier one has. */
  W18: { port: string; to: string; other: string }
  /** A forward of the port of a tunnel that is dialled. */
  W19: { port: string; tunnel: string; listens: number }
  /** A static route that is not taken: its next hop is not heard, or another comes first; or one that leads away. */
  W20:
    | { kind: 'behind'; prefix: string; via: string; gateway: string }
    | { kind: 'inside'; prefix: string; via: string; gateway: string }
    | { kind: 'unheard'; prefix: string; via: string; gateway: string }
    | { kind: 'second'; prefix: string; via: string; gateway: string; other: string }
  /** Frames of a line do not get to the internet and back; `tag`: that it sends, null for none. */
  W21: { uplink: string; kind: 'no-cable' | 'no-way'; tag: number | null }
}

export interface UplinkMends {
  'fit-probe': { every: number; misses: number }
  'weigh-by-speed': Record<never, never>
  'hand-inside': Record<never, never>
}
