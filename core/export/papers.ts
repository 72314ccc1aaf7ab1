// Question: what does the plan say of cables, materials and boxes, as rows a spreadsheet can hold?
// Method: one row a cable, one row a kind of thing, one row a box; text as people type it.
import { cableSchedule, materials, TCP_SHARE, type CableEnd } from '#core/cabling'
import { indexPlan } from '#core/queries'
import type { Plan } from '#core/schema'

export const CABLE_COLUMNS = [
  'label',
  'from place',
  'from device',
  'from port',
  'transceiver',
  'to place',
  'to device',
  'to port',
  'transceiver',
  'cable',
  'run',
  'length m',
  'link Mb/s',
  'TCP Mb/s',
  'bundle',
] as const
export const MATERIAL_COLUMNS = ['kind', 'name', 'run', 'count', 'metres to buy'] as const
export const EQUIPMENT_COLUMNS = ['model', 'serial', 'mac', 'device'] as const

const endCells = (end: CableEnd): string[] => [end.place, end.device, end.port, end.optic ?? '']

/** The cable schedule; TCP is what one flow carries at best over the link at MTU 1500. */
export function cableRows(plan: Plan): string[][] {
  return cableSchedule(indexPlan(plan)).map((line) => [
    line.label,
    ...endCells(line.ends[0]),
    ...endCells(line.ends[1]),
    line.kind,
    line.run === 'between' ? 'between buildings' : line.run,
    String(line.lengthM),
    line.mbps === null ? '' : String(line.mbps),
    line.mbps === null ? '' : String(Math.floor(line.mbps * TCP_SHARE)),
    line.lag ?? '',
  ])
}

/** The bill of materials. */
export function materialRows(plan: Plan): string[][] {
  return materials(indexPlan(plan)).map((material) => [
    material.what,
    material.name,
    material.run === 'between' ? 'between buildings' : material.run,
    String(material.count),
    material.lengthM === 0 ? '' : String(material.lengthM),
  ])
}

/** The boxes with their labels; the list that is read back is the same. */
export function equipmentRows(plan: Plan): string[][] {
  return plan.brief.equipment.map((box) => [
    box.model,
    box.serial,
    box.mac ?? '',
    plan.devices.find((d) => d.id === box.deviceId)?.name ?? '',
  ])
}
