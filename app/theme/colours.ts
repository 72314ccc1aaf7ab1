// The colours of both watches, once: Vuetify's components and our own drawings read them.
// Every text pair reaches WCAG AA (4.5 to 1).

const DAY = {
  background: '#f5f0e4',
  surface: '#fcfaf4',
  'on-background': '#1e2a33',
  'on-surface': '#1e2a33',
  soft: '#525e67',
  line: '#cbbf9f',
  hair: '#e5dcc4',
  shallow: '#d6e6ea',
  primary: '#0e5a66',
  'on-primary': '#fcfaf4',
  info: '#0e5a66',
  'on-deep': '#fcfaf4',
  magenta: '#a1195c',
  warning: '#9a6a00',
  'ochre-text': '#7a5400',
  error: '#a32d1e',
  success: '#2c6a49',
  trouble: '#fae9e2',
  plum: '#6b3a7a',
  blue: '#3a5fa0',
  umber: '#6a4a2a',
}

const NIGHT: Readonly<Record<keyof typeof DAY, string>> = {
  background: '#10181f',
  surface: '#17222b',
  'on-background': '#e9e2d0',
  'on-surface': '#e9e2d0',
  soft: '#a9b3b9',
  line: '#4f5b64',
  hair: '#2b3843',
  shallow: '#1f3b44',
  primary: '#74c6d3',
  'on-primary': '#10181f',
  info: '#74c6d3',
  'on-deep': '#10181f',
  magenta: '#f393c3',
  warning: '#dfae45',
  'ochre-text': '#dfae45',
  error: '#f2958a',
  success: '#82cda6',
  trouble: '#3a2423',
  plum: '#c79ad6',
  blue: '#92b3ec',
  umber: '#cfa57a',
}

export const THEMES = {
  day: { dark: false, colors: DAY },
  night: { dark: true, colors: NIGHT },
} as const
