// Question: will the lines hold each other up, and will the tunnels carry?
// Method: probes by the closed forms of `failover`; shared fates by their words; tunnels by keys, addresses,
// who can be dialled, and what the grid lets out of them.
// Source:
// RFC 1918 and 6598 (whose probes prove nothing), wg(8) (allowed addresses, keys).
import {
  contains,
  formatPrefix4,
  ipv4,
  lastOf,
  overlaps,
  parseIpv4,
  parsePrefix4,
  spaceOf,
  type Prefix4,
} from '#core/address'
import { orNull } from '#core/util'
import { falseAlarmsPerYear, fitProbe, hoursToCap, outage, sharedFates } from '#core/failover'
import {
  canBeCalled,
  changesBetween,
  uplinkGroup,
  uplinksInOrder,
  mapApart,
  mapsOf,
  modelOf,
  nextUplink,
  placeNetwork,
  uplinkShare,
  signalOf,
  tunnelRoom,
  type Network,
  type Plan,
  type PlanIndex,
  type Tunnel,
  type Uplink,
} from '#core/model'
import { parseInterfaceAddress, includes, isNothing, prefixesOf, servicesOf } from '#core/filter'
import { GATEWAY, INTERNET, peerKey, type ReachabilityMatrix } from '#core/reachability'
import { draft, set, type Draft, type Finding } from './finding'

/**
 * A line that takes so many times the share that its speed is of the sum is full before the others are half
 * so.
 */
const MOST_UNEVEN = 1.5
/** Weights in the ratio of the speeds: tenths of the fastest, at least 1. */
const weightBySpeed = (lines: readonly Uplink[], line: Uplink): number =>
  Math.max(1, Math.round((10 * line.downMbps) / Math.max(...lines.map((u) => u.downMbps))))

/** A month's data that is gone in fewer hours than this is told. */
const SHORT_CAP_H = 168

const tenths = (n: number): number => Math.round(n * 10) / 10

function probeFindings(index: PlanIndex, line: Uplink, next: Uplink): Draft[] {
  const place = ['uplinks', line.id, 'probe']
  const { probe } = line
  if (probe === null) return [draft('W02', 'warning', place, { kind: 'none', line: line.name, key: 'none' })]
  const out: Draft[] = []
  const near = probe.targets.find((target) => {
    const ip = orNull(parseIpv4(target))
    return (
      ip !== null &&
      (['private', 'shared', 'link-local', 'loopback'].includes(spaceOf(ip)) || target === line.facts.gateway)
    )
  })
  if (near !== undefined)
    out.push(draft('W02', 'warning', place, { kind: 'near', line: line.name, target: near, key: 'near' }))
  else if (probe.targets.length < 2)
    out.push(
      draft('W02', 'note', place, {
        kind: 'single',
        line: line.name,
        target: probe.targets[0] ?? '',
        key: 'single',
      }),
    )
  const { mostOutageS, mostFalseAlarms } = index.plan.site
  const took = outage(probe, next)
  const alarms = falseAlarmsPerYear(probe, line.lossPct)
  const late = mostOutageS !== null && took.worstS > mostOutageS
  const loud = mostFalseAlarms !== null && alarms > mostFalseAlarms
  if (late || loud) {
    const { fits } = fitProbe(probe, next, line.lossPct, {
      outageS: mostOutageS ?? Number.POSITIVE_INFINITY,
      alarms: mostFalseAlarms ?? Number.POSITIVE_INFINITY,
    })
    const values = {
      line: line.name,
      worst: tenths(took.worstS),
      alarms: alarms < 10 ? Math.round(alarms * 100) / 100 : Math.round(alarms),
      mostOutage: mostOutageS ?? '',
      mostAlarms: mostFalseAlarms ?? '',
      kind: late ? 'late' : 'loud',
    }
    const mend = fits && {
      code: 'fit-probe',
      values: { every: fits.everyS, misses: fits.misses },
      changes: [
        set(place, probe, { ...probe, everyS: fits.everyS, timeoutS: fits.timeoutS, misses: fits.misses }),
      ],
    }
    out.push(draft('W03', 'warning', place, { ...values, possible: fits ? 'yes' : 'no' }, mend))
  }
  if (line.holdDownS === 0)
    out.push(draft('W09', 'note', ['uplinks', line.id, 'holdDownS'], { line: line.name }))
  return out
}

