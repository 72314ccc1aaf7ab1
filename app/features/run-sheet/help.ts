import { defineHelp } from '~/shell/sheet'

export default defineHelp({
  sheet: 'run-sheet',
  lines: [
    'Who does what, when: computed from the plan anew at each change, never written by hand.',
    'A day is a strip, a person a lane in it; hatched is a wait that needs nobody.',
    'The heavy line below a block: it holds up the end. A magenta upright is a gate: go on, or back.',
    'Who, not before, and left out are wishes of yours: they stay when the plan changes.',
    '“At best”: no schedule of these activities, people, hours and places on the bench ends before.',
    'Chances: ten thousand runs in which things take as long as they may.',
    'Bench: the order in which the laptop’s address changes least.',
    'Durations are common practice, a model’s own, or your team’s once you type them.',
  ],
})
