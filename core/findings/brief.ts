// Question: is enough known of the lines and the boxes to begin, and do they fit what is planned?
// Method: missing facts as the brief lists them; line facts against ports and addresses; labels against their
// check characters.
// Source:
// ISO/IEC 7064 (serials), RFC 6598 (100.64.0.0/10), IEEE 802 (MAC addresses); the rest is common practice.
import { parseIpv4, spaceOf } from '#core/address'
import { missingOfLine, type MissingFact } from '#core/brief'
import {
  findPort,
  isRadio,
  modelOf,
  parseSerial,
  specOf,
  type Equipment,
  type PlanIndex,
  type Uplink,
} from '#core/model'
import { labelOf, set, type Draft, type Finding } from './finding'

function factFinding(fact: MissingFact): Draft {
  return {
    code: 'W01',
    severity: 'warning',
    place: fact.place,
    values: { fact: fact.key, about: fact.about, blocks: fact.blocks.join(', '), key: fact.key },
    mend: null,
  }
}

function lineFindings(index: PlanIndex, uplink: Uplink): Draft[] {
  const out: Draft[] = []
  const ref = { deviceId: uplink.deviceId, portId: uplink.portId }
  const port = findPort(index, ref)
  const locked = specOf(index, ref)?.locked === true && !uplink.facts.portEnabled
  if (port && (locked || port.mode.mode === 'off')) {
    const place = ['uplinks', uplink.id, 'facts', 'portEnabled']
    out.push({
      code: 'W07',
      severity: 'warning',
      place,
      values: { line: uplink.name, ...labelOf(index, ref), kind: locked ? 'locked' : 'off' },
      mend: locked
        ? {
            code: 'port-enabled',
            values: { port: labelOf(index, ref).port },
            changes: [set(place, uplink.facts.portEnabled, true)],
          }
        : null,
    })
  }
  const seen = parseIpv4(uplink.facts.address?.split('/')[0] ?? '')
  const space = seen.ok ? spaceOf(seen.value) : 'public'
  if (uplink.facts.modem === 'routing' || space === 'private') {
    out.push({
      code: 'W11',
      severity: uplink.facts.modem === 'routing' ? 'warning' : 'note',
      place: ['uplinks', uplink.id, 'facts', 'modem'],
      values: { line: uplink.name, kind: 'router', address: uplink.facts.address ?? '' },
      mend: null,
    })
  } else if (space === 'shared') {
    // What was seen says more than what was assumed: nobody can dial in.
    const changes = [
      ...(uplink.outside === 'own' ? [set(['uplinks', uplink.id, 'outside'], 'own', 'shared')] : []),
      ...(uplink.facts.outsideKnown
        ? []
        : [set(['uplinks', uplink.id, 'facts', 'outsideKnown'], false, true)]),
    ]
    const place = ['uplinks', uplink.id, 'facts', 'address']
    const values = { line: uplink.name, kind: 'provider', address: uplink.facts.address ?? '' }
    if (uplink.outside === 'own')
      out.push({
        code: 'W17',
        severity: 'warning',
        place,
        values,
        mend: { code: 'outside-shared', values: { line: uplink.name }, changes },
      })
    out.push({ code: 'W11', severity: 'note', place, values, mend: null })
  }
  return out
}

function equipmentFindings(index: PlanIndex): Draft[] {
  const serials = new Map<string, Equipment>()
  const macs = new Map<string, Equipment>()
  const owners = new Map<string, Equipment>()
  return index.plan.brief.equipment.flatMap((box) => {
    const out: Draft[] = []
    const place = ['brief', 'equipment', box.id]
    const name = (box.deviceId !== null && index.devices.get(box.deviceId)?.name) || box.model || box.serial
    const add = (kind: string, at: string, values: Finding['values'] = {}) =>
      out.push({
        code: 'D04',
        severity: 'blocker',
        place: [...place, at],
        values: { kind, name, serial: box.serial, ...values, key: kind },
        mend: null,
      })
    const read = box.serial === '' ? null : parseSerial(box.serial)
    if (read && !read.ok)
      add(read.problems[0]?.code === 'wrong-check' ? 'wrong-check' : 'malformed', 'serial')
    else if (read?.ok && read.value.kind !== 'product') add('other-kind', 'serial', { of: read.value.kind })
    const twin = box.serial === '' ? undefined : serials.get(box.serial)
    if (twin) add('twice', 'serial', { other: twin.model })
    serials.set(box.serial, box)
    if (box.mac !== null && macs.has(box.mac)) add('mac-twice', 'mac', { mac: box.mac })
    if (box.mac !== null) macs.set(box.mac, box)
    const device = box.deviceId === null ? undefined : index.devices.get(box.deviceId)
    if (box.deviceId !== null && owners.has(box.deviceId)) add('device-twice', 'deviceId')
    if (box.deviceId !== null) owners.set(box.deviceId, box)
    if (
      device &&
      device.model !== '' &&
      box.model !== '' &&
      device.model !== box.model &&
      modelOf(index, box.model)
    )
      add('other-model', 'model', { model: box.model, planned: device.model })
    return out
  })
}

function countryFindings(index: PlanIndex): Draft[] {
  const radios = index.plan.devices.filter(isRadio)
  if (index.plan.site.country !== '' || radios.length === 0) return []
  return [
    {
      code: 'D08',
      severity: 'warning',
      place: ['site', 'country'],
      values: { radios: radios.length },
      mend: null,
    },
  ]
}

/**
 * Findings of the brief: lines, then boxes.
 * Facts other than the lines' are listed on the sheet, not here.
 */
export function checkBrief(index: PlanIndex): Finding[] {
  const facts = index.plan.uplinks.flatMap(missingOfLine)
  return [
    ...facts.map(factFinding).map((d) => ({ ...d, sheet: 'brief' as const })),
    ...index.plan.uplinks
      .flatMap((u) => lineFindings(index, u))
      .map((d) => ({ ...d, sheet: 'brief' as const })),
    ...equipmentFindings(index).map((d) => ({ ...d, sheet: 'equipment' as const })),
    ...countryFindings(index).map((d) => ({ ...d, sheet: 'brief' as const })),
  ]
}