function lineFindings(index: PlanIndex): Draft[] {
  const { plan } = index
  const lines = uplinksInOrder(plan)
  const out: Draft[] = []
  if (lines.length > 1 && lines.some((l) => l.probe !== null) && plan.site.toldTo.trim() === '')
    out.push(draft('W10', 'note', ['site', 'toldTo'], { line: lines[0]?.name ?? '' }))
  lines.forEach((line, i) => {
    const next = nextUplink(lines, line)
    if (next) out.push(...probeFindings(index, line, next))
    const model = modelOf(index, index.devices.get(line.deviceId)?.model ?? '')
    if (model?.inspectionMbps && model.inspectionMbps < line.downMbps)
      out.push(
        draft('W06', 'warning', ['uplinks', line.id, 'downMbps'], {
          line: line.name,
          model: model.name,
          inspection: model.inspectionMbps,
          down: line.downMbps,
        }),
      )
    for (const other of lines.slice(i + 1)) {
      const shared = sharedFates(line, other)
      if (shared.length > 0)
        out.push(
          draft('W04', 'warning', ['uplinks', line.id, 'fates'], {
            line: line.name,
            other: other.name,
            shared: shared.join(', '),
            key: other.id,
          }),
        )
    }
    const mates = uplinkGroup(lines, line)
    const [share, speed] = [
      uplinkShare(lines, line),
      (100 * line.downMbps) /
        Math.max(
          1,
          mates.reduce((sum, u) => sum + u.downMbps, 0),
        ),
    ]
    if (mates.length > 1 && share > speed * MOST_UNEVEN) {
      const changes = mates
        .filter((u) => u.downMbps >= 1 && u.weight !== weightBySpeed(mates, u))
        .map((u) => set(['uplinks', u.id, 'weight'], u.weight, weightBySpeed(mates, u)))
      out.push(
        draft(
          'W14',
          'note',
          ['uplinks', line.id, 'weight'],
          { line: line.name, share: Math.round(share), speed: Math.round(speed) },
          { code: 'weigh-by-speed', values: {}, changes },
        ),
      )
    }
    const hours = hoursToCap(line, line.usualGbPerDay ?? lines[0]?.usualGbPerDay ?? null)
    if (hours !== null && hours < SHORT_CAP_H)
      out.push(
        draft('W08', 'warning', ['uplinks', line.id, 'facts', 'capGb'], {
          line: line.name,
          cap: line.facts.capGb ?? 0,
          hours: Math.round(hours),
        }),
      )
    const { cellular } = line.facts
    if (cellular && signalOf(cellular) === 'weak')
      out.push(
        draft('W15', 'warning', ['uplinks', line.id, 'facts', 'cellular', 'rsrpDbm'], {
          line: line.name,
          rsrp: cellular.rsrpDbm ?? '',
          sinr: cellular.sinrDb ?? '',
          antennas: cellular.antennas ?? '',
        }),
      )
    const called = plan.forwards.filter((f) => f.uplinkId === line.id).length
    if (next && called > 0 && !plan.forwards.some((f) => f.uplinkId === next.id))
      out.push(
        draft('W05', 'warning', ['uplinks', line.id, 'id'], {
          line: line.name,
          other: next.name,
          count: called,
          shared: next.outside === 'shared' ? 'yes' : 'no',
        }),
      )
  })
  return out
}

/**
 * Forwards to an address that is nobody's for good: of a pool, where the server gives it to anybody, or of no
 * host at all.
 */
function targetFindings(plan: Plan): Draft[] {
  return plan.forwards
    .filter((f) => !plan.networks.some((n) => n.fixed.some((x) => x.ip === f.toAddress)))
    .map((forward) => {
      const ip = orNull(parseIpv4(forward.toAddress))
      const home = plan.networks.find(
        (n) => ip !== null && prefixesOf([n.subnet]).some((p) => contains(p, ip)),
      )
      return draft('W16', 'warning', ['forwards', forward.id, 'toAddress'], {
        port: `${forward.proto} ${forward.from}`,
        to: forward.toAddress,
        network: home?.name ?? '',
      })
    })
}

/**
 * Forwards whose outside address people inside will use, and get nowhere: those who may reach the same server
 * by its own.
 */
