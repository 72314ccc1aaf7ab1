import type { Ref } from 'vue'

/** What was in focus before something opened over it is in focus again when that has closed. */
export function useFocusReturn(open: Readonly<Ref<boolean>>): void {
  let before: Element | null = null
  const giveBack = () => {
    const element = before
    before = null
    // A row that was removed meanwhile takes no focus.
    if (element instanceof HTMLElement && element.isConnected) element.focus()
  }
  watch(
    open,
    (now) => {
      if (now) before = document.activeElement
      else void nextTick(giveBack)
    },
    { immediate: true, flush: 'sync' },
  )
  onBeforeUnmount(giveBack)
}
