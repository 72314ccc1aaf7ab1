import type { CopperCategory, FibreGrade, OpticName } from '#core/schema'
import type { Feed } from '#core/power'

/** What the findings of cables, sockets and power say, by code. */
export interface CablingValues {
  /** A link is slower than it could be, or has no speed. */
  E06:
    | { kind: 'no-common'; from: string; to: string }
    | {
        kind: 'medium'
        from: string
        to: string
        /** 0 where it carries none of the ports' speeds. */
        mbps: number
        offeredMbps: number
        category: CopperCategory
        lengthM: number
      }
    | {
        kind: 'uplink'
        device: string
        port: string
        mbps: number
        uplink: string
        uplinkMbps: number
        key: string
      }
  /** Copper that is too long, or goes between buildings. */
  E07: { from: string; to: string; lengthM: number; between: boolean }
  /** Power over Ethernet does not do. */
  E08:
    | {
        device: string
        budgetW: number
        classW: number
        drawW: number
        headroomPct: number
        key: 'budget'
        kind: 'over' | 'headroom' | 'class-sum'
      }
    | { kind: 'unpowered'; device: string; key: 'unpowered' }
    | {
        kind: NonNullable<Feed['trouble']>
        device: string
        port: string
        load: string
        loadClass: number
        sourceClass: number
        volts: number
        key: string
      }
  /** A port is used for what it is not made for. */
  E09:
    | { kind: 'lan-as-wan' | 'wan-as-lan'; device: string; port: string }
    | { kind: 'crossed'; device: string; port: ''; load: string }
  /** A cable, a socket and a transceiver do not fit. */
  E10:
    | { kind: 'copper-in-sfp' | 'fibre-in-copper'; device: string; port: string }
    | {
        kind: 'no-optic' | 'optic-and-fibre'
        device: string
        port: string
        /** Empty where there is none. */
        optic: OpticName | ''
        grade: FibreGrade
        lengthM: number
      }
    | { kind: 'optics-differ'; device: string; port: string; optic: OpticName; otherOptic: OpticName }
  /** The members of a bundle do not belong together. */
  E12: { lag: string; why: 'alone' | 'other-device' | 'modes' | 'speeds'; members: number }
  /** Nothing leads to a device, or to some of the sockets of a group of hosts. */
  E14: { device: string; loose: number; of: number }
}

export interface CablingMends {
  'own-supply': { device: string }
  optic: { optic: OpticName; port: string }
  fibre: { grade: FibreGrade; optic: OpticName | '' }
}
