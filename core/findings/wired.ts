// Question: does power, speed, light and protocol fit at every cable, and does any frame run in a ring?
// Method: the power of the plan, the speed of each link, the spanning tree, and each port against what its
// model is made for.
// Source:
// IEEE 802.3-2022 (power, speeds, transceivers), IEEE 802.1D-2004 clause 17, IEEE 802.1AX (bundles).
import { linkSpeed, opticFor, OPTICS } from '#core/cabling'
import { layer2Of } from '#core/layer2'
import { powerOf, type Feed, type Powered } from '#core/power'
import {
  endsOf,
  findPort,
  modelOf,
  specOf,
  type Link,
  type Medium,
  type PlanIndex,
  type PortGroup,
} from '#core/model'
import { labelOf, portPlace, set, type Draft } from './finding'

function powerFindings(index: PlanIndex, power: Powered): Draft[] {
  const free = 1 - index.plan.site.poeHeadroomPct / 100
  const sums = power.sources.flatMap((source): Draft[] => {
    const device = index.devices.get(source.deviceId)?.name ?? source.deviceId
    const values = {
      device,
      budgetW: source.budgetW,
      classW: round(source.classW),
      drawW: round(source.drawW),
      headroomPct: index.plan.site.poeHeadroomPct,
      key: 'budget',
    }
    const place = ['devices', source.deviceId]
    if (source.drawW > source.budgetW)
      return [{ code: 'E08', severity: 'blocker', place, values: { ...values, kind: 'over' }, mend: null }]
    if (source.drawW > source.budgetW * free)
      return [
        { code: 'E08', severity: 'warning', place, values: { ...values, kind: 'headroom' }, mend: null },
      ]
    return source.classW > source.budgetW
      ? [{ code: 'E08', severity: 'warning', place, values: { ...values, kind: 'class-sum' }, mend: null }]
      : []
  })
  const feeds = power.feeds.filter((f) => f.trouble !== null).map((f) => feedFinding(index, f))
  const dark = power.dark.map((id): Draft => ({
    code: 'E08',
    severity: 'blocker',
    place: ['devices', id],
    values: { kind: 'dark', device: index.devices.get(id)?.name ?? id, key: 'dark' },
    mend: {
      code: 'own-supply',
      values: { device: index.devices.get(id)?.name ?? id },
      changes: [set(['devices', id, 'mains'], false, true)],
    },
  }))
  return [...sums, ...feeds, ...dark]
}

const round = (watts: number): number => Math.round(watts * 10) / 10

function feedFinding(index: PlanIndex, feed: Feed): Draft {
  const sourceClass = feed.source.standard === 'ieee' ? feed.source.class : 0
  return {
    code: 'E08',
    severity: 'blocker',
    place: portPlace(feed.from),
    values: {
      kind: feed.trouble ?? '',
      ...labelOf(index, feed.from),
      load: index.devices.get(feed.to.deviceId)?.name ?? feed.to.deviceId,
      loadClass: feed.load.standard === 'ieee' ? feed.load.class : 0,
      sourceClass,
      volts: feed.drop ? round(feed.drop.deviceV) : 0,
      key: feed.linkId,
    },
    mend: null,
  }
}

function loopFindings(index: PlanIndex): Draft[] {
  return layer2Of(index, []).tree.loops.map((loop) => ({
    code: 'E05',
    severity: 'blocker',
    place: ['devices', loop[0] ?? ''],
    values: { devices: loop.map((id) => index.devices.get(id)?.name ?? id).join(', '), key: loop.join(' ') },
    mend: null,
  }))
}

function speedFindings(index: PlanIndex, link: Link): Draft[] {
  const speed = linkSpeed(index, link)
  const [first, second] = endsOf(link).map((ref) => labelOf(index, ref))
  const between = { from: `${first?.device} ${first?.port}`, to: `${second?.device} ${second?.port}` }
  const place = ['links', link.id, 'medium']
  if (speed.limit === 'no-common')
    return [
      { code: 'E06', severity: 'blocker', place, values: { kind: 'no-common', ...between }, mend: null },
    ]
  if (speed.limit === 'medium' && link.medium.kind === 'copper') {
    const severity = speed.mbps === null ? ('blocker' as const) : ('warning' as const)
    return link.medium.lengthM > 100
      ? []
      : [
          {
            code: 'E06',
            severity,
            place,
            values: {
              kind: 'medium',
              ...between,
              mbps: speed.mbps ?? 0,
              offeredMbps: speed.offeredMbps ?? 0,
              category: link.medium.category,
              lengthM: link.medium.lengthM,
            },
            mend: null,
          },
        ]
  }
  return []
}

