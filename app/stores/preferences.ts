import { useLocalStorage } from '@vueuse/core'

/** How this reader likes the frame: kept in the browser, told to nobody. */
export const usePreferences = defineStore('looks', () => {
  const theme = useLocalStorage<'day' | 'night'>('mast-watch', 'day')
  const lookout = useLocalStorage<'open' | 'folded'>('mast-lookout', 'open')
  const night = computed({
    get: () => theme.value === 'night',
    set: (on) => (theme.value = on ? 'night' : 'day'),
  })
  const folded = computed({
    get: () => lookout.value === 'folded',
    set: (on) => (lookout.value = on ? 'folded' : 'open'),
  })
  const drawer = ref<'none' | 'stages' | 'lookout'>('none')
  const dialog = ref<'none' | 'find' | 'help' | 'weather'>('none')
  return { night, folded, drawer, dialog }
})
