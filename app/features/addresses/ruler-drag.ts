import type { Ref } from 'vue'
import { formatPrefix4, networkOf, snapTo, type Prefix4 } from '#core/address'
import { placeNetwork } from '#core/edit'
import type { Network, Plan } from '#core/schema'
import { freePlaces, lengthNear } from './ruler-view'
import type { Length } from './ruler-picture'
import { followPointer } from '~/ui/follow-pointer'
import { reasonOf } from '~/wording/problems'

/** Where a network would come to lie, and what the plan says to it. */
interface Ghost {
  readonly network: Network
  readonly prefix: Prefix4
  readonly result: ReturnType<typeof placeNetwork>
}

/** Pixels at a length's right edge that resize it. */
export const EDGE = 9
const ARROWS: Readonly<Record<string, number>> = { ArrowRight: 1, ArrowLeft: -1 }

interface Ruler {
  readonly block: Readonly<Ref<Prefix4 | null>>
  readonly all: Readonly<Ref<readonly Pick<Length, 'network' | 'prefix'>[]>>
  /** The address at a pixel from the ruler's left edge. */
  readonly addressAt: (x: number) => number
  readonly choose: (id: string) => void
  readonly lay: (plan: Plan, words: string) => void
}

type Props = { readonly plan: Plan; readonly readonly: boolean }

/** The ghost of a length that is moved, and what came of the last move. */
function useGhost(props: Props, lay: Ruler['lay']) {
  const ghost = shallowRef<Ghost | null>(null)
  const says = ref('')
  const refusedWords = ref('')

  function aim(network: Network, prefix: Prefix4 | null): void {
    if (!prefix) return
    ghost.value = { network, prefix, result: placeNetwork(props.plan, network.id, prefix) }
  }
  function drop(): void {
    const aimed = ghost.value
    ghost.value = null
    if (!aimed || aimed.network.subnet === formatPrefix4(aimed.prefix)) return
    const { network, prefix, result } = aimed
    if (!result.ok) {
      refusedWords.value = `${network.name} stays at ${network.subnet}: ${result.problems.map(reasonOf).join('; ')}.`
      return
    }
    refusedWords.value = ''
    says.value = `${network.name}: ${formatPrefix4(prefix)}`
    lay(result.value, says.value)
  }
  return { ghost, says, refusedWords, aim, drop }
}

/**
 * Lengths on the ruler moved and resized by pointer and by arrow keys.
 * The ghost stands at the nearest legal place; where that collides it says why, and letting go changes nothing.
 */
export function useRulerDrag(props: Props, { block, all, addressAt, choose, lay }: Ruler) {
  const { ghost, says, refusedWords, aim, drop } = useGhost(props, lay)

  function grab(event: PointerEvent, item: Length): void {
    const { network, prefix } = item
    choose(network.id)
    refusedWords.value = ''
    const whole = block.value
    if (props.readonly || event.button !== 0 || !whole) return
    const svg = (event.currentTarget as SVGElement).ownerSVGElement
    const left = svg?.getBoundingClientRect().left ?? 0
    const start = event.clientX - left
    const resizes = start > item.x + item.w - EDGE && item.w > 2 * EDGE
    const grabbed = addressAt(start) - prefix.base
    let moved = false
    const move = ({ clientX }: PointerEvent) => {
      const at = clientX - left
      moved ||= Math.abs(at - start) > 3
      if (!moved) return
      if (!resizes) return aim(network, snapTo(whole, addressAt(at) - grabbed, prefix.length))
      const length = Math.max(whole.length, lengthNear(addressAt(at) - prefix.base))
      aim(network, { base: networkOf(prefix.base, length), length })
    }
    followPointer(move, (isDropped) => (isDropped ? drop() : void (ghost.value = null)))
  }

  /** The next free legal place of that size, up or down; null where there is none. */
  function nextPlace({ network, prefix }: Length, whole: Prefix4, by: number): Prefix4 | null {
    const others = all.value.filter((other) => other.network.id !== network.id)
    const places = freePlaces(
      whole,
      others.map((other) => other.prefix),
      prefix.length,
    )
    const base = by > 0 ? places.find((p) => p > prefix.base) : places.findLast((p) => p < prefix.base)
    return base === undefined ? null : { base, length: prefix.length }
  }

  /** Arrow keys go from one free legal place to the next; with Shift the length doubles or halves. */
  function key(event: KeyboardEvent, item: Length): void {
    const by = ARROWS[event.key] ?? 0
    const whole = block.value
    if (by === 0 || props.readonly || !whole) return
    event.preventDefault()
    refusedWords.value = ''
    if (event.shiftKey) {
      const length = item.prefix.length - by
      if (length < whole.length || length > 30) return
      aim(item.network, { base: networkOf(item.prefix.base, length), length })
      return drop()
    }
    const next = nextPlace(item, whole, by)
    if (next) aim(item.network, next)
    else
      refusedWords.value = `${item.network.name}: no free place of that size further ${by > 0 ? 'up' : 'down'}.`
    drop()
  }

  return { ghost, says, refusedWords, grab, key }
}
