// Question: is enough known of the lines and the boxes to begin, and do they fit what is planned?
// Method: missing facts as the brief lists them; line facts against ports and addresses; labels against their
// check characters.
// Source:
// ISO/IEC 7064 (serials), RFC 6598 (100.64.0.0/10), IEEE 802 (MAC addresses); the rest is common practice.
import { parseIpv4, spaceOf } from '#core/address'
import { missingOfUplink, type MissingFact } from '#core/brief'
import { findPort, isRadio, modelOf, parseSerial, specOf, type PlanIndex } from '#core/queries'
import type { Device, Equipment, Uplink } from '#core/schema'
import { draft, labelOf, onSheet, set, type Draft, type Finding, type Mend } from '../finding'
import type { BoxDetail, BoxTrouble } from './values'

const factFinding = ({ key, place, about, blocks }: MissingFact): Draft =>
  draft('W01', 'warning', place, { fact: key, about, blocks: blocks.join(', '), key })

/** The port that a line comes in on does not work as it stands: locked by its maker, or switched off. */
function portFindings(index: PlanIndex, uplink: Uplink): Draft[] {
  const ref = { deviceId: uplink.deviceId, portId: uplink.portId }
  const port = findPort(index, ref)
  const locked = specOf(index, ref)?.locked === true && !uplink.facts.portEnabled
  if (!port || (!locked && port.mode.mode !== 'off')) return []
  const place = ['uplinks', uplink.id, 'facts', 'portEnabled']
  const values = {
    uplink: uplink.name,
    ...labelOf(index, ref),
    kind: locked ? ('locked' as const) : ('off' as const),
  }
  const enabled: Mend = {
    code: 'port-enabled',
    values: { port: labelOf(index, ref).port },
    changes: [set(place, uplink.facts.portEnabled, true)],
  }
  return [draft('W07', 'warning', place, values, locked ? enabled : null)]
}

/** What was seen says more than what was assumed: nobody can dial in from outside. */
function providerFindings(uplink: Uplink): Draft[] {
  const at = ['uplinks', uplink.id]
  const place = [...at, 'facts', 'address']
  const values = { uplink: uplink.name, kind: 'provider' as const, address: uplink.facts.address ?? '' }
  const behind = draft('W11', 'note', place, values)
  if (uplink.outside !== 'own') return [behind]
  const changes = [set([...at, 'outside'], 'own', 'shared')]
  if (!uplink.facts.outsideKnown) changes.push(set([...at, 'facts', 'outsideKnown'], false, true))
  const mend: Mend = { code: 'outside-shared', values: { uplink: uplink.name }, changes }
  return [draft('W17', 'warning', place, values, mend), behind]
}

/** Somebody else's address translation stands between the line and the internet. */
function translationFindings(uplink: Uplink): Draft[] {
  const { modem, address } = uplink.facts
  const seen = parseIpv4(address?.split('/')[0] ?? '')
  const space = seen.ok ? spaceOf(seen.value) : 'public'
  if (modem === 'routing' || space === 'private') {
    const values = { uplink: uplink.name, kind: 'router' as const, address: address ?? '' }
    const severity = modem === 'routing' && uplink.facts.modemForwards !== true ? 'warning' : 'note'
    return [draft('W11', severity, ['uplinks', uplink.id, 'facts', 'modem'], values)]
  }
  return space === 'shared' ? providerFindings(uplink) : []
}

const uplinkFactFindings = (index: PlanIndex, uplink: Uplink): Draft[] => [
  ...portFindings(index, uplink),
  ...translationFindings(uplink),
]

/** Why a serial number cannot be the one of a box; null where nothing speaks against it. */
function serialFault(serial: string): { readonly kind: BoxTrouble; readonly of?: string } | null {
  if (serial === '') return null
  const read = parseSerial(serial)
  if (!read.ok) return { kind: read.problems[0]?.code === 'wrong-check' ? 'wrong-check' : 'malformed' }
  return read.value.kind === 'product' ? null : { kind: 'other-kind', of: read.value.kind }
}

/** Equipment that was met before, by what no two boxes can share. */
class Known {
  private readonly byKey = new Map<string, Equipment>()
  /** The box met last with this text; remembers this one. */
  twinOf(text: string | null, box: Equipment): Equipment | undefined {
    if (text === null || text === '') return undefined
    const twin = this.byKey.get(text)
    this.byKey.set(text, box)
    return twin
  }
}

function equipmentFindings(index: PlanIndex): Draft[] {
  const [serials, macs, owners] = [new Known(), new Known(), new Known()]
  return index.plan.brief.equipment.flatMap((box) => {
    const out: Draft[] = []
    const device = box.deviceId === null ? undefined : index.devices.get(box.deviceId)
    const name = device?.name || box.model || box.serial
    const add = (kind: BoxTrouble, at: string, values: BoxDetail = {}) =>
      out.push(
        draft('D04', 'blocker', ['brief', 'equipment', box.id, at], {
          kind,
          name,
          serial: box.serial,
          ...values,
          key: kind,
        }),
      )
    const fault = serialFault(box.serial)
    if (fault) add(fault.kind, 'serial', fault.of === undefined ? {} : { of: fault.of })
    const twin = serials.twinOf(box.serial, box)
    if (twin) add('twice', 'serial', { other: twin.model })
    if (macs.twinOf(box.mac, box)) add('mac-twice', 'mac', { mac: box.mac ?? '' })
    if (owners.twinOf(box.deviceId, box)) add('device-twice', 'deviceId')
    if (isOtherModel(index, box, device))
      add('other-model', 'model', { model: box.model, planned: device?.model ?? '' })
    return out
  })
}

/** True where a box is of a known model, and its device is planned as another. */
function isOtherModel(index: PlanIndex, box: Equipment, device: Device | undefined): boolean {
  if (!device || device.model === '' || box.model === '') return false
  return device.model !== box.model && modelOf(index, box.model) !== undefined
}

function countryFindings(index: PlanIndex): Draft[] {
  const radios = index.plan.devices.filter(isRadio).length
  if (index.plan.site.country !== '' || radios === 0) return []
  return [draft('D08', 'warning', ['site', 'country'], { radios })]
}

/**
 * Findings of the brief: lines, then boxes.
 * Facts other than the lines' are listed on the sheet, not here.
 */
export function checkBrief(index: PlanIndex): Finding[] {
  const { uplinks } = index.plan
  return [
    ...onSheet('brief', uplinks.flatMap(missingOfUplink).map(factFinding)),
    ...onSheet(
      'brief',
      uplinks.flatMap((u) => uplinkFactFindings(index, u)),
    ),
    ...onSheet('equipment', equipmentFindings(index)),
    ...onSheet('brief', countryFindings(index)),
  ]
}
