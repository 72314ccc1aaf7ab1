import type { Draft, WorkFacts } from '#core/schema'
import type { LoosePlan } from '../plans'
import type { Case } from './case'
import { radios } from './wifi'

type Window = NonNullable<Draft<WorkFacts>['cutOver']>
/** Work from a Monday on, with a window, and durations of the cut-over that are known. */
function cutOver(plan: LoosePlan, window: Partial<Window>, days = [1, 2, 3, 4, 5]): void {
  Object.assign(plan.work, { startDate: '2026-11-30', timeZone: 'Europe/London' })
  plan.work.cutOver = { date: '2026-12-02', from: '20:00', to: '22:00', ...window }
  plan.work.people.push({
    id: 'installer',
    name: 'Installer',
    skills: ['mains', 'height', 'driving'],
    days,
    from: '08:00',
    to: '22:00',
  })
}

export const WORK_CASES: readonly Case[] = [
  [
    'F15',
    'channels that are chosen at the bench',
    'work.leftOut',
    (p) => (radios(p, { channel: null }), void (p.work.leftOut = ['channels'])),
    (p) => (radios(p, { channel: 36 }), void (p.work.leftOut = ['channels'])),
  ],
  // Gate 2, connecting 5, waiting 3, trying 10, gate 2: 22 min as usual, and 20 + 30 min back at worst.
  [
    'S01',
    'a cut-over that its window has no room for',
    'work.cutOver',
    (p) => cutOver(p, { to: '20:21' }),
    (p) => cutOver(p, { to: '21:12' }),
  ],
  [
    'S01',
    'a window without room for the way back',
    'work.cutOver',
    (p) => cutOver(p, { to: '21:11' }),
    (p) => cutOver(p, { to: '21:12' }),
  ],
  [
    'S02',
    'nobody who works in the window',
    'work.cutOver',
    (p) => cutOver(p, {}, [1, 2]),
    (p) => cutOver(p, {}, [3]),
  ],
  [
    'S03',
    'a window before the first day',
    'work.cutOver',
    (p) => cutOver(p, { date: '2026-11-29' }),
    (p) => cutOver(p, { date: '2026-11-30' }),
  ],
]
