import { usePlan } from './plan'
import { useSite } from './site'

/**
 * What this browser kept, or a near server answers, is waited for so long before anything is drawn: a telephone takes
 * most of a second to draw a frame without it first.
 */
export const WAITED_MS = 500

/** The site of the page's address: its plan is opened and its news are heard while the page is there. */
export function useOpenedSite() {
  const route = useRoute()
  const plan = usePlan()
  const site = useSite()
  const slug = computed(() => String(route.params['site']))
  watch(
    slug,
    async (wanted) => {
      await plan.open(wanted)
      if (plan.loading === 'no') site.watchSite(wanted)
    },
    { immediate: true },
  )
  onBeforeUnmount(() => site.leave())
  return slug
}
