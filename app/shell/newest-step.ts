import { usePlan } from '~/stores/plan'
import type { Step } from '~/stores/steps'

/** The step that one press has just made; null after an undo, and while something is typed into a cell. */
export function useNewestStep(): Readonly<Ref<Step | null>> {
  const plan = usePlan()
  const newest = shallowRef<Step | null>(null)
  watch(
    () => [plan.slug, plan.done] as const,
    ([slug, done], [slugBefore, before]) => {
      const last = done.at(-1)
      // Steps that came with a site that was opened were made some other time.
      const isMade = slug === slugBefore && plan.undone.length === 0 && done.length >= before.length
      newest.value = isMade && last && last !== before.at(-1) && last.session === '' ? last : null
    },
  )
  return newest
}
