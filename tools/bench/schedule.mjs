// Schedules of large pieces of work: drawn by chance, and of a plan.
import { say } from '../say.mjs'
import { line, median, time } from './measure.mjs'

const HOURS = Array.from({ length: 170 }, (_, day) => ({ from: day * 1440 + 480, to: day * 1440 + 1020 }))
const SKILLS = { one: ['mains', 'height'], two: ['height'] }
const PEOPLE = ['one', 'two', 'three', 'four'].map((id) => ({ id, skills: SKILLS[id] ?? [], hours: HOURS }))

/** So many activities by a seeded draw: chains of eight on one thing, some waits, some for whoever may. */
function project(count, next) {
  const activities = Array.from({ length: count }, (_, i) => {
    const usualMin = 2 + Math.floor(next() * 28)
    const isWait = i % 8 === 3 || i % 8 === 5
    const skilled = next() < 0.1 ? ['height'] : []
    return {
      id: `a${i}`,
      kind: 'connect',
      group: 'site',
      about: `thing${Math.floor(i / 8)}`,
      deviceId: null,
      place: `place${Math.floor(i / 8) % 5}`,
      duration: { leastMin: Math.ceil(usualMin * 0.7), usualMin, worstMin: usualMin * 2, source: 'practice' },
      hands: !isWait,
      skills: isWait ? [] : skilled,
      after: i % 8 === 0 ? [] : [`a${i - 1}`, ...(i > 40 && i % 16 === 1 ? [`a${i - 17}`] : [])],
      takes: i % 8 === 1 ? ['bench'] : [],
      frees: i % 8 === 6 ? ['bench'] : [],
      limit: 'any',
    }
  })
  return {
    activities,
    people: PEOPLE,
    capacities: new Map([['bench', 4]]),
    travelMin: (from, to) => (from === to ? 0 : 5),
    daylight: null,
    window: null,
    wishes: new Map(),
    happened: new Map(),
    nowMin: 0,
  }
}

const under = (what, value, unit, most) => line(what, value, unit, `< ${most}`, value < most)

/** Working minutes up to a time: nights say nothing about how good a schedule is. */
const worked = (time, hours = HOURS) =>
  hours.reduce((sum, { from, to }) => sum + Math.max(0, Math.min(to, time) - from), 0)

/** Working time after 5 s of looking, as a multiple of what no schedule can undercut. */
function aboveLeast(search, hours) {
  const until = performance.now() + 5000
  while (performance.now() < until && !search.best.isProven) search.improve(5)
  const { layout, leastEndMin } = search.best
  return worked(layout.endMin, hours) / worked(leastEndMin, hours)
}

/** The work of a large plan for four people, without a day that is set for the cut-over: that would say it all. */
function planned({ busyPlan, gullhavenPlan, projectOf }) {
  const { work } = gullhavenPlan()
  const people = PEOPLE.map(({ id }, i) => ({ ...work.people[i % work.people.length], id, name: id }))
  const plan = busyPlan(9, 36, { switches: 18, portsEach: 12, networks: 8, fixedEach: 4 })
  return projectOf({ ...plan, work: { ...work, people, cutOver: null } })
}

export function benchSchedule(core) {
  const { compile, createSearch, spreadOf, chance } = core
  const seed = Number(process.env.MAST_BENCH_SEED ?? 20_261_125)
  say(`\nschedules, seed ${seed} (MAST_BENCH_SEED)`)
  const large = project(300, chance(seed))
  const compiled = compile(large)
  createSearch(compile(project(300, chance(seed + 1))), 1)
  under(
    '300 activities, 4 people: the first schedule',
    time(() => createSearch(compiled, 1)),
    'ms',
    300,
  )
  const search = createSearch(compiled, 1)
  // People and bench are as scarce as each other here; how that adds up is not in what no schedule can undercut.
  const drawn = aboveLeast(search)
  line('  working time after 5 s / no schedule has less', drawn, 'ratio', '<= 1.1', drawn <= 1.1)
  const { layout } = search.best
  const { activities, people, ...rest } = planned(core)
  const own = createSearch(compile({ activities, people, ...rest }), 1)
  const above = aboveLeast(own, people[0].hours)
  line(
    `${activities.length} activities of a plan, 4 people: the same`,
    above,
    'ratio',
    '<= 1.1',
    above <= 1.1,
  )
  under(
    '10,000 runs of it',
    time(() => spreadOf(compiled, layout, 10_000, 1)),
    'ms',
    1000,
  )
  const done = { state: 'done', startMin: 480, endMin: 500, personId: 'one' }
  const replans = Array.from({ length: 9 }, () =>
    time(() => createSearch(compile({ ...large, happened: new Map([['a0', done]]), nowMin: 500 }), 1)),
  )
  under('laid out anew after one is done, median', median(replans), 'ms', 50)
  const small = compile(project(30, chance(seed)))
  let exact
  under(
    '30 activities, exact',
    time(() => (exact = createSearch(small, 1))),
    'ms',
    2000,
  )
  line('  proven to be the best', exact.best.isProven ? 1 : 0, 'yes/no', '1', exact.best.isProven)
}
