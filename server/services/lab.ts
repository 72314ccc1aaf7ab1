import type { LabDevice } from '#contracts/api'
import { modelNamed } from '#core/queries'
import { powerOn } from '#server/lab/stand-ins'
import { changeLabDevice, labDeviceWith, shelfOf } from '#server/repo/lab'
import { database } from '#server/platform/database'
import { tell } from '#server/platform/news'
import { refused } from '#server/platform/route'
import { siteOf } from './plans'

export async function labOf(slug: string): Promise<LabDevice[]> {
  const db = database()
  const site = await siteOf(db, slug)
  return (await shelfOf(db, site.id)).map(({ siteId: _s, plugDeviceId: _d, plugPortId: _p, ...rest }) => rest)
}

/** Power, a factory reset or a firmware brought up to date by hand; each ends with the device starting. */
export async function labAction(
  slug: string,
  serial: string,
  action: 'power-on' | 'reset' | 'update',
): Promise<void> {
  const db = database()
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
