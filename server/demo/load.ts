import type { Role } from '#contracts/roles'
import { asBuilt, uplinkPeers, type LabFault } from '#core/simulator'
import { isManaged, type AdoptionEvent } from '#core/adopt'
import { indexPlan, modelNamed } from '#core/queries'
import type { Plan, DeviceId, PortId } from '#core/schema'
import { testsOf, tryTests } from '#core/prove'
import * as adoption from '#server/repo/adoption'
import { addLabDevice, setFault } from '#server/repo/lab'
import { addOrganisation } from '#server/repo/organisations'
import { addPerson } from '#server/repo/people'
import { addResults } from '#server/repo/proof'
import { now } from '#server/platform/clock'
import type { Queries } from '#server/platform/database'
import { inOrganisation } from '#server/platform/scope'
import { addSite } from '#server/services/plans'
import { hashPassword } from '#server/platform/passwords'
import { carrowPlan, quaysidePlan } from './fleet'
import { boxSerial, gullhavenClean, gullhavenPlan } from './gullhaven'
import people from './people.json'

// What `./mast demo` opens with. Loaded into a new database alone; what people do with it afterwards stays.

const FAULT: LabFault = { kind: 'service-left-out', deviceId: 'gateway', ruleId: 'r-tide', serviceId: 'ntp' }
const LATER = ['skerry-switch', 'boat-ap']
const serialOf = (i: number) => boxSerial('GH', i)
const boardOf = (i: number) => boxSerial('GB', i)

async function loadRoster(queries: Queries, siteId: number, plan: Plan): Promise<void> {
  const start = now().getTime() - 3 * 3_600_000
  const devices = plan.devices.filter(isManaged)
  for (const [i, device] of devices.entries()) {
    if (device.id === 'boat-ap') continue
    const serial = serialOf(i)
    await adoption.addClaim(queries, {
      siteId,
      deviceId: device.id,
      serial,
      kind: 'product',
      claimedAt: new Date(start + i * 60_000),
      claimedBy: 'Planner',
    })
    if (LATER.includes(device.id)) continue
    const at = (minutes: number) => start + (i * 4 + 20 + minutes) * 60_000
    const firmware = modelNamed(device.model)?.plannedFirmware ?? '0'
    const own =
      device.kind === 'gateway'
        ? '10.61.0.1'
        : (plan.networks.flatMap((n) => n.fixed).find((f) => f.deviceId === device.id)?.ip ?? '10.61.0.104')
    const progress = (
      minutes: number,
      type: 'bootstrap-initiated' | 'config-initiated' | 'config-complete' | 'bootstrap-complete',
    ): AdoptionEvent => ({ kind: 'progress', atMs: at(minutes), type, message: '' })
    const events: AdoptionEvent[] = [
      { kind: 'lease', atMs: at(0), address: own },
      { kind: 'asked', atMs: at(0.2), firmware },
      progress(0.3, 'bootstrap-initiated'),
      progress(0.6, 'config-initiated'),
      progress(1.1, 'config-complete'),
      progress(1.2, 'bootstrap-complete'),
    ]
    for (const event of events) await adoption.addEvent(queries, serial, device.model, event)
  }
}

async function loadShelf(queries: Queries, siteId: number, plan: Plan): Promise<void> {
  const devices = plan.devices.filter(isManaged)
  const put = async (
    i: number,
    label: string,
    deviceId: DeviceId,
    box: { readonly model: string; readonly firmware: string; readonly factory: boolean },
    plug: { deviceId: DeviceId; portId: PortId } | null,
  ) => {
    await addLabDevice(queries, {
      siteId,
      serial: serialOf(i),
      boardSerial: boardOf(i),
      label,
      deviceId,
      ...box,
      plugDeviceId: plug?.deviceId ?? '',
      plugPortId: plug?.portId ?? '',
    })
  }
  const peers = uplinkPeers(indexPlan(plan))
  const bench = { deviceId: 'boat-switch', portId: 'p8' }
  await put(
    devices.findIndex((d) => d.id === 'skerry-switch'),
    'Skerry switch, in its box',
    'skerry-switch',
    { model: 'S8P', firmware: '2.7.0', factory: true },
    peers.get('skerry-switch') ?? null,
  )
  await put(
    devices.findIndex((d) => d.id === 'boat-ap'),
    'Boathouse AP, in its box',
    'boat-ap',
    { model: 'A2X', firmware: '5.2.0', factory: true },
    peers.get('boat-ap') ?? null,
  )
  await put(41, 'Spare A2X, old stock', '', { model: 'A2X', firmware: '4.8.0', factory: true }, bench)
  await put(42, 'Spare A2X, used before', '', { model: 'A2X', firmware: '5.2.0', factory: false }, bench)
}

/**
 * Half of the proof, as somebody found it on site going from group to group.
 * What the fault spoils is still open.
 */
const TRIED = ['staff', 'guests', 'voice']
async function loadProof(queries: Queries, siteId: number, plan: Plan): Promise<void> {
  const tried = testsOf(plan).filter((t) => TRIED.includes(t.from))
  const seen = tryTests(indexPlan(asBuilt(plan, FAULT)), tried).filter((o) => o.passed)
  const at = new Date(now().getTime() - 3_600_000)
  await addResults(
    queries,
    seen.map((observation) => ({
      siteId,
      ...observation,
      revision: 1,
      who: 'Rigger',
      at,
      vantage: 'laptop on site',
      note: '',
      source: 'hand' as const,
    })),
  )
}

async function loadSites(queries: Queries): Promise<void> {
  const plan = gullhavenPlan()
  const { siteId } = await addSite(queries, plan, 'Planner', 'first plan', 'gullhaven')
  await loadRoster(queries, siteId, plan)
  await loadShelf(queries, siteId, plan)
  await loadProof(queries, siteId, plan)
  await setFault(queries, siteId, FAULT)
  await addSite(queries, gullhavenClean(), 'Planner', 'the clean copy', 'gullhaven-clean')
  await addSite(queries, carrowPlan(), 'Planner', 'first plan', 'carrow')
  await addSite(queries, quaysidePlan(), 'Planner', 'first plan', 'quayside')
}

const ORGANISATION = 'Gullhaven Trust'

export async function loadDemo(queries: Queries): Promise<void> {
  const organisationId = await addOrganisation(queries, ORGANISATION)
  if (organisationId === null) throw new Error('a new database has organisations')
  for (const { name, role, password } of people as readonly {
    name: string
    role: Role
    password: string
  }[]) {
    const passwordHash = await hashPassword(password)
    const isOperator = role === 'administrator'
    await addPerson(queries, { organisationId, name, role, isOperator, passwordHash })
  }
  await inOrganisation(organisationId, () => loadSites(queries))
}
