// Question: how is an older plan rid of what names nothing?
// Method: cables to ports that are not there or taken, SSIDs without a network, forwards, routes and wishes of what is
// gone are left out, as nothing ever came of them; ends of a range that were given the wrong way round are turned.
// Source: frozen, as all steps between versions are.
import { isFields, type Fields } from './document'

const items = (list: unknown): readonly Fields[] => (Array.isArray(list) ? list.filter(isFields) : [])
const idsOf = (list: unknown): ReadonlySet<unknown> => new Set(items(list).map((item) => item['id']))
const partOf = (fields: Fields, key: string): Fields => {
  const part = fields[key]
  return isFields(part) ? part : {}
}
/** A list without some items; anything else is left for the schema to refuse. */
const kept = (list: unknown, isThere: (item: Fields) => boolean): unknown =>
  Array.isArray(list) ? list.filter((item: unknown) => !isFields(item) || isThere(item)) : list

function keptLinks(plan: Fields, ssids: ReadonlySet<unknown>): unknown {
  const portName = (ref: Fields) => `${String(ref['deviceId'])}/${String(ref['portId'])}`
  const ports = new Set(
    items(plan['devices']).flatMap((device) =>
      items(device['ports']).map((port) => portName({ deviceId: device['id'], portId: port['id'] })),
    ),
  )
  const taken = new Set<string>()
  return kept(plan['links'], (link) => {
    const ends = [partOf(link, 'a'), partOf(link, 'b')].map(portName)
    const medium = partOf(link, 'medium')
    if (!ends.every((end) => ports.has(end))) return false
    if (medium['kind'] === 'wifi') return ssids.has(medium['ssidId'])
    if (medium['kind'] === 'radio') return true
    const isFree = ends.every((end) => !taken.has(end))
    if (isFree) for (const end of ends) taken.add(end)
    return isFree
  })
}

export function withoutDanglingReferences(plan: Fields): Fields {
  const [devices, networks] = [idsOf(plan['devices']), idsOf(plan['networks'])]
  const exits = new Set([...idsOf(plan['uplinks']), ...idsOf(plan['tunnels'])])
  const ssids = kept(plan['ssids'], (ssid) => networks.has(ssid['networkId']))
  const links = keptLinks(plan, idsOf(ssids))
  const peers = items(plan['tunnels']).flatMap((tunnel) => [...idsOf(tunnel['peers'])])
  const failable = new Set([...devices, ...exits, ...peers, ...idsOf(links)])
  const only = (list: unknown, known: ReadonlySet<unknown>): unknown =>
    Array.isArray(list) ? list.filter((id) => known.has(id)) : list
  const each = (list: unknown, make: (item: Fields) => Fields): unknown =>
    Array.isArray(list) ? list.map((item: unknown) => (isFields(item) ? make(item) : item)) : list
  return {
    ...plan,
    links,
    ssids: each(ssids, (ssid) => ({ ...ssid, apIds: only(ssid['apIds'], devices) })),
    forwards: each(
      kept(plan['forwards'], (one) => devices.has(one['deviceId']) && exits.has(one['uplinkId'])),
      (one) => (Number(one['from']) > Number(one['to']) ? { ...one, from: one['to'], to: one['from'] } : one),
    ),
    routes: kept(plan['routes'], (one) => devices.has(one['deviceId'])),
    policyRoutes: kept(
      plan['policyRoutes'],
      (one) => devices.has(one['deviceId']) && exits.has(partOf(one, 'out')['id']),
    ),
    intents: each(plan['intents'], (intent) => ({ ...intent, survives: only(intent['survives'], failable) })),
  }
}
