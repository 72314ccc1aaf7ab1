import { isSameName } from '#core/util'
import { partsIn } from './columns'

/** Words for everything or nothing, which a name that is chosen takes the place of. */
const WHOLES = ['all', 'nothing']

/** The part of a text that is still being typed: what follows the last comma. */
const unfinished = (text: string): string => text.slice(text.lastIndexOf(',') + 1).trim()

/**
 * What a text of names between commas can name: all of it, or what holds the part that is being typed.
 * @param names in the order in which they are offered
 */
export function offersFor(text: string, names: readonly string[]) {
  const named = partsIn(text)
  const typed = unfinished(text).toLowerCase()
  const holding = names.filter((name) => name.toLowerCase().includes(typed))
  const isSeeking = typed !== '' && !names.some((name) => isSameName(name, typed)) && holding.length > 0
  return (isSeeking ? holding : names).map((name) => ({
    name,
    isNamed: named.some((part) => isSameName(part, name)),
  }))
}

/** A text with a name added, or taken out where it is there; a half-typed name gives way to it. */
export function withToggled(text: string, name: string, names: readonly string[]): string {
  const parts = partsIn(text).filter((part) => !WHOLES.includes(part))
  if (parts.some((part) => isSameName(part, name)))
    return parts.filter((part) => !isSameName(part, name)).join(', ')
  const typed = unfinished(text)
  const isHalf =
    typed !== '' &&
    !names.some((other) => isSameName(other, typed)) &&
    name.toLowerCase().includes(typed.toLowerCase())
  return [...(isHalf ? parts.slice(0, -1) : parts), name].join(', ')
}
