import type { RoomForMore } from '#core/power'
import { count } from './count'

/** How many more of a model a source takes, and what holds back further ones. */
export function roomWords(model: string, { fit, byClass, byDraw, freePorts }: RoomForMore): string {
  return `${fit} more ${model}: ${byClass} by class, ${byDraw} by draw, ${count(freePorts, 'free port')}`
}
