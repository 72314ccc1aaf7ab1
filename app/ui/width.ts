/** Width of an element in pixels, followed as it changes. Until it is known, `otherwise`. */
export function useWidth(element: Readonly<Ref<HTMLElement | null>>, otherwise: number): Ref<number> {
  const width = ref(otherwise)
  let watcher: ResizeObserver | undefined
  watch(
    element,
    (now) => {
      watcher?.disconnect()
      if (!now) return
      watcher = new ResizeObserver(([entry]) => {
        if (entry && entry.contentRect.width > 0) width.value = entry.contentRect.width
      })
      watcher.observe(now)
    },
    { immediate: true, flush: 'post' },
  )
  onScopeDispose(() => watcher?.disconnect())
  return width
}
