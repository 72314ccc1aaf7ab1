import { diagnose } from '#core/diagnose'
import { remediesFor } from '#core/remedy'
import type { DiagnoseAnswer, DiagnoseRequest } from '#contracts/worker'

// One diagnosis, or one search for a remedy, then the worker is done with; who does not want to wait ends it.

const say = (answer: DiagnoseAnswer) => postMessage(answer)

addEventListener('message', (event: MessageEvent<DiagnoseRequest>) => {
  const request = event.data
  let told = 0
  try {
    if (request.kind === 'remedy')
      return say({
        kind: 'remedies',
        remedies: remediesFor(request.plan, request.intentId, request.scenario),
      })
    const { plan, observed, facts, ignore } = request
    const diagnosis = diagnose(plan, observed, facts, ignore, (tried, of) => {
      if (performance.now() - told < 60) return
      told = performance.now()
      say({ kind: 'progress', tried, of })
    })
    say({ kind: 'diagnosed', diagnosis })
  } catch (error) {
    say({ kind: 'defect', message: error instanceof Error ? error.message : 'unknown' })
  }
})
