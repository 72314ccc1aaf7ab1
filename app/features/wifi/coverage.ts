// Signal on floors, from a worker: the last plan that was asked of is the one that is answered.
import type { CoverageAnswer, CoverageRequest } from '#contracts/worker'

type Coverage = Extract<CoverageAnswer, { kind: 'coverage' }>

/** The last answer; null until there is one. While a plan is dragged, those in between are left out. */
export function useCoverage(request: () => Omit<CoverageRequest, 'number'>) {
  const coverage = shallowRef<Coverage | null>(null)
  const failure = ref('')
  let worker: Worker | undefined
  let [asked, isBusy, isWaiting] = [0, false, false]
  function ask(): void {
    worker ??= begun()
    isWaiting = isBusy
    if (isBusy) return
    isBusy = true
    // What is reactive cannot be sent.
    worker.postMessage(JSON.parse(JSON.stringify({ ...request(), number: ++asked })))
  }
  function begun(): Worker {
    const made = new Worker(new URL('../../workers/coverage.worker.ts', import.meta.url), { type: 'module' })
    made.onmessage = ({ data }: MessageEvent<CoverageAnswer>) => {
      isBusy = false
      if (data.kind === 'coverage') coverage.value = data
      failure.value = data.kind === 'defect' ? data.message : ''
      if (isWaiting) ask()
    }
    made.onerror = ({ message }) => {
      isBusy = false
      failure.value = message || 'unknown'
    }
    return made
  }
  watch(request, ask, { immediate: true })
  onBeforeUnmount(() => worker?.terminate())
  return { coverage, failure }
}
