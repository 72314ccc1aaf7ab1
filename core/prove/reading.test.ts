import { gullhavenPlan } from '#server/demo/gullhaven'
import { describe, expect, it } from 'vitest'
import { isContradicted, readingKind, readingProblem, testsOf } from './index'

const plan = gullhavenPlan()
const tests = testsOf(plan)
const testOf = (id: string) => {
  const found = tests.find((test) => test.id === id)
  if (!found) throw new Error(`no test ${id}`)
  return found
}
const codeOf = (id: string, value: string) => readingProblem(plan, testOf(id), value)?.code ?? 'fits'

describe('a time that was measured', () => {
  const failover = { ...testOf('failover:fibre'), withinS: 106 }
  it.each([
    ['106 s', 'fits'],
    ['106.1 s', 'reading-too-late'],
    ['130 s', 'reading-too-late'],
    ['1 min', 'fits'],
    ['2min', 'reading-too-late'],
    ['400 ms', 'fits'],
    ['on the 5G after 16 s, back 75 s after it was well', 'fits'],
    ['130,5 s', 'reading-too-late'],
    ['0,5 s', 'fits'],
    ['1:30 min', 'no-reading'],
    ['-5 s', 'no-reading'],
    ['106', 'no-reading'],
    ['5G', 'no-reading'],
    ['', 'no-reading'],
  ])('of %s against 106 s: %s', (value, code) => {
    expect(readingProblem(plan, failover, value)?.code ?? 'fits').toBe(code)
  })
})

// The link of the demo by hand, in free space and cut by the rock: 13 - 0.5 + 23 - 118.0 + 23 - 0.5 less the edge.
describe('a level that was read', () => {
  const end = testOf('level:bridge-a.radio-bridge-b.radio:b')
  it.each([
    ['-61 dBm', 'fits'],
    ['−66.8 dBm', 'fits'],
    ['-67.1 dBm', 'reading-too-weak'],
    ['66 %', 'reading-too-weak'],
    ['70%', 'fits'],
    ['61', 'no-reading'],
    ['', 'no-reading'],
  ])('of %s where 6 dB less than -60.9 dBm are the least: %s', (value, code) => {
    expect(end.level?.leastDbm).toBe(-66.9)
    expect(readingProblem(plan, end, value)?.code ?? 'fits').toBe(code)
  })
})

// Voice is 10.61.4.0/24.
describe('an address that was taken', () => {
  const voice = plan.networks.find(({ id }) => id === 'voice')
  it.each([
    [voice?.pool?.from ?? '', 'fits'],
    [`${voice?.pool?.to}, answer in 4 ms`, 'fits'],
    [voice?.gateway ?? '', 'reading-not-leased'],
    ['10.61.1.44', 'reading-not-leased'],
    ['169.254.7.7', 'reading-not-leased'],
    ['10.61.4.300', 'no-reading'],
    [`${voice?.pool?.from}3333`, 'no-reading'],
    [`1${voice?.pool?.from}.1`, 'no-reading'],
    ['none', 'no-reading'],
  ])('%s: %s', (value, code) => {
    expect(codeOf('lease:voice', value)).toBe(code)
  })

  it('may be reserved for somebody, outside the pool', () => {
    const reserved = plan.networks.flatMap(({ id, dhcp, fixed }) =>
      dhcp === 'serve'
        ? fixed.filter(({ how }) => how === 'reserved').map(({ ip }) => [id, ip] as const)
        : [],
    )
    const tried = reserved.filter(([id]) => tests.some((test) => test.id === `lease:${id}`))
    expect(tried.length).toBeGreaterThan(0)
    for (const [id, ip] of tried) expect(codeOf(`lease:${id}`, ip)).toBe('fits')
  })
})

describe('what is seen and not measured', () => {
  it('has no reading to judge', () => {
    const seen = tests.filter((test) => readingKind(test) === null)
    expect(new Set(seen.map(({ kind }) => kind))).toEqual(new Set(['passes', 'nothing-else']))
    for (const test of seen) expect(readingProblem(plan, test, '')).toBeNull()
  })

  it('and a text without a reading contradicts nothing', () => {
    expect(isContradicted(plan, testOf('lease:voice'), 'address from the pool')).toBe(false)
    expect(isContradicted(plan, testOf('lease:voice'), '10.61.1.44')).toBe(true)
  })
})