/** Ports of the gateway that are slower than the line behind them. */
function lineFindings(index: PlanIndex): Draft[] {
  return index.plan.uplinks.flatMap((uplink): Draft[] => {
    const ref = { deviceId: uplink.deviceId, portId: uplink.portId }
    const port = findPort(index, ref)
    const fastest = port?.speedMbps ?? Math.max(0, ...(specOf(index, ref)?.speedsMbps ?? []))
    if (fastest === 0 || fastest >= Math.max(uplink.downMbps, uplink.upMbps)) return []
    return [
      {
        code: 'E06',
        severity: 'warning',
        place: portPlace(ref),
        values: {
          kind: 'line',
          ...labelOf(index, ref),
          mbps: fastest,
          line: uplink.name,
          lineMbps: Math.max(uplink.downMbps, uplink.upMbps),
          key: uplink.id,
        },
        mend: null,
      },
    ]
  })
}

function roleFindings(index: PlanIndex): Draft[] {
  const uplinks = new Set(index.plan.uplinks.map((u) => `${u.deviceId}/${u.portId}`))
  return index.plan.devices.flatMap((device) => {
    const model = modelOf(index, device.model)
    if (!model) return []
    return device.ports.flatMap((port): Draft[] => {
      const ref = { deviceId: device.id, portId: port.id }
      const role = specOf(index, ref)?.role
      const asWan = port.mode.mode === 'wan' || uplinks.has(`${device.id}/${port.id}`)
      const inUse = (index.linksAt.get(`${device.id}/${port.id}`)?.length ?? 0) > 0
      const wrong =
        (role === 'lan' && asWan) ||
        (role === 'wan' && !asWan && inUse && port.mode.mode !== 'off' && port.mode.mode !== 'routed')
      return wrong
        ? [
            {
              code: 'E09',
              severity: 'warning',
              place: portPlace(ref),
              values: { kind: role === 'lan' ? 'lan-as-wan' : 'wan-as-lan', ...labelOf(index, ref) },
              mend: null,
            },
          ]
        : []
    })
  })
}

/** An injector whose two cables are crossed: what wants power hangs on the side that gives none. */
function crossedFindings(index: PlanIndex): Draft[] {
  return index.plan.devices
    .filter((d) => d.kind === 'injector')
    .flatMap((device): Draft[] => {
      const far = (role: string) =>
        device.ports
          .filter((p) => specOf(index, { deviceId: device.id, portId: p.id })?.role === role)
          .flatMap((p) => index.linksAt.get(`${device.id}/${p.id}`) ?? [])
      const wants = (link: Link) =>
        endsOf(link).some((ref) => ref.deviceId !== device.id && specOf(index, ref)?.load)
      const crossed = far('network').find(wants)
      if (!crossed || far('powered').some(wants)) return []
      const load = endsOf(crossed).find((ref) => ref.deviceId !== device.id)
      return [
        {
          code: 'E09',
          severity: 'blocker',
          place: ['devices', device.id],
          values: {
            kind: 'crossed',
            device: device.name,
            port: '',
            load: index.devices.get(load?.deviceId ?? '')?.name ?? '',
          },
          mend: null,
        },
      ]
    })
}

/** A cable in a socket of the other kind. */
function misfitOf(spec: PortGroup | null, medium: Medium): 'copper-in-sfp' | 'fibre-in-copper' | null {
  if (spec?.kind === 'sfp' && medium.kind === 'copper') return 'copper-in-sfp'
  return spec?.kind === 'copper' && medium.kind === 'fibre' ? 'fibre-in-copper' : null
}

