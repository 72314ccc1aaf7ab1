// Question: what is done before anything is touched, when the old line goes, and after?
// Method: the whole site's activities; each uplink is connected behind one gate and judged before the other.
// Source: common practice of changes with a way back, without a published source.
import { missingFacts } from '#core/brief'
import { testsOf } from '#core/prove'
import type { Activity } from './activity'
import { activityId, type Maker } from './draft'

/** Activities that ask for what the work waits for; serials and MAC addresses are read off on the bench. */
function questions({ index }: Maker): { readonly about: string; readonly isOfUplink: boolean }[] {
  const facts = missingFacts(index.plan).filter(
    ({ key, blocks }) =>
      key !== 'serial' && key !== 'reservation-mac' && (blocks.includes('stage') || blocks.includes('adopt')),
  )
  const about = new Map(
    facts.map(({ key, place }) => [[key, ...place].join('.'), place[0] === 'uplinks'] as const),
  )
  return [...about].map(([fact, isOfUplink]) => ({ about: fact, isOfUplink }))
}

/** Ids of the questions that configuring a device waits for. */
export const askedBeforeSettings = (maker: Maker): string[] =>
  questions(maker)
    .filter(({ isOfUplink }) => !isOfUplink)
    .map(({ about }) => activityId('ask', about))

/** Whether something stands there already that the new devices take the place of. */
const isReplacing = ({ index }: Maker): boolean =>
  index.plan.brief.existing.some(({ disposition }) => disposition !== 'keep')

export function activitiesBefore(maker: Maker): Activity[] {
  const { make, index } = maker
  return [
    ...questions(maker).map(({ about }) => make('ask', about, [])),
    make('order', '', []),
    make('print', '', []),
    make('download', '', []),
    ...(isReplacing(maker) ? [make('back-up-old', '', [])] : []),
    ...(index.plan.uplinks.length > 0 ? [make('agree-window', '', [])] : []),
  ]
}

/** A provider that holds a line to one MAC address may take hours to let go of it (common practice). */
const MAC_LOCK_MIN = 240

/** The cut-over: only where there is an uplink. */
export function cutOverActivities(maker: Maker): Activity[] {
  const { make, index } = maker
  const { uplinks, devices } = index.plan
  if (uplinks.length === 0) return []
  const gateways = devices.filter(({ kind }) => kind === 'gateway').map(({ id }) => id)
  const ready = [
    ...gateways.map((id) => activityId('connect', id)),
    ...questions(maker).map(({ about }) => activityId('ask', about)),
    'agree-window',
    'download',
    ...(isReplacing(maker) ? ['back-up-old'] : []),
  ]
  const inWindow = { limit: 'window', deviceId: gateways[0] ?? null } as const
  const from = isReplacing(maker) ? 'unplug' : 'gate-begin'
  return [
    make('note-wiring', '', [], { deviceId: inWindow.deviceId }),
    make('gate-begin', '', [...ready, 'note-wiring'], inWindow),
    ...(isReplacing(maker) ? [make('unplug', '', ['gate-begin'], inWindow)] : []),
    ...uplinks.flatMap(({ id, deviceId, facts }) => {
      const connect = make('connect-uplink', id, [from], { ...inWindow, deviceId })
      const usual = make('wait-uplink', id, [connect.id], { ...inWindow, deviceId })
      const isLocked = facts.macLock !== null && facts.macLock !== 'no'
      const duration = { ...usual.duration, worstMin: Math.max(MAC_LOCK_MIN, usual.duration.worstMin) }
      return [connect, isLocked ? { ...usual, duration } : usual]
    }),
    make(
      'smoke-test',
      '',
      uplinks.map(({ id }) => activityId('wait-uplink', id)),
      inWindow,
    ),
    make('gate-keep', '', ['smoke-test'], inWindow),
  ]
}

/** After everything stands: channels, tests, failovers, what is handed over. */
export function activitiesAfter(maker: Maker, stands: readonly string[]): Activity[] {
  const { make, index } = maker
  const { plan } = index
  const counts = new Map<string, number>()
  for (const { kind, id } of testsOf(plan)) {
    const about = kind === 'failover' ? id : kind
    counts.set(about, (counts.get(about) ?? 0) + 1)
  }
  const hasRadios = plan.devices.some(({ kind }) => kind === 'access-point')
  const tests = [...counts].map(([about, times]) =>
    about.startsWith('failover:')
      ? make('failover', about.slice('failover:'.length), stands)
      : make('prove', about, stands, { times }),
  )
  const proven = [...(hasRadios ? ['channels'] : []), ...tests.map(({ id }) => id), ...stands]
  return [
    ...(hasRadios ? [make('channels', '', stands)] : []),
    ...tests,
    make('back-up', '', proven),
    make('hand-over', '', ['back-up']),
  ]
}
