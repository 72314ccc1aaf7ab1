// How this reader likes the frame: kept in the browser, told to nobody.

const read = (key: string, otherwise: string): string => {
  try {
    return localStorage.getItem(`mast-${key}`) ?? otherwise
  } catch {
    return otherwise
  }
}
const keep = (key: string, value: string): void => {
  try {
    localStorage.setItem(`mast-${key}`, value)
  } catch {
    // A browser that keeps nothing shows the usual frame next time.
  }
}

export const usePreferences = defineStore('looks', () => {
  const night = ref(read('watch', 'day') === 'night')
  const folded = ref(read('lookout', 'open') === 'folded')
  const drawer = ref<'none' | 'stages' | 'lookout'>('none')
  const dialog = ref<'none' | 'find' | 'help' | 'weather'>('none')
  watch(
    night,
    (on) => {
      document.documentElement.dataset['watch'] = on ? 'night' : 'day'
      keep('watch', on ? 'night' : 'day')
    },
    { immediate: true },
  )
  watch(folded, (on) => keep('lookout', on ? 'folded' : 'open'))
  return { night, folded, drawer, dialog }
})
