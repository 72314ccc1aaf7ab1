// Question: can the work on site be done as it is planned?
// Method: what is done in the window of the cut-over, one after another at usual speed, against the window; who works
// then. What nobody has said is not judged.
// Source: none; common practice of changes with a way back.
import { defineStage, type PlanIndex } from '#core/queries'
import { cutOverRoom } from '#core/schedule'
import { apRadios } from '#core/wifi'
import { draft, onSheet, set, type Draft, type Finding, type Mend } from '../finding'

const WINDOW = ['work', 'cutOver']

function windowFindings({ plan }: PlanIndex): Draft[] {
  const { cutOver, startDate } = plan.work
  const room = cutOver && cutOverRoom(plan)
  if (!room || startDate === null) return []
  const { windowMin, neededMin, backMin } = room
  if (room.isOver) return [draft('S03', 'warning', WINDOW, { date: cutOver.date, startDate })]
  const short = (kind: 'whole' | 'back', min: number): Draft[] =>
    min > windowMin ? [draft('S01', 'warning', WINDOW, { kind, neededMin: min, windowMin })] : []
  const whole = short('whole', neededMin)
  return [
    ...(whole.length > 0 ? whole : short('back', neededMin + backMin)),
    ...(room.isStaffed ? [] : [draft('S02', 'warning', WINDOW, { date: cutOver.date })]),
  ]
}

/** What chooses its channel at the bench hears other neighbours than on site. */
function channelFindings({ plan }: PlanIndex): Draft[] {
  const { leftOut } = plan.work
  const radios = apRadios(plan).filter(
    ({ channel, follows, isSilent }) => channel === null && follows === null && !isSilent,
  ).length
  if (radios === 0 || !leftOut.includes('channels')) return []
  const place = ['work', 'leftOut']
  const mend: Mend = {
    code: 'choose-on-site',
    values: { radios },
    changes: [
      set(
        place,
        leftOut,
        leftOut.filter((kind) => kind !== 'channels'),
      ),
    ],
  }
  return [draft('F15', 'warning', place, { radios }, mend)]
}

const ofWork = defineStage('work findings', (index): Finding[] =>
  onSheet('run-sheet', [...windowFindings(index), ...channelFindings(index)]),
)

export const checkWork = (index: PlanIndex): Finding[] => index.get(ofWork)
