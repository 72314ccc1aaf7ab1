import { adjust } from '#core/edit'
import { DAY } from '#core/queries'
import { peopleOf } from '#core/schedule'
import type { Draft, Person, WorkFacts } from '#core/schema'
import { useThrottleFn } from '@vueuse/core'
import { minuteAtX, type Block, type Timeline } from './timeline'
import { costWords, wishWords } from './words'
import { usePlan } from '~/stores/plan'
import { useSchedule } from '~/stores/schedule'
import { useSession } from '~/stores/session'
import { followPointer } from '~/ui/follow-pointer'

/** Where a block would come to lie. */
interface BlockGhost {
  readonly block: Block
  readonly day: number
  readonly x: number
  readonly lane: number
}

/** What letting go there would wish for. */
interface Wish {
  readonly person: Person | null
  readonly notBeforeMin: number | null
}

/** So far the pointer moves before it drags, px; and minutes to which a time snaps. */
const [NEAR_PX, SNAP_MIN] = [4, 5]

/** Lays a wish on the steps of a block: all of them by one person, the first not before a time. */
function wishFor(work: Draft<WorkFacts>, { rows }: Block, { person, notBeforeMin }: Wish): void {
  rows.forEach(({ id }, i) => {
    if (person) adjust(work, id, { personId: person.id })
    if (i === 0 && notBeforeMin !== null) adjust(work, id, { notBeforeMin })
  })
}

/** Follows a pointer in the units of the picture it was put down in. */
function followInPicture(
  event: PointerEvent,
  move: (x: number, y: number, fromX: number) => void,
  ended: (isDropped: boolean, hasMoved: boolean) => void,
): void {
  const matrix = (event.currentTarget as SVGElement).ownerSVGElement?.getScreenCTM()?.inverse()
  if (event.button !== 0 || !matrix) return
  const pointAt = ({ clientX, clientY }: PointerEvent) =>
    new DOMPoint(clientX, clientY).matrixTransform(matrix)
  const start = pointAt(event)
  let hasMoved = false
  followPointer(
    (now) => {
      hasMoved ||= Math.hypot(now.clientX - event.clientX, now.clientY - event.clientY) > NEAR_PX
      if (!hasMoved) return
      const { x, y } = pointAt(now)
      move(x, y, start.x)
    },
    (isDropped) => ended(isDropped, hasMoved),
  )
}

/** Blocks dragged to another person, or later; what that costs is told before they are let go. */
export function useBlockDrag(timeline: () => Timeline, laneHeight: number, headHeight: number) {
  const plan = usePlan()
  const schedule = useSchedule()
  const session = useSession()
  const ghost = shallowRef<BlockGhost | null>(null)
  const says = ref('')
  let wish: Wish = { person: null, notBeforeMin: null }

  const isAble = (person: Person, { rows }: Block) =>
    rows.every(({ skills }) => skills.every((skill) => (person.skills as readonly string[]).includes(skill)))

  const tell = useThrottleFn(async (block: Block) => {
    if (!plan.draft || !ghost.value) return
    const work = structuredClone(toRaw(plan.draft.work)) as Draft<WorkFacts>
    wishFor(work, block, wish)
    const tried = await schedule.attempt({ ...plan.draft, work })
    const now = schedule.timetable
    if (tried && now && ghost.value)
      says.value = `${wishText()}: ${costWords(tried, now, plan.draft.work.startDate)}`
  }, 250)

  const wishText = () =>
    wishWords(wish.person?.name ?? '', wish.notBeforeMin, plan.draft?.work.startDate ?? null)

  /** What a place of the picture means for a block. */
  function aim(block: Block, day: number, x: number, lane: number): void {
    const people = plan.draft ? peopleOf(plan.draft) : []
    const person = people[lane]
    const moved = minuteAtX(timeline(), x) + day * DAY
    const minutes = Math.round(moved / SNAP_MIN) * SNAP_MIN
    const isNamed = (plan.draft?.work.people.length ?? 0) > 0
    const other = person && isNamed && lane !== block.lane && isAble(person, block) ? person : null
    wish = { person: other, notBeforeMin: minutes > (block.rows[0]?.startMin ?? 0) ? minutes : null }
    ghost.value = { block, day, x, lane: other ? lane : block.lane }
    says.value ||= wishText()
    void tell(block)
  }

  function drop(isDropped: boolean): void {
    const aimed = ghost.value
    ghost.value = null
    says.value = ''
    if (!aimed || !isDropped || (!wish.person && wish.notBeforeMin === null)) return
    plan.edit(`run sheet: ${wishText()}`, '', ({ work }) => wishFor(work, aimed.block, wish))
  }

  /** Begins a drag; `onPress` is for a pointer that was let go where it was put down. */
  function grab(event: PointerEvent, block: Block, day: number, onPress: () => void): void {
    const canDrag = session.edits && !block.isWait && block.rows.every(({ state }) => state === 'planned')
    const move = (x: number, y: number, fromX: number) =>
      canDrag && aim(block, day, block.x + x - fromX, Math.floor((y - headHeight) / laneHeight))
    followInPicture(event, move, (isDropped, hasMoved) => {
      if (!hasMoved && isDropped) onPress()
      drop(isDropped)
    })
  }
  return { ghost, says, grab }
}
