import type { Ref, WritableComputedRef } from 'vue'

/** Whether something has been opened: a dialog is loaded when first asked for, and keeps what was chosen in it. */
export function useOpened(open: Readonly<Ref<boolean>>): Readonly<Ref<boolean>> {
  const opened = ref(open.value)
  watch(open, (isOpen) => (opened.value ||= isOpen), { flush: 'sync' })
  return opened
}

/** Whether a dialog is open about something that was chosen; closing it chooses nothing. */
export const openAbout = <Thing>(chosen: Ref<Thing | null>): WritableComputedRef<boolean> =>
  computed({ get: () => chosen.value !== null, set: () => (chosen.value = null) })
