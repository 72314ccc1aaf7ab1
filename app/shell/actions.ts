/** What can be asked for by name from anywhere; the sheet that has its button does it. */
export type ActionId =
  | 'add-network'
  | 'assign-subnets'
  | 'import-networks'
  | 'reserve-address'
  | 'add-device'
  | 'add-ssid'
  | 'set-ports'
  | 'mend-trunks'
  | 'add-uplink'
  | 'add-port-forward'
  | 'add-tunnel'
  | 'import-tunnel'
  | 'add-rule'
  | 'add-intent'
  | 'import-equipment'
  | 'name-people'

const asked = ref<ActionId | null>(null)

/** Asks for an action; whoever asks goes to its sheet. */
export const askFor = (action: ActionId): void => void (asked.value = action)

/** Does actions of a sheet that were asked for, once the sheet is there. */
export function useActions(actions: Partial<Readonly<Record<ActionId, () => unknown>>>): void {
  watch(
    asked,
    async (action) => {
      const act = action && actions[action]
      if (!act) return
      asked.value = null
      await nextTick()
      await act()
    },
    { immediate: true },
  )
}
