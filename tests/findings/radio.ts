import { device, link, plain, ports } from '#server/demo/build'
import type { Draft, RadioSettings } from '#core/schema'
import type { LoosePlan } from '../plans'
import type { Case } from './case'

type Settings = Draft<RadioSettings>
const END = { antennaM: 20, powerDbm: 10, gainDbi: 16, feederDb: 0.5 }

/** Two bridges 1 km apart on 5,600 MHz over flat ground, with room for the zone. */
function bridged(plan: LoosePlan, change: (settings: Settings) => void = () => undefined): void {
  plan.site.country = 'GB'
  for (const id of ['near', 'far'])
    plan.devices.push(
      device(id, id === 'near' ? 'Near' : 'Far', 'bridge-radio', '', 'Roof', null, ports({ radio: plain })),
    )
  const radio: Settings = {
    mhz: 5600,
    widthMhz: 20,
    polarization: 'vertical',
    rainMmPerHour: 0,
    marginDb: 10,
    ends: { a: { ...END }, b: { ...END } },
    profile: [{ id: 'middle', atM: 500, groundM: 0, obstacleM: 0 }],
  }
  change(radio)
  plan.links.push({ ...link('near:radio', 'far:radio', { kind: 'radio', lengthM: 1000, radio }), id: 'hop' })
}
/** Power at both ends. */
const power =
  (dBm: number) =>
  ({ ends }: Settings): void => {
    ends.a.powerDbm = dBm
    ends.b.powerDbm = dBm
  }
const case_ = (
  code: Case[0],
  what: string,
  wrong: (settings: Settings) => void,
  right: (settings: Settings) => void,
): Case => [code, what, 'links.hop.medium', (plan) => bridged(plan, wrong), (plan) => bridged(plan, right)]

export const RADIO_CASES: readonly Case[] = [
  // 107.41 dB of free space (P.525): of P dBm P - 76.41 arrive, and -82 + 10 dBm are asked for.
  case_('R01', 'less to spare than is asked for', power(4.3), power(4.5)),
  case_('R02', 'more than a country permits', power(11.6), power(11.4)),
  case_(
    'R02',
    'a frequency that a country does not permit',
    (settings) => void (settings.mhz = 5900),
    (settings) => void (settings.mhz = 5600),
  ),
  // Zone of 3.66 m in the middle of 1 km at 5,600 MHz: 60 % are 2.19 m, under 20 m and 0.015 m of bulge.
  case_(
    'R03',
    'an obstacle in the zone',
    ({ profile }) => void (profile[0]!.obstacleM = 17.9),
    ({ profile }) => void (profile[0]!.obstacleM = 17.7),
  ),
]
