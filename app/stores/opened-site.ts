import { usePlan } from './plan'
import { useSite } from './site'

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
