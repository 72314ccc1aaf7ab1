import { adjust } from '#core/edit'
import { DAY } from '#core/queries'
import type { TimedRow } from '#core/schedule'
import type { Draft, Person, Plan, WorkFacts } from '#core/schema'
import { useThrottleFn } from '@vueuse/core'
import { minuteAtX, type Block, type Timeline } from './timeline'
import { costWords, soonestWords, wishWords } from './words'
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

/** What a place costs is told so often, and of where the pointer comes to rest in any case, ms. */
const TOLD_MS = 250
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

/** How tall the parts of the picture are, in its units. */
interface Heights {
  readonly head: number
  readonly lane: number
  /** One day with its hours. */
  readonly strip: number
}

/** The day that lies so many strips below one; below the last the days go on. */
function dayBelow({ strips }: Timeline, day: number, by: number): number {
  const at = strips.findIndex((strip) => strip.day === day) + by
  const last = strips.length - 1
  return (strips[Math.min(Math.max(at, 0), last)]?.day ?? day) + Math.max(0, at - last)
}

/** Which strip below its own a pointer is in, and in which lane there. */
function placeAt(y: number, { head, lane, strip }: Heights): { by: number; lane: number } {
  const by = Math.floor(y / strip)
  return { by, lane: Math.floor((y - by * strip - head) / lane) }
}

const isAble = (person: Person, { rows }: Block): boolean =>
  rows.every(({ skills }) => skills.every((skill) => (person.skills as readonly string[]).includes(skill)))

/** Whose lane it is, where that is somebody else who may do it. */
function otherPerson(plan: Plan | null, block: Block, lane: number): Person | null {
  const person = plan?.work.people[lane]
  return person && lane !== block.lane && isAble(person, block) ? person : null
}

/** Blocks dragged to another person, later or to another day; what that costs is told before they are let go. */
export function useBlockDrag(
  timeline: () => Timeline,
  heights: () => Heights,
  /** The title of what a step waits for; empty where it waits for the hours of its person. */
  causeOf: (row: TimedRow) => string,
) {
  const plan = usePlan()
  const schedule = useSchedule()
  const session = useSession()
  const ghost = shallowRef<BlockGhost | null>(null)
  const says = ref('')
  let wish: Wish = { person: null, notBeforeMin: null }
  let wasSooner = false

  const tell = useThrottleFn(
    async (block: Block) => {
      if (!plan.draft || !ghost.value) return
      const work = structuredClone(toRaw(plan.draft.work)) as Draft<WorkFacts>
      wishFor(work, block, wish)
      const tried = await schedule.attempt({ ...plan.draft, work })
      const now = schedule.timetable
      if (tried && now && ghost.value && (wish.person || wish.notBeforeMin !== null))
        says.value = `${wishText()}: ${costWords(tried, now, plan.draft.work.startDate)}`
    },
    TOLD_MS,
    true,
  )

  const wishText = () =>
    wishWords(wish.person?.name ?? '', wish.notBeforeMin, plan.draft?.work.startDate ?? null)

  /** What a place of the picture means for a block. */
  function aim(block: Block, day: number, x: number, lane: number): void {
    const moved = minuteAtX(timeline(), x) + day * DAY
    const minutes = Math.round(moved / SNAP_MIN) * SNAP_MIN
    const startMin = block.rows[0]?.startMin ?? 0
    const other = otherPerson(plan.draft, block, lane)
    wish = { person: other, notBeforeMin: minutes > startMin ? minutes : null }
    ghost.value = { block, day, x, lane: other ? lane : block.lane }
    const isSooner = !other && minutes < startMin
    if (isSooner) says.value = soonestWords(block.rows[0] ? causeOf(block.rows[0]) : '')
    else if (wasSooner || says.value === '') says.value = wishText()
    wasSooner = isSooner
    if (!isSooner) void tell(block)
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
    const move = (x: number, y: number, fromX: number) => {
      const { by, lane } = placeAt(y, heights())
      if (canDrag) aim(block, dayBelow(timeline(), day, by), block.x + x - fromX, lane)
    }
    followInPicture(event, move, (isDropped, hasMoved) => {
      if (!hasMoved && isDropped) onPress()
      drop(isDropped)
    })
  }
  return { ghost, says, grab }
}
