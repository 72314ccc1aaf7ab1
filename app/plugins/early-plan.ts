import { askEarly } from '~/stores/plan-preload'

// A site's page needs its plan first of all: it is asked for while the page's own parts are still on their
// way.
export default defineNuxtPlugin(() => {
  const [, slug] = /^\/sites\/([^/]+)\//.exec(location.pathname) ?? []
  if (slug) askEarly(slug)
})
