import type { LabDevice } from '#contracts/api'
import { customAlphabet } from 'nanoid'
import { isManaged } from '#core/adopt'
import { indexPlan, makeSerial, modelNamed } from '#core/queries'
import { uplinkPeers } from '#core/simulator'
import type { Device, DeviceId, PortRef } from '#core/schema'
import { claimsOf } from '#server/repo/adoption'
import { powerOn } from '#server/lab/stand-ins'
import { planForChange } from '#server/repo/plans'
import {
  addLabDevices,
  changeLabDevice,
  labDeviceWith,
  removeLabDevices,
  shelfOf,
  type NewLabDevice,
} from '#server/repo/lab'
import { database } from '#server/platform/database'
import { tell } from '#server/platform/news'
import { refused } from '#server/platform/route'
import { siteAndPlan, siteOf } from './plans'

export async function labOf(slug: string): Promise<LabDevice[]> {
  const db = database()
  const site = await siteOf(db, slug)
  return (await shelfOf(db, site.id)).map(({ siteId: _s, plugDeviceId: _d, plugPortId: _p, ...rest }) => rest)
}

const serialBody = customAlphabet('0123456789ABCDEFGHJKLMNPQRSTUVWXYZ', 7)

/** A stand-in for a device of the plan, plugged in where its cable ends. */
function standInFor(device: Device, siteId: number, plug: PortRef): NewLabDevice {
  const body = serialBody()
  return {
    siteId,
    serial: makeSerial('GH', body),
    boardSerial: makeSerial('GB', body),
    label: `${device.name}, simulated`,
    deviceId: device.id,
    model: device.model,
    firmware: modelNamed(device.model)?.plannedFirmware ?? '1.0.0',
    factory: true,
    plugDeviceId: plug.deviceId,
    plugPortId: plug.portId,
  }
}

/**
 * Puts a stand-in on the shelf for each managed device that has none and no serial yet; not for the gateway.
 * Those of devices that are gone from the plan go.
 */
export async function fillShelf(slug: string): Promise<void> {
  await database().transaction(async (tx) => {
    const { siteId, current } = await siteAndPlan(slug, tx)
    // Two who fill it at once are put one after the other.
    await planForChange(tx, siteId)
    const [shelf, claims] = [await shelfOf(tx, siteId), await claimsOf(tx, siteId)]
    const { devices } = current.plan
    const isGone = (id: DeviceId) => id !== '' && !devices.some((device) => device.id === id)
    await removeLabDevices(
      tx,
      shelf.filter(({ deviceId }) => isGone(deviceId)).map(({ serial }) => serial),
    )
    const known = new Set([...shelf, ...claims].map(({ deviceId }) => deviceId))
    const peers = uplinkPeers(indexPlan(current.plan))
    const made = devices.flatMap((device) => {
      const plug = isManaged(device) && !known.has(device.id) ? peers.get(device.id) : undefined
      return plug ? [standInFor(device, siteId, plug)] : []
    })
    await addLabDevices(tx, made)
    await tell(tx, { site: slug, topic: 'lab' })
  })
}

/** Power, a factory reset or a firmware brought up to date by hand; each ends with the device starting. */
export async function labAction(
  slug: string,
  serial: string,
  action: 'power-on' | 'reset' | 'update',
): Promise<void> {
  const db = database()
  await siteOf(db, slug)
  const found = await labDeviceWith(db, serial)
  if (!found || found.slug !== slug) throw refused(404, 'no-such-lab-device', serial)
  const firmware =
    action === 'update'
      ? (modelNamed(found.device.model)?.plannedFirmware ?? found.device.firmware)
      : found.device.firmware
  const device = { ...found.device, firmware, factory: action === 'reset' ? true : found.device.factory }
  await changeLabDevice(db, serial, {
    firmware,
    factory: device.factory,
    power: 'starting',
    sign: 'starting',
  })
  await tell(db, { site: slug, topic: 'lab' })
  powerOn(device, slug)
}
