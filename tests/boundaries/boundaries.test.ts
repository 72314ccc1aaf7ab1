import { execFileSync } from 'node:child_process'
import { describe, expect, it } from 'vitest'

interface Report {
  readonly summary: {
    readonly violations: readonly { readonly rule: { readonly name: string }; readonly from: string }[]
    readonly totalCruised: number
  }
}

function cruise(roots: readonly string[], env: Record<string, string> = {}): Report {
  const args = [
    'node_modules/dependency-cruiser/bin/dependency-cruise.mjs',
    ...roots,
    '--output-type',
    'json',
  ]
  try {
    return JSON.parse(
      execFileSync(process.execPath, args, {
        env: { ...process.env, ...env },
        encoding: 'utf8',
        maxBuffer: 1e8,
        stdio: ['ignore', 'pipe', 'ignore'],
      }),
    ) as Report
  } catch (error) {
    return JSON.parse((error as { stdout: string }).stdout) as Report
  }
}

describe('import rules', () => {
  it('hold in the product, and all of it is looked at', () => {
    const { summary } = cruise(['core', 'contracts', 'server', 'app'])
    expect(summary.violations).toEqual([])
    expect(summary.totalCruised).toBeGreaterThan(180)
  }, 60_000)

  it('catch a deliberate violation of each kind', () => {
    const { summary } = cruise(['tests/boundaries/canary'], { CANARY: '1' })
    const met = new Set(summary.violations.map((v) => v.rule.name))
    const wanted = [
      'no-cycle',
      'unresolved',
      'core-is-pure',
      'core-by-the-door',
      'doors-only',
      'core-order-address',
      'contracts-use-data-packages-only',
      'app-never-server',
      'api-calls-services',
      'services-call-repo',
      'repo-holds-sql',
      'sql-only-in-repo',
      'workers-no-vue',
    ]
    expect(wanted.filter((name) => !met.has(name))).toEqual([])
  }, 60_000)
})
