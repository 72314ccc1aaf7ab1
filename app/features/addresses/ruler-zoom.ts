import type { Prefix4 } from '#core/address'
import type { Ref } from 'vue'
import { panned, wholeOf, zoomed, type RulerView } from './ruler-view'

/** How much of a block is in view, moved by buttons and by the wheel. */
export function useRulerZoom(block: Readonly<Ref<Prefix4 | null>>, width: Readonly<Ref<number>>) {
  const wanted = shallowRef<RulerView | null>(null)
  const view = computed(
    (): RulerView => wanted.value ?? (block.value ? wholeOf(block.value) : { from: 0, size: 1 }),
  )
  watch(
    () => block.value && `${block.value.base}/${block.value.length}`,
    () => (wanted.value = null),
  )
  const addressAt = (px: number): number => view.value.from + (px / width.value) * view.value.size
  function zoom(factor: number, at = view.value.from + view.value.size / 2): void {
    if (block.value) wanted.value = zoomed(block.value, view.value, at, factor)
  }
  function wheel(event: WheelEvent): void {
    if (!block.value || !(event.ctrlKey || event.metaKey || event.shiftKey)) return
    event.preventDefault()
    const left = (event.currentTarget as SVGElement).getBoundingClientRect().left
    if (event.shiftKey)
      wanted.value = panned(
        block.value,
        view.value,
        ((event.deltaY || event.deltaX) / width.value) * view.value.size,
      )
    else zoom(event.deltaY > 0 ? 1.5 : 1 / 1.5, addressAt(event.clientX - left))
  }
  return { wanted, view, addressAt, zoom, wheel }
}
