import { useLocalStorage } from '@vueuse/core'

/** The site whose cards were opened last on this device; empty before any was. */
export const lastFieldSite = () => useLocalStorage('field-site', '')
