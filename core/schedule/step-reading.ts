// Question: does what was read at a step keep what the plan says?
// Method: by what is read: a serial's check character, a version against the planned one, a speed against what the
// cable carries, a cable's length against the plan's, an address that is one.
// Source: serials as `core/queries/serial` has them; IEEE 802.3 for speeds; common practice for the rest.
import { parseIpv4 } from '#core/address'
import { linkSpeed } from '#core/cabling'
import { compareVersions, endsOf, modelOf, parseSerial, type PlanIndex } from '#core/queries'
import { problem, type Problem } from '#core/util'
import type { Activity } from './activity'
import type { StepReading } from './card'

type Step = Pick<Activity, 'about'>

function serialProblem(text: string): Problem | null {
  const serial = parseSerial(text)
  return serial.ok ? null : (serial.problems[0] ?? null)
}

function versionProblem(index: PlanIndex, { about }: Step, text: string): Problem | null {
  const planned = modelOf(index, index.devices.get(about)?.model ?? '')?.plannedFirmware ?? ''
  if (!/^\d+(\.\d+){0,3}$/.test(text)) return problem('not-a-version', 'reading', { text })
  return planned !== '' && compareVersions(text, planned) !== 0
    ? problem('other-version', 'reading', { text, planned })
    : null
}

/** The slowest cable of a device decides what its lights must show at least. */
function speedProblem(index: PlanIndex, { about }: Step, text: string): Problem | null {
  const [, number = '', unit = ''] = /^(\d{1,6}(?:\.\d)?)\s*(M|Mb\/s|G|Gb\/s)?$/i.exec(text) ?? []
  if (number === '') return problem('not-a-link-speed', 'reading', { text })
  const mbps = Number(number) * (unit.toLowerCase().startsWith('g') ? 1000 : 1)
  const speeds = index.plan.links
    .filter((link) => endsOf(link).some(({ deviceId }) => deviceId === about))
    .flatMap((link) => linkSpeed(index, link).mbps ?? [])
  const least = Math.min(...speeds)
  return mbps < least && Number.isFinite(least) ? problem('slow-link', 'reading', { mbps, least }) : null
}

function cableProblem(index: PlanIndex, { about }: Step, text: string): Problem | null {
  if (/^pass(ed)?$/i.test(text)) return null
  const [, number] = /^(\d{1,5}(?:\.\d)?)\s*m$/i.exec(text) ?? []
  if (number === undefined) return problem('not-a-cable-test', 'reading', { text })
  const medium = index.plan.links.find(({ id }) => id === about)?.medium
  const planned = medium?.kind === 'copper' || medium?.kind === 'fibre' ? medium.lengthM : null
  // A tester's length is good to some percent, and cables are cut with some to spare (practice).
  return planned !== null && Number(number) > 1.25 * planned + 3
    ? problem('longer-cable', 'reading', { text, planned })
    : null
}

const addressProblem = (text: string): Problem | null => {
  const address = parseIpv4(text)
  return address.ok ? null : (address.problems[0] ?? null)
}

/** Fastest wind that is taken for a reading: above it, buildings go (Beaufort 12 begins at 32.7 m/s). */
const MOST_WIND_MPS = 60

/** Outdoors nobody works above the limit that was agreed. */
function windProblem({ plan }: PlanIndex, text: string): Problem | null {
  const [, number] = /^(\d{1,2}(?:\.\d)?)(?:\s*m\/s)?$/i.exec(text) ?? []
  const mps = Number(number)
  if (number === undefined || mps > MOST_WIND_MPS) return problem('not-a-wind', 'reading', { text })
  const limit = plan.work.windLimitMps
  return limit !== null && mps > limit ? problem('too-windy', 'reading', { mps, limit }) : null
}

/** Why a reading is not one, or does not keep what is planned; null where it does. */
export function stepReadingProblem(
  index: PlanIndex,
  step: Step,
  kind: StepReading,
  text: string,
): Problem | null {
  switch (kind) {
    case 'serial':
      return serialProblem(text)
    case 'version':
      return versionProblem(index, step, text)
    case 'speed':
      return speedProblem(index, step, text)
    case 'cable-test':
      return cableProblem(index, step, text)
    case 'address':
      return addressProblem(text)
    case 'wind':
      return windProblem(index, text)
    case null:
      return null
  }
}