function insideFindings(index: PlanIndex): Draft[] {
  const { plan } = index
  return plan.forwards
    .filter((f) => !f.hairpin)
    .flatMap((forward) => {
      const home = plan.networks.find((n) => n.fixed.some((f) => f.ip === forward.toAddress))
      const deviceId = home?.fixed.find((f) => f.ip === forward.toAddress)?.deviceId
      const asked = plan.intents.filter(
        (i) =>
          (i.to.kind === 'device'
            ? i.to.id === deviceId && deviceId !== null
            : i.to.kind === 'network' && i.to.id === home?.id) &&
          includes(servicesOf(i.services, index.services), forward.proto, forward.toPort),
      )
      const who = asked.flatMap((i) => {
        if (i.from.kind === 'network') return [index.networks.get(i.from.id)?.name ?? '']
        if (i.from.kind === 'inside') return ['everybody inside']
        return []
      })
      return who.length === 0
        ? []
        : [
            draft(
              'W13',
              'note',
              ['forwards', forward.id, 'hairpin'],
              {
                port: `${forward.proto} ${forward.from}`,
                to: forward.toAddress,
                who: [...new Set(who)].join(', '),
              },
              {
                code: 'hand-inside',
                values: {},
                changes: [set(['forwards', forward.id, 'hairpin'], false, true)],
              },
            ),
          ]
    })
}

function callFindings(index: PlanIndex, tunnel: Tunnel): Draft[] {
  const diallers = tunnel.peers.filter((p) => p.endpoint === null)
  if (diallers.length === 0) return []
  const lines = index.plan.uplinks.filter((u) => u.deviceId === tunnel.deviceId)
  const names = diallers.map((p) => p.name).join(', ')
  const called = lines.find(canBeCalled)
  if (called) {
    const moves = called.kind !== 'static' && tunnel.publicName === null
    // A name that is kept up to date leads nowhere from the change of the address until everybody has heard
    // of it.
    if (called.kind !== 'static' && tunnel.publicName !== null)
      return [
        draft('V17', 'note', ['tunnels', tunnel.id, 'nameEveryS'], {
          tunnel: tunnel.name,
          line: called.name,
          name: tunnel.publicName,
          most: tunnel.nameEveryS + tunnel.nameTtlS,
          every: tunnel.nameEveryS,
          ttl: tunnel.nameTtlS,
          peers: names,
        }),
      ]
    return moves
      ? [
          draft('V08', 'warning', ['tunnels', tunnel.id, 'publicName'], {
            tunnel: tunnel.name,
            line: called.name,
            peers: names,
          }),
        ]
      : []
  }
  const hidden = lines.find((u) => u.outside === 'own')
  if (hidden)
    return [
      draft('V07', 'blocker', ['uplinks', hidden.id, 'facts', 'modemForwards'], {
        tunnel: tunnel.name,
        line: hidden.name,
        port: tunnel.listenPort,
        key: tunnel.id,
      }),
    ]
  return [draft('V03', 'blocker', ['tunnels', tunnel.id, 'peers'], { tunnel: tunnel.name, peers: names })]
}

/**
 * Moves one of our networks to the first subnet of its size that is free here and at every far end; null
 * where there is none.
 */
function renumbering(plan: Plan, network: Network): Draft['mend'] {
  const [block, own] = [orNull(parsePrefix4(plan.site.supernet)), orNull(parsePrefix4(network.subnet))]
  if (!block || !own || own.length < block.length) return null
  const far = [
    ...prefixesOf(plan.tunnels.flatMap((t) => [...t.peers.flatMap((p) => p.allowed)])),
    ...prefixesOf(plan.brief.far.flatMap((f) => f.subnets)),
    ...plan.tunnels.flatMap((t) => parseInterfaceAddress(t.address)?.prefix ?? []),
  ].filter((p) => p.length > 0)
  const size = 2 ** (32 - own.length)
  for (let base: number = block.base; base <= lastOf(block); base += size) {
    const to: Prefix4 = { base: ipv4(base), length: own.length }
    if (far.some((p) => overlaps(p, to))) continue
    const moved = placeNetwork(plan, network.id, to)
    if (moved.ok)
      return {
        code: 'renumber',
        values: { network: network.name, to: formatPrefix4(to) },
        changes: changesBetween(plan, moved.value),
      }
  }
  return null
}