function opticFindings(index: PlanIndex, link: Link): Draft[] {
  const { medium } = link
  if (medium.kind !== 'copper' && medium.kind !== 'fibre') return []
  const ends = endsOf(link).map((ref) => ({
    ref,
    spec: specOf(index, ref),
    optic: findPort(index, ref)?.optic ?? null,
    label: labelOf(index, ref),
  }))
  const out: Draft[] = []
  for (const { ref, spec, label } of ends) {
    const kind = misfitOf(spec, medium)
    if (kind)
      out.push({
        code: 'E10',
        severity: 'blocker',
        place: portPlace(ref),
        values: { kind, ...label },
        mend: null,
      })
  }
  if (medium.kind !== 'fibre' || out.length > 0) return out
  for (const { ref, spec, optic, label } of ends) {
    const fits = optic !== null && OPTICS[optic].reachM[medium.grade] >= medium.lengthM
    if (fits || spec?.kind !== 'sfp') continue
    const better = opticFor(
      medium.grade,
      medium.lengthM,
      spec.speedsMbps.filter((s) => ends.every((e) => !e.spec || e.spec.speedsMbps.includes(s)) && s <= 1000),
    )
    const mend = better
      ? {
          code: 'optic',
          values: { optic: better, port: label.port },
          changes: [set([...portPlace(ref), 'optic'], optic, better)],
        }
      : null
    out.push({
      code: 'E10',
      severity: 'blocker',
      place: portPlace(ref),
      values: {
        kind: optic === null ? 'no-optic' : 'optic-and-fibre',
        ...label,
        optic: optic ?? '',
        grade: medium.grade,
        lengthM: medium.lengthM,
      },
      mend,
    })
  }
  const [one, other] = ends.map((e) => e.optic)
  if (
    out.length === 0 &&
    one &&
    other &&
    (OPTICS[one].wavelengthNm !== OPTICS[other].wavelengthNm ||
      OPTICS[one].speedMbps !== OPTICS[other].speedMbps)
  ) {
    out.push({
      code: 'E10',
      severity: 'blocker',
      place: ['links', link.id, 'medium'],
      values: {
        kind: 'optics-differ',
        device: ends[0]?.label.device ?? '',
        port: ends[0]?.label.port ?? '',
        optic: one,
        otherOptic: other,
      },
      mend: null,
    })
  }
  return out
}

/** Bundles whose members do not belong together. */
function bundleFindings(index: PlanIndex): Draft[] {
  const names = new Set(index.plan.links.flatMap((l) => (l.lag === null ? [] : [l.lag])))
  return [...names].flatMap((lag): Draft[] => {
    const members = index.plan.links.filter((l) => l.lag === lag)
    const first = members[0] as Link
    const pair = (l: Link) => [l.a.deviceId, l.b.deviceId].sort().join(' ')
    const modes = (id: string) =>
      new Set(
        members.flatMap((link) =>
          endsOf(link)
            .filter((r) => r.deviceId === id)
            .map((r) => JSON.stringify(findPort(index, r)?.mode)),
        ),
      )
    const speeds = new Set(members.map((l) => linkSpeed(index, l).mbps))
    const reasons = {
      alone: members.length < 2,
      'other-device': members.some((l) => pair(l) !== pair(first)),
      modes: endsOf(first).some((r) => modes(r.deviceId).size > 1),
      speeds: speeds.size > 1,
    }
    const why = Object.entries(reasons).find(([, holds]) => holds)?.[0] ?? null
    return why === null
      ? []
      : [
          {
            code: 'E12',
            severity: why === 'alone' ? 'note' : 'blocker',
            place: ['links', first.id, 'lag'],
            values: { lag, why, members: members.length },
            mend: null,
          },
        ]
  })
}

/** Findings of group E that need models, power and the tree, under all well. */
export function checkWired(index: PlanIndex): Draft[] {
  return [
    ...loopFindings(index),
    ...powerFindings(index, powerOf(index)),
    ...index.plan.links.flatMap((link) => [...speedFindings(index, link), ...opticFindings(index, link)]),
    ...lineFindings(index),
    ...roleFindings(index),
    ...crossedFindings(index),
    ...bundleFindings(index),
  ]
}
