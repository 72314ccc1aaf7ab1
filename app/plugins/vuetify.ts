import { createVuetify } from 'vuetify'
import { aliases, mdi } from 'vuetify/iconsets/mdi-svg'

/** A field as on the chart: a ruled box with its name in the rule. */
const FIELD = {
  variant: 'outlined',
  density: 'compact',
  color: 'primary',
  rounded: 'sm',
  hideDetails: 'auto',
}

// Vuetify draws dialogs, menus and overlays; colours and type are the chart's own (app/theme).
export default defineNuxtPlugin((nuxt) => {
  nuxt.vueApp.use(
    createVuetify({
      icons: { defaultSet: 'mdi', aliases, sets: { mdi } },
      theme: {
        defaultTheme: 'day',
        themes: {
          day: {
            dark: false,
            colors: {
              background: '#F5F0E4',
              surface: '#FCFAF4',
              primary: '#0E5A66',
              error: '#A32D1E',
              warning: '#9A6A00',
              success: '#2C6A49',
              info: '#0E5A66',
            },
          },
          night: {
            dark: true,
            colors: {
              background: '#10181F',
              surface: '#17222B',
              primary: '#74C6D3',
              error: '#F2958A',
              warning: '#DFAE45',
              success: '#82CDA6',
              info: '#74C6D3',
            },
          },
        },
      },
      defaults: {
        VDialog: { transition: false, scrim: '#1E2A33' },
        VMenu: { transition: false },
        VBtn: { variant: 'outlined', color: 'primary', size: 'small', ripple: false, rounded: 'sm' },
        VAlert: { variant: 'tonal', density: 'compact', rounded: 0, border: 'start' },
        VTextField: FIELD,
        VSelect: FIELD,
        VAutocomplete: FIELD,
        VCombobox: FIELD,
        VCheckbox: { density: 'compact', hideDetails: 'auto', color: 'primary' },
        VRadioGroup: { density: 'compact', hideDetails: 'auto', color: 'primary' },
      },
    }),
  )
})