/** Keeps both networks and translates, where ours cannot move; null where there is no free prefix. */
function translation(plan: Plan, tunnel: Tunnel, peerId: string, network: Network): Draft['mend'] {
  const apart = mapApart(plan, tunnel.id, peerId, network.id)
  return apart.ok
    ? {
        code: 'map-apart',
        values: { network: network.name, ours: apart.value.ours, theirs: apart.value.theirs },
        changes: changesBetween(plan, apart.value.plan),
      }
    : null
}

/** What a translation one to one needs and means. */
function mappingFindings(plan: Plan, tunnel: Tunnel): Draft[] {
  return tunnel.mapped.flatMap((mapping) => {
    const place = ['tunnels', tunnel.id, 'mapped', mapping.id]
    const [own, map] = [orNull(parsePrefix4(mapping.inside)), mapsOf({ mapped: [mapping] })[0]]
    const values = { tunnel: tunnel.name, inside: mapping.inside, outside: mapping.outside }
    if (!own || !map) return [draft('V18', 'blocker', place, { ...values, kind: 'lengths' })]
    const [taken] = [
      ...plan.networks.map((n) => ({ name: n.name, prefix: orNull(parsePrefix4(n.subnet)) })),
      ...tunnel.peers.flatMap((peer) =>
        peer.allowed.map((a) => ({ name: peer.name, prefix: orNull(parsePrefix4(a)) })),
      ),
    ].filter(({ prefix }) => prefix !== null && prefix.length > 0 && overlaps(prefix, map.outside))
    if (taken) return [draft('V18', 'blocker', place, { ...values, kind: 'taken', other: taken.name })]
    const deaf = tunnel.peers
      .filter((p) => p.kind === 'site' && !prefixesOf(p.theirAllowed).some((a) => overlaps(a, map.outside)))
      .map((p) => p.name)
    if (deaf.length > 0)
      return [draft('V18', 'warning', place, { ...values, kind: 'unheard', peers: deaf.join(', ') })]
    return [draft('V18', 'note', place, { ...values, kind: 'means' })]
  })
}

/**
 * As wg(8) advises behind a translation: sooner than any forgets.
 * RFC 4787 section 4.3 has it remember for two minutes at least.
 */
const USUAL_KEEPALIVE_S = 25
const LONGEST_KEEPALIVE_S = 120
/**
 * True where one end sits behind a translation that nobody can call through, and sends nothing that keeps it
 * open: the other end cannot begin.
 */
function isSilent(plan: Plan, tunnel: Tunnel, peer: Tunnel['peers'][number]): boolean {
  if (peer.kind === 'person' || (peer.keepaliveS && peer.keepaliveS <= LONGEST_KEEPALIVE_S)) return false
  return peer.endpoint === null || !plan.uplinks.some((u) => u.deviceId === tunnel.deviceId && canBeCalled(u))
}

/**
 * The narrower of the two lines at the ends of a tunnel, each way, where both are known;
 * Mb/s as seen from here.
 */
function slowest(
  plan: Plan,
  tunnel: Tunnel,
  peer: Tunnel['peers'][number],
): Record<string, string | number> | null {
  const line = uplinksInOrder(plan).find((u) => u.deviceId === tunnel.deviceId)
  if (!line || peer.downMbps === null || peer.upMbps === null) return null
  const [out, back] = [Math.min(line.upMbps, peer.downMbps), Math.min(line.downMbps, peer.upMbps)]
  return {
    out,
    back,
    outBy: line.upMbps <= peer.downMbps ? line.name : peer.name,
    backBy: line.downMbps <= peer.upMbps ? line.name : peer.name,
  }
}

