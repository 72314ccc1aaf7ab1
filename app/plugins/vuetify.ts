import { createVuetify } from 'vuetify'
import { THEMES } from '~/theme/colours'
import { aliases, mdi } from 'vuetify/iconsets/mdi-svg'
import { cspNonce } from '~/ui/csp-nonce'

/** A field as on the chart: a ruled box with its name in the rule. */
const FIELD = {
  variant: 'outlined',
  density: 'compact',
  color: 'primary',
  rounded: 'sm',
  hideDetails: 'auto',
}

// The chart-paper look as a theme of Vuetify, with what each component is by itself.
export default defineNuxtPlugin((nuxt) => {
  nuxt.vueApp.use(
    createVuetify({
      display: { mobileBreakpoint: 900 },
      icons: { defaultSet: 'mdi', aliases, sets: { mdi } },
      theme: { defaultTheme: 'day', themes: THEMES, cspNonce: cspNonce() },
      defaults: {
        VTabs: { density: 'compact', color: 'primary', height: 34 },
        VTable: { density: 'compact' },
        VExpansionPanels: { variant: 'accordion', elevation: 0, rounded: 'sm', flat: true },
        VTextarea: FIELD,
        VFileInput: FIELD,
        VNavigationDrawer: { elevation: 0, border: 0 },
        VDialog: { transition: false, scrim: '#1E2A33' },
        VMenu: { transition: false },
        VSnackbar: { transition: false, rounded: 'sm', variant: 'flat' },
        VBtn: { variant: 'outlined', color: 'primary', size: 'small', ripple: false, rounded: 'sm' },
        VAlert: { variant: 'tonal', density: 'compact', rounded: 0, border: 'start' },
        VTextField: FIELD,
        VSelect: FIELD,
        VAutocomplete: FIELD,
        VCombobox: FIELD,
        VCheckbox: { density: 'compact', hideDetails: 'auto', color: 'primary' },
        VSlider: { color: 'primary', density: 'compact', hideDetails: true, thumbSize: 18, elevation: 0 },
        VSwitch: {
          size: 'x-small',
          density: 'compact',
          hideDetails: 'auto',
          color: 'primary',
          inset: true,
          ripple: false,
        },
        VRadioGroup: { density: 'compact', hideDetails: 'auto', color: 'primary' },
      },
    }),
  )
})
