import { modelNamed } from '#core/queries'
import type { LabSign, PlugIn } from '#core/simulator'
import { changeLabDevice, faultOf, labDeviceWith, switchOffStarting, type LabRow } from '#server/repo/lab'
import { database, type Queries } from '#server/platform/database'
import { askHeavy } from '#server/platform/heavy'
import { describeError, log } from '#server/platform/log'
import { tell } from '#server/platform/news'
import { Refused } from '#server/platform/route'
import { settings } from '#server/platform/settings'
import { currentPlan } from '#server/services/plans'
import { leaseNoticed } from '#server/services/bootstrap'
import { ask, report } from './stand-in'

// The lab's shelf comes to life: what happens to a stand-in from its power button to a quiet light.

/**
 * Seconds between two attempts, and how many are made, before a device gives up until its next power-on
 * (practice).
 */
const RETRY_S = 60
const MOST_TRIES = 120
/** Share of a model's adoption time spent on reading, on a new boot image and on configuring (practice). */
const READ_S = 10
const IMAGE_S = 60
const CONFIGURE_S = 30

/** Runs by serial; a newer run of the same device ends the older one. */
const running = new Map<string, symbol>()

class Ended extends Error {}

interface Life {
  readonly slug: string
  readonly serial: string
  readonly model: string
  show(sign: LabSign, power?: LabRow['power']): Promise<void>
  wait(seconds: number): Promise<void>
}

async function save(
  serial: string,
  slug: string,
  change: Parameters<typeof changeLabDevice>[2],
): Promise<void> {
  const db = database()
  await changeLabDevice(db, serial, change)
  await tell(db, { site: slug, topic: 'lab' })
}

function lifeOf(device: LabRow, slug: string, run: symbol): Life {
  const still = () => {
    if (running.get(device.serial) !== run) throw new Ended()
  }
  return {
    slug,
    serial: device.serial,
    model: device.model,
    async show(sign, power = 'starting') {
      still()
      await save(device.serial, slug, { sign, power })
    },
    async wait(seconds) {
      await new Promise((done) => setTimeout(done, (seconds * 1000) / settings().labSpeed))
      still()
    },
  }
}

async function meetNetwork(device: LabRow, slug: string): Promise<PlugIn> {
  const { plan } = await currentPlan(slug)
  const fault = await faultOf(database(), device.siteId)
  // Spreads the addresses of the shelf over the pool: the serial's characters choose.
  const nth = [...device.serial].reduce((sum, c) => sum + c.charCodeAt(0), 0)
  return askHeavy('plugInLab', plan, fault, { deviceId: device.plugDeviceId, portId: device.plugPortId }, nth)
}

/** What a device shows after a refusal, by its error tag. */
const SIGN_OF_REFUSAL: Readonly<Record<string, LabSign>> = {
  'operation-failed': 'firmware-old',
  'invalid-value': 'wrong-model',
}

/** One round of bootstrapping. Answers whether the device is done with it. */
async function bootstrap(life: Life): Promise<boolean> {
  const found = await labDeviceWith(database(), life.serial)
  if (!found) throw new Ended()
  const told = await ask(life.serial, life.model, found.device.firmware)
  if (told.kind === 'refused') {
    await life.show(SIGN_OF_REFUSAL[told.why] ?? 'unclaimed')
    return false
  }
  await report(life.serial, 'bootstrap-initiated')
  await report(life.serial, 'parsing-initiated')
  await life.wait(READ_S)
  await report(life.serial, 'parsing-complete')
  if (told.firmware !== null) {
    await life.show('loading')
    await report(life.serial, 'boot-image-initiated', told.firmware)
    await life.wait(IMAGE_S)
    await report(life.serial, 'boot-image-installed-rebooting', told.firmware)
    await save(life.serial, life.slug, { firmware: told.firmware })
    await life.wait(modelNamed(life.model)?.bootS ?? 60)
    return bootstrap(life)
  }
  await life.show('applying')
  await report(life.serial, 'config-initiated')
  await life.wait(CONFIGURE_S)
  await report(life.serial, 'config-complete', `${told.configuration.length} bytes`)
  await report(life.serial, 'bootstrap-complete')
  await save(life.serial, life.slug, { factory: false })
  await life.show('configured', 'on')
  return true
}

/** A box that another site has claimed is heard of by that site alone. */
function unlessForeign(error: unknown): void {
  if (!(error instanceof Refused)) throw error
}

async function live(device: LabRow, life: Life): Promise<void> {
  await life.show('starting')
  await life.wait(modelNamed(device.model)?.bootS ?? 60)
  const met = await meetNetwork(device, life.slug)
  if (met.kind !== 'lease') return life.show(met.kind === 'not-plugged' ? 'no-link' : 'no-address', 'on')
  const { serial, model } = device
  await leaseNoticed(life.slug, { serial, model, address: met.address }).catch(unlessForeign)
  if (!device.factory) return life.show('foreign', 'on')
  if (!met.controller) return life.show('no-controller', 'on')
  await life.show('looking')
  for (let tries = 0; tries < MOST_TRIES; tries++) {
    if (await bootstrap(life)) return
    await life.wait(RETRY_S)
  }
  await life.show('gave-up', 'on')
}

/** Presses a stand-in's power button. It goes on by itself. */
export function powerOn(device: LabRow, slug: string): void {
  const run = Symbol(device.serial)
  running.set(device.serial, run)
  void live(device, lifeOf(device, slug, run)).catch(async (error: unknown) => {
    if (error instanceof Ended || running.get(device.serial) !== run) return
    log.error({ error: describeError(error) }, 'a stand-in stopped')
    await save(device.serial, slug, { power: 'off', sign: 'stopped' }).catch(() => undefined)
  })
}

/** Ends all runs, so that the server can stop. */
export function stopLab(): void {
  running.clear()
}

/** At the start nothing runs yet: what was starting is off. */
export function settleLab(queries: Queries): Promise<void> {
  return switchOffStarting(queries)
}
