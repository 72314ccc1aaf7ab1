/** Calls back while the pointer moves, until it is let go or taken away. */
export function followPointer(
  move: (event: PointerEvent) => void,
  ended: (isDropped: boolean) => void,
): void {
  const over = new AbortController()
  const end = ({ type }: PointerEvent) => {
    over.abort()
    ended(type === 'pointerup')
  }
  addEventListener('pointermove', move, { signal: over.signal })
  addEventListener('pointerup', end, { signal: over.signal })
  addEventListener('pointercancel', end, { signal: over.signal })
}
