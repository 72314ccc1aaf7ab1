import { findingKey, type Finding } from '#core/findings'
import { useAnalysis } from '~/stores/analysis'

/** Path of the field that somebody was sent to; sheets show and focus it. */
const place = shallowRef<readonly string[]>([])
const at = ref('')
/** Where the way to the field leads; going anywhere else forgets it. */
let towards = ''

/** The sheet that has the field which a finding is about. */
function sheetOf({ place: [list, , part], sheet }: Finding): string {
  if (list === 'devices' && sheet === 'addresses') return 'loom'
  return list === 'uplinks' && part === 'facts' ? 'brief' : sheet
}

/** Sends the reader from a finding to the field it is about. */
export function usePointer() {
  const route = useRoute()
  const router = useRouter()
  const analysis = useAnalysis()

  async function lead(sheet: string, path: readonly string[], key: string): Promise<void> {
    at.value = key
    place.value = []
    towards = `/sites/${String(route.params['site'])}/${sheet}`
    if (route.path !== towards) await router.push(towards)
    place.value = [...path]
  }
  const goTo = (finding: Finding) => lead(sheetOf(finding), finding.place, findingKey(finding))
  /** Goes to a field of a sheet, by its path in the plan. */
  const goToPlace = (sheet: string, path: readonly string[]) => lead(sheet, path, '')

  /** The next finding (1) or the previous one (-1) in the Lookout's order. */
  async function step(by: 1 | -1): Promise<void> {
    const findings = analysis.analysis?.findings ?? []
    if (findings.length === 0) return
    const now = findings.findIndex((f) => findingKey(f) === at.value)
    // From nowhere the way back begins at the last.
    const from = now === -1 && by === -1 ? findings.length : now
    const next = findings[(from + by + findings.length) % findings.length]
    if (next) await goTo(next)
  }

  /** Called when another sheet is opened. */
  function arrive(path: string): void {
    if (path !== towards) place.value = []
    towards = ''
  }

  return { place, at, goTo, goToPlace, step, arrive }
}
