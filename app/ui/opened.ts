import type { Ref } from 'vue'

/** Whether something has been opened: a dialog is loaded when first asked for, and keeps what was chosen in it. */
export function useOpened(open: Readonly<Ref<boolean>>): Readonly<Ref<boolean>> {
  const opened = ref(open.value)
  watch(open, (isOpen) => (opened.value ||= isOpen), { flush: 'sync' })
  return opened
}
