// What a run of the twin has judged: cells, how many of them are distinct, and which mechanisms their plans had.
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import type { FailureScenario } from '#core/queries'
import type { Plan } from '#core/schema'
import type { Comparison } from './compare'
import { MechanismTable, type How } from './mechanisms'

const PAGE = join(import.meta.dirname, '../../docs/kernel-twin.md')
const share = (part: number, whole: number): string => `${((100 * part) / Math.max(1, whole)).toFixed(1)} %`

export class TwinRecord {
  private readonly table = new MechanismTable()
  private readonly plans = new Map<string, number>()
  /** Of one plan the same cell with the same answer counts once, under whatever failure. */
  private readonly distinct = new Set<string>()
  private runs = 0
  private cells = 0
  private passing = 0
  private passingDistinct = 0
  private silent = 0
  private lost = 0

  /** `lost`: cells that differed when they were asked first. */
  add(plan: Plan, scenario: FailureScenario, found: Comparison, how: How, lost: number): void {
    const text = JSON.stringify(plan)
    const number = this.plans.get(text) ?? this.plans.size
    this.plans.set(text, number)
    for (const answer of found.answers) {
      const before = this.distinct.size
      this.distinct.add(`${number} ${answer}`)
      if (this.distinct.size > before && answer.endsWith(' true')) this.passingDistinct++
    }
    this.table.add(plan, scenario, how)
    this.runs++
    this.cells += found.cells
    this.passing += found.passing
    this.silent += found.silent.length
    this.lost += lost
  }

  private get lines(): string[] {
    const { runs, plans, cells, passing, distinct, passingDistinct, silent, lost } = this
    return [
      `${runs} twins of ${plans.size} plans; ${silent} hosts without an address.`,
      `${cells} cells, of which ${share(passing, cells)} pass.`,
      `${distinct.size} distinct cells (plan, ends, service and answer), of which ` +
        `${share(passingDistinct, distinct.size)} pass.`,
      `${lost} cells differed when they were asked first, none when the same twin was asked again with more time.`,
    ]
  }

  /** Prints what was judged; writes it down where the run was asked to. */
  tell(): void {
    const { never, rows } = this.table
    console.log(`kernel twin: ${this.lines.join(' ')}`)
    if (never.length > 0) console.log(`kernel twin: never judged: ${never.join(', ')}`)
    if (!process.env['MAST_TWIN_WRITE']) return
    const table = rows.map(([name, byHand, byChance]) => `| ${name} | ${byHand} | ${byChance} |`)
    const page = [
      '# What the kernel twin judged',
      '',
      'Written by `./mast twin`. A twin counts once for each mechanism that its plan has.',
      '',
      ...this.lines.map((line) => `- ${line}`),
      '',
      '| Mechanism | By hand | By chance |',
      '| --- | ---: | ---: |',
      ...table,
      '',
    ]
    writeFileSync(PAGE, page.join('\n'))
  }
}