function tunnelFindings(index: PlanIndex, tunnel: Tunnel, grid: ReachabilityMatrix): Draft[] {
  const { plan } = index
  const out: Draft[] = [...callFindings(index, tunnel)]
  const place = ['tunnels', tunnel.id]
  const keys = new Map<string, string>(tunnel.publicKey === null ? [] : [[tunnel.publicKey, tunnel.name]])
  const allowed: { readonly prefix: Prefix4; readonly name: string }[] = []
  for (const peer of tunnel.peers) {
    const here = [...place, 'peers', peer.id]
    const owner = peer.publicKey === null ? undefined : keys.get(peer.publicKey)
    if (owner !== undefined)
      out.push(draft('V01', 'blocker', [...here, 'publicKey'], { peer: peer.name, other: owner }))
    if (peer.publicKey !== null) keys.set(peer.publicKey, peer.name)
    if (peer.next) {
      const other = keys.get(peer.next.publicKey)
      if (other !== undefined)
        out.push(
          draft('V01', 'blocker', [...here, 'next'], {
            peer: peer.name,
            other: other === peer.name ? `${peer.name}’s old one` : other,
          }),
        )
      keys.set(peer.next.publicKey, `${peer.name}’s next one`)
      out.push(draft('V19', 'note', [...here, 'next'], { peer: peer.name, until: peer.next.until }))
    }
    for (const prefix of prefixesOf(peer.allowed).filter((p) => p.length > 0)) {
      const met = allowed.find((a) => a.name !== peer.name && overlaps(a.prefix, prefix))
      if (met)
        out.push(
          draft('V02', 'warning', [...here, 'allowed'], { peer: peer.name, other: met.name, key: met.name }),
        )
      allowed.push({ prefix, name: peer.name })
      const home = plan.networks.find((network) =>
        [parsePrefix4(network.subnet)].some((s) => s.ok && overlaps(s.value, prefix)),
      )
      if (home)
        out.push(
          draft(
            'V04',
            'blocker',
            [...here, 'allowed'],
            { peer: peer.name, network: home.name, subnet: home.subnet, key: home.id },
            renumbering(plan, home) ?? translation(plan, tunnel, peer.id, home),
          ),
        )
    }
    if (isSilent(plan, tunnel, peer)) {
      out.push(
        draft(
          'V20',
          'note',
          [...here, 'keepaliveS'],
          {
            peer: peer.name,
            tunnel: tunnel.name,
            who: peer.endpoint === null ? 'here' : 'there',
            every: peer.keepaliveS ?? 0,
          },
          {
            code: 'keep-alive',
            values: { every: USUAL_KEEPALIVE_S },
            changes: [set([...here, 'keepaliveS'], peer.keepaliveS, USUAL_KEEPALIVE_S)],
          },
        ),
      )
    }
    const slow = slowest(plan, tunnel, peer)
    if (slow) out.push(draft('V10', 'note', [...here, 'downMbps'], { peer: peer.name, ...slow }))
    const cells = grid.cells.filter(
      (cell) =>
        (cell.from === peerKey(peer.id) || cell.to === peerKey(peer.id)) &&
        ![cell.from, cell.to].includes(GATEWAY) &&
        ![cell.from, cell.to].includes(INTERNET),
    )
    if (
      peer.kind !== 'provider' &&
      cells.length > 0 &&
      cells.every((c) => isNothing(c.allPairs) && isNothing(c.somePairs))
    )
      out.push(draft('V05', 'warning', here, { peer: peer.name, tunnel: tunnel.name }))
  }
  out.push(...mappingFindings(plan, tunnel))
  const face = parseInterfaceAddress(tunnel.address)
  if (face && spaceOf(face.address) === 'public')
    out.push(draft('V06', 'warning', [...place, 'address'], { tunnel: tunnel.name, address: tunnel.address }))
  const { most, path, adds, six } = tunnelRoom(plan, tunnel)
  if (tunnel.mtu > most)
    out.push(
      draft(
        'V09',
        'warning',
        [...place, 'mtu'],
        { tunnel: tunnel.name, mtu: tunnel.mtu, most, path, adds, six: six ? 'yes' : '' },
        { code: 'lower-mtu', values: { mtu: most }, changes: [set([...place, 'mtu'], tunnel.mtu, most)] },
      ),
    )
  return out
}

/** Findings of lines and tunnels that need more than the brief. */
export function checkWays(index: PlanIndex, grid: ReachabilityMatrix): Finding[] {
  return [
    ...[...lineFindings(index), ...insideFindings(index), ...targetFindings(index.plan)].map((draft) => ({
      ...draft,
      sheet: 'uplinks' as const,
    })),
    ...index.plan.tunnels
      .flatMap((t) => tunnelFindings(index, t, grid))
      .map((d) => ({ ...d, sheet: 'tunnels' as const })),
  ]
}
