// Question: does an uplink's probe find out in time that it is down, and only then?
// Method: outage and false alarms by the closed forms of `failover`, against what was wished for.
// Source: RFC 1918 and 6598 (whose probes prove nothing).
import { contains, parseIpv4, spaceOf } from '#core/address'
import { falseAlarmsPerYear, fitProbe, outage } from '#core/failover'
import { lineAddress, type PlanIndex } from '#core/queries'
import type { Probe, Uplink } from '#core/schema'
import { orNull } from '#core/util'
import { draft, set, type Draft, type Mend } from '../finding'

const tenths = (n: number): number => Math.round(n * 10) / 10
const hundredths = (n: number): number => Math.round(n * 100) / 100

/** Spaces whose addresses are on this side of the provider. */
const NEAR_SPACES: readonly string[] = ['private', 'shared', 'link-local', 'loopback']

function isNear(index: PlanIndex, target: string, uplink: Uplink): boolean {
  const ip = orNull(parseIpv4(target))
  if (ip === null) return false
  const own = lineAddress(index, uplink)?.prefix
  const isOnLine = own !== undefined && contains(own, ip)
  return NEAR_SPACES.includes(spaceOf(ip)) || isOnLine || target === uplink.facts.gateway
}

function targetFindings(index: PlanIndex, uplink: Uplink, probe: Probe, place: readonly string[]): Draft[] {
  const near = probe.targets.find((target) => isNear(index, target, uplink))
  if (near !== undefined)
    return [
      draft('W02', 'warning', place, {
        kind: 'near',
        uplink: uplink.name,
        target: near,
        key: 'near' as const,
      }),
    ]
  if (probe.targets.length >= 2) return []
  const values = { uplink: uplink.name, target: probe.targets[0] ?? '', key: 'single' as const }
  return [draft('W02', 'note', place, { kind: 'single', ...values })]
}

/** Wishes of the site that a probe does not keep. */
function timingFindings(index: PlanIndex, uplink: Uplink, next: Uplink, probe: Probe): Draft[] {
  const place = ['uplinks', uplink.id, 'probe']
  const { mostOutageS, mostFalseAlarms } = index.plan.site
  const { worstS } = outage(probe, next)
  const alarms = falseAlarmsPerYear(probe, uplink.lossPct)
  const late = mostOutageS !== null && worstS > mostOutageS
  const loud = mostFalseAlarms !== null && alarms > mostFalseAlarms
  if (!late && !loud) return []
  const { fits } = fitProbe(probe, next, uplink.lossPct, {
    outageS: mostOutageS ?? Number.POSITIVE_INFINITY,
    alarms: mostFalseAlarms ?? Number.POSITIVE_INFINITY,
  })
  const mend: Mend | null = fits && {
    code: 'fit-probe',
    values: { every: fits.everyS, misses: fits.misses },
    changes: [
      set(place, probe, { ...probe, everyS: fits.everyS, timeoutS: fits.timeoutS, misses: fits.misses }),
    ],
  }
  const values = {
    uplink: uplink.name,
    worst: tenths(worstS),
    alarms: alarms < 10 ? hundredths(alarms) : Math.round(alarms),
    mostOutage: mostOutageS ?? ('' as const),
    mostAlarms: mostFalseAlarms ?? ('' as const),
    kind: late ? ('late' as const) : ('loud' as const),
    possible: fits !== null,
  }
  return [draft('W03', 'warning', place, values, mend)]
}

/** @param next the uplink that takes over */
export function probeFindings(index: PlanIndex, uplink: Uplink, next: Uplink): Draft[] {
  const place = ['uplinks', uplink.id, 'probe']
  const { probe } = uplink
  if (probe === null)
    return [draft('W02', 'warning', place, { kind: 'none', uplink: uplink.name, key: 'none' })]
  const returns = draft('W09', 'note', ['uplinks', uplink.id, 'holdDownS'], { uplink: uplink.name })
  return [
    ...targetFindings(index, uplink, probe, place),
    ...timingFindings(index, uplink, next, probe),
    ...(uplink.holdDownS === 0 ? [returns] : []),
  ]
}
