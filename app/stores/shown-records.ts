import type { StepPhoto, StepRecord, Tick } from '#contracts/api'
import type { QueuedWrite } from './outbox'

// What is known of a site, with what the server has not heard of yet.

interface ShownStep extends StepRecord {
  /** The server has not heard of it yet. */
  readonly isWaiting?: boolean
}

/** A photograph as it is shown: one that waits to be sent has its picture here. */
export interface ShownPhoto extends StepPhoto {
  readonly source: string
  readonly isWaiting: boolean
}

interface ShownTick extends Tick {
  /** The server has not heard of it yet. */
  readonly isWaiting?: boolean
}

type Waiting = readonly QueuedWrite[]

/** Records of steps in their order. */
export const shownSteps = (
  known: readonly StepRecord[],
  waiting: Waiting,
  who: string,
): readonly ShownStep[] => [
  ...known,
  ...waiting.map(({ body }, i) => ({
    ...(body as unknown as Omit<StepRecord, 'id' | 'who'>),
    id: -1 - i,
    who,
    isWaiting: true,
  })),
]

/** Photographs of steps in their order. */
export const shownPhotos = (
  slug: string,
  known: readonly StepPhoto[],
  waiting: Waiting,
  who: string,
): readonly ShownPhoto[] => [
  ...known.map((photo) => ({ ...photo, source: `/api/sites/${slug}/photos/${photo.id}`, isWaiting: false })),
  ...waiting.map(({ body, at }, i) => ({
    id: -1 - i,
    activityId: String(body['activityId']),
    at,
    who,
    source: `data:image/jpeg;base64,${body['jpeg']}`,
    isWaiting: true,
  })),
]

/** What is ticked. */
export const shownTicks = (known: readonly Tick[], waiting: Waiting, who: string): readonly ShownTick[] =>
  waiting.reduce<readonly ShownTick[]>((shown, { body, at }) => {
    const item = String(body['item'])
    const others = shown.filter((tick) => tick.item !== item)
    return body['done'] ? [...others, { item, who, at, isWaiting: true }] : others
  }, known)
