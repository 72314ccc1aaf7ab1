import { findingKey, type Finding } from '#core/findings'
import { useAnalysis } from '~/stores/analysis'

/** Path of the field that somebody was sent to; sheets show and focus it. */
const place = shallowRef<readonly string[]>([])
const at = ref('')
/** Where the way to the field leads; going anywhere else forgets it. */
let towards = ''

/** Sends the reader from a finding to the field it is about. */
export function usePointer() {
  const route = useRoute()
  const router = useRouter()
  const analysis = useAnalysis()

  async function goTo(finding: Finding): Promise<void> {
    at.value = findingKey(finding)
    place.value = []
    const ofDevice = finding.place[0] === 'devices' && finding.sheet === 'addresses'
    const path = `/sites/${String(route.params['site'])}/${ofDevice ? 'loom' : finding.sheet}`
    towards = path
    if (route.path !== path) await router.push(path)
    place.value = [...finding.place]
  }

  /** The next finding (1) or the previous one (-1) in the Lookout's order. */
  async function step(by: 1 | -1): Promise<void> {
    const findings = analysis.analysis?.findings ?? []
    if (findings.length === 0) return
    const now = findings.findIndex((f) => findingKey(f) === at.value)
    const next = findings[(now + by + findings.length) % findings.length] ?? findings[0]
    if (next) await goTo(next)
  }

  /** Called when another sheet is opened. */
  function arrive(path: string): void {
    if (path !== towards) place.value = []
    towards = ''
  }

  return { place, at, goTo, step, arrive }
}
