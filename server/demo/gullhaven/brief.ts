import { BLANK_BRIEF, BLANK_PLACE } from '#core/edit'
import { makeSerial } from '#core/queries'
import type { Brief, DeviceId, Draft, Room } from '#core/schema'
import { facts } from '../build'
import { LAB, BOAT, VISIT, SKERRY, type Variant } from './places'
import { OUTLINES } from './wifi'

export const fibreFacts = ({ clean }: Variant) =>
  facts({
    credentialsAt: 'sealed envelope, keeper’s safe',
    tagKnown: true,
    pcp: 0,
    macLock: clean ? 'no' : null,
    linkSpeed: 'auto',
    capGb: 0,
    outsideKnown: true,
    modem: 'bridge',
  })
/** Issued by nobody: country code 999 is unassigned (ITU-T E.164). */
export const SIM = '8999901000000004213'
export const cellularFacts = ({ clean }: Variant) =>
  facts({
    tagKnown: true,
    macLock: 'no',
    linkSpeed: 'auto',
    capGb: 200,
    outsideKnown: true,
    modem: 'bridge',
    cellular: {
      sim: SIM,
      apn: 'fixed.example',
      antennas: 2,
      antennasAt: 'on the Lab’s parapet, 6 m of feeder',
      rsrpDbm: -94,
      sinrDb: 11,
      pricePerMonth: 35,
      pricePerGb: 2,
    },
    portEnabled: clean,
    address: '100.64.12.9/30',
  })

/** Labels as they stand on the boxes; the Boathouse AP's nobody has read yet. */
export const EQUIPMENT: readonly (readonly [deviceId: DeviceId, model: string])[] = [
  ['gateway', 'G4'],
  ['lab-switch', 'S24P'],
  ['lab-ap-1', 'A2'],
  ['lab-ap-2', 'A2'],
  ['boat-switch', 'S8P'],
  ['boat-ap', 'A2X'],
  ['visit-ap', 'A2'],
  ['bridge-a', 'B5'],
  ['bridge-b', 'B5'],
  ['skerry-switch', 'S8P'],
  ['controller', 'C1'],
  ['extender', 'E1'],
]
/** The serial of the n-th box of the station, and its board's. */
export const boxSerial = (prefix: 'GH' | 'GB', count: number): string =>
  makeSerial(prefix, `7A${String(count).padStart(2, '0')}K${(count * 7) % 10}R`)

const room = (id: string, name: string, buildingId: string, people: number): Draft<Room> => ({
  id,
  name,
  buildingId,
  people,
  outline: OUTLINES[id] ?? null,
  readDbm: null,
})

export function brief({ clean }: Variant): Brief {
  const known = clean ? EQUIPMENT : EQUIPMENT.filter(([deviceId]) => deviceId !== 'boat-ap')
  return {
    ...BLANK_BRIEF,
    buildings: [
      { id: 'lab', name: LAB, ...BLANK_PLACE, groundM: 4, position: { latDeg: 57, lonDeg: -20 } },
      { id: 'boat', name: BOAT, ...BLANK_PLACE },
      { id: 'visit', name: VISIT, ...BLANK_PLACE },
      {
        id: 'skerry',
        name: SKERRY,
        ...BLANK_PLACE,
        groundM: 3,
        position: { latDeg: 56.98249, lonDeg: -20.04584 },
      },
    ],
    spans: [
      { id: 'quay', a: 'lab', b: 'boat', distanceM: 140, crosses: 'ground' },
      { id: 'court', a: 'lab', b: 'visit', distanceM: 45, crosses: 'nothing' },
      ...(clean ? [{ id: 'sound', a: 'lab', b: 'skerry', distanceM: 3400, crosses: 'water' as const }] : []),
    ],
    rooms: [
      room('office', 'Offices', 'lab', 12),
      room('wet-lab', 'Wet laboratory', 'lab', 6),
      room('store', 'Cold store', 'lab', 0),
      room('cafe', 'Café', 'visit', 60),
    ],
    needs: [
      { id: 'n-staff', name: 'Staff', count: 30, growthPct: 25, vlan: 10, networkId: 'staff' },
      { id: 'n-guests', name: 'Guests', count: 180, growthPct: 0, vlan: 60, networkId: 'guests' },
      { id: 'n-cameras', name: 'Cameras', count: 6, growthPct: 50, vlan: 40, networkId: 'cameras' },
    ],
    far: [
      {
        id: 'mainland',
        name: 'Mainland Office, Carrow',
        subnets: ['10.61.16.0/22'],
        tunnel: '10.61.20.0/29',
      },
    ],
    existing: [
      { id: 'old-router', what: 'Provider’s router in the plant room', disposition: 'replace' },
      { id: 'strip', what: '5-port switch in the visitor room', disposition: 'keep' },
    ],
    equipment: known.map(([deviceId, model]) => {
      const count = EQUIPMENT.findIndex(([id]) => id === deviceId)
      return {
        id: `box-${deviceId}`,
        model,
        serial: boxSerial('GH', count),
        mac: `00-00-5E-00-53-${(16 + count).toString(16).toUpperCase()}`,
        deviceId,
      }
    }),
    otherWay: 'telephone as hotspot, charged and tried',
  }
}
