import { it } from 'vitest'
import { down, type FailureScenario } from '#core/queries'
import { randomSite } from './parts'
import { compareWithKernel } from './twin'
const route = (prefix: string, via: string) => (p: any) =>
  void p.routes.push({ id: 'route0', deviceId: 'gate', prefix, via, metric: 0 })
const CASES: [string, any[], FailureScenario][] = [
  ['via box, cable down', [route('0.0.0.0/0', '10.9.20.10')], [down('sw.3-box.1')]],
  ['via box, well', [route('0.0.0.0/0', '10.9.20.10')], []],
]
it.each(CASES)(
  '%s',
  async (name, edits, scenario) => {
    const found = await compareWithKernel(randomSite(edits), scenario)
    console.log(
      name,
      found.differences.length,
      JSON.stringify([...new Set(found.differences.map((d) => `${d.from}>${d.to} engine ${d.engine}`))]),
    )
  },
  300000,
)
