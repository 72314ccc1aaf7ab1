import { levelGrid, roomSignals } from '#core/wifi'
import type { CoverageAnswer, CoverageRequest } from '#contracts/worker'

// Signal on floors; one request after the other.

const say = (answer: CoverageAnswer) => postMessage(answer)

addEventListener('message', ({ data }: MessageEvent<CoverageRequest>) => {
  const { number, floors, shown } = data
  try {
    const [drawn] = floors.filter(({ key }) => key === shown)
    const signals = floors.flatMap(({ floor, emitters, stepM }) => roomSignals(floor, emitters, stepM))
    const grid = drawn ? levelGrid(drawn.floor, drawn.emitters, drawn.stepM) : null
    say({ kind: 'coverage', number, shown, grid, signals })
  } catch (error) {
    say({ kind: 'defect', number, message: error instanceof Error ? error.message : 'unknown' })
  }
})
