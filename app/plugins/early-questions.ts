import { askEarly } from '~/stores/early-answers'
import { lastFieldSite } from '~/stores/field-site'
import { FOR_ANYBODY } from '~/stores/session'
import { thisTab } from '~/stores/tab'

// Before the router loads the parts of the page: the installed application opens at the cards of the site that was
// worked on last, and what a page needs first is asked for while its parts are on their way.
export default defineNuxtPlugin({
  order: -50,
  setup() {
    const last = lastFieldSite().value
    if (location.pathname === '/field' && last !== '')
      history.replaceState(null, '', `/sites/${encodeURIComponent(last)}/field-cards`)
    if (!FOR_ANYBODY.includes(location.pathname)) askEarly('me')
    const [, slug] = /^\/sites\/([^/]+)\//.exec(location.pathname) ?? []
    if (!slug) return
    askEarly(`sites/${slug}/plan`)
    void thisTab()
  },
})
