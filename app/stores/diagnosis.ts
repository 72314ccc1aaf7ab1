import type { Diagnosis, Fact } from '#core/diagnose'

export type SeenTest = 'passed' | 'failed' | 'unknown'

/** What was said on Diagnose, so that a look at another sheet loses nothing. It is not stored. */
export const useDiagnosis = defineStore('diagnosis', () => {
  const slug = ref('')
  const changed = shallowRef<ReadonlyMap<string, SeenTest>>(new Map())
  const facts = shallowRef<readonly Fact[]>([])
  const ignore = ref(0)
  const found = shallowRef<Diagnosis | null>(null)
  function open(site: string): void {
    if (slug.value === site) return
    slug.value = site
    changed.value = new Map()
    facts.value = []
    ignore.value = 0
    found.value = null
  }
  return { changed, facts, ignore, found, open }
})
