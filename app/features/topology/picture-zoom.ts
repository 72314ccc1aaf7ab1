import type { Ref } from 'vue'
import type { TopologyLayout } from './topology-layout'
import { useElementSize } from '@vueuse/core'

const LEAST_SCALE = 0.84
const NEAREST = 2.5
export const FARTHEST = 0.3

/**
 * A picture a little too wide is made smaller; one much too wide is moved and scaled by hand.
 * @param what another thing is drawn from the beginning when this changes
 */
export function usePictureZoom(
  box: Readonly<Ref<HTMLElement | null>>,
  layout: Readonly<Ref<TopologyLayout | null>>,
  what: () => string,
) {
  const { width: room } = useElementSize(box, { width: 736, height: 0 })
  const byHand = ref<number | null>(null)
  const fitting = computed(() => room.value / (layout.value?.width ?? 1))
  const scale = computed(() => byHand.value ?? Math.max(LEAST_SCALE, Math.min(1, fitting.value)))
  watch(what, () => (byHand.value = null))

  /** Scales around a point of the window, so that what is under the pointer stays there. */
  function zoom(factor: number, x = room.value / 2, y = 0): void {
    const frame = box.value
    if (!frame) return
    const before = scale.value
    byHand.value = Math.max(FARTHEST, Math.min(NEAREST, before * factor))
    const grown = byHand.value / before
    const [left, top] = [(frame.scrollLeft + x) * grown - x, (frame.scrollTop + y) * grown - y]
    void nextTick(() => frame.scrollTo(left, top))
  }
  function wheel(event: WheelEvent): void {
    if (!event.ctrlKey && !event.metaKey) return
    event.preventDefault()
    const at = box.value?.getBoundingClientRect()
    zoom(event.deltaY > 0 ? 1 / 1.15 : 1.15, event.clientX - (at?.left ?? 0), event.clientY - (at?.top ?? 0))
  }
  /** Pulling the ground moves the picture; things on it keep their clicks. */
  function pull(event: PointerEvent): void {
    const frame = box.value
    if (!frame || event.button !== 0 || (event.target as Element).closest('[role="button"]')) return
    const start = { x: event.clientX + frame.scrollLeft, y: event.clientY + frame.scrollTop }
    const move = (e: PointerEvent) => frame.scrollTo(start.x - e.clientX, start.y - e.clientY)
    const end = () => {
      removeEventListener('pointermove', move)
      removeEventListener('pointerup', end)
    }
    addEventListener('pointermove', move)
    addEventListener('pointerup', end)
  }
  return { byHand, fitting, scale, zoom, wheel, pull }
}
