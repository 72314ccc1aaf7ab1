import fc from 'fast-check'
import fastJsonPatch from 'fast-json-patch'
import { describe, expect, it } from 'vitest'
import { PLAN_VERSION } from '#core/format'
import { largePlan } from '../tests/large'
import { inOldWords } from '../tests/fixtures/old-words'
import { base, site, the } from '../tests/plans'
import { gullhavenClean, gullhavenPlan } from '#server/demo/gullhaven'
import { patchOpSchema, savePlanSchema } from './api'
import { getBootstrappingDataSchema, reportProgressSchema } from './bootstrap'
import { patchBetween } from './patch'
import { aPeer, aTunnel } from '../tests/fixtures/tunnels'
import { MOST_PLAN_BYTES, MOST_ZONES, parsePlan, parsePlanText, planToText } from './plan'

const told = (result: ReturnType<typeof parsePlan>) =>
  result.ok ? [] : result.problems.map((p) => `${p.place}: ${p.code}`)

describe('a site file', () => {
  it.each([
    ['Gullhaven', gullhavenPlan()],
    ['the clean copy', gullhavenClean()],
    ['the small site', base()],
  ])('of %s, written and read, is the same plan and the same bytes', (_, plan) => {
    const read = parsePlanText(planToText(plan))
    expect(read).toEqual({ ok: true, value: plan })
    expect(read.ok && planToText(read.value)).toBe(planToText(plan))
  })

  it('of a site of 100,000 addresses can leave as a file and come back', () => {
    const plan = largePlan({ switches: 100, portsEach: 20, networks: 64, fixedEach: 1560 })
    const text = planToText(plan)
    expect(text.length).toBeLessThan(MOST_PLAN_BYTES)
    expect(parsePlanText(text)).toEqual({ ok: true, value: plan })
  })

  it('of a newer version is refused with both versions', () => {
    expect(parsePlan({ ...base(), version: PLAN_VERSION + 1 })).toEqual({
      ok: false,
      problems: [
        {
          code: 'newer-version',
          place: 'version',
          values: { version: PLAN_VERSION + 1, known: PLAN_VERSION },
        },
      ],
    })
  })

  it('names the place of everything wrong', () => {
    const plan = site((plan) => {
      the(plan.networks, 'staff').gateway = '10.61.2.300'
      the(plan.networks, 'servers').subnet = '10.9.20.1/24'
      the(plan.networks, 'servers').vlan = 5000
    })
    expect(told(parsePlan(plan))).toEqual([
      'networks[1].gateway: not-ipv4',
      'networks[2].vlan: not-allowed',
      'networks[2].subnet: not-prefix',
    ])
  })

  it('is refused for fields it does not know, ids used twice and ids that could confuse', () => {
    expect(told(parsePlan({ ...base(), extra: 1 }))).toEqual([': not-allowed'])
    expect(
      told(parsePlan(site((p) => void p.networks.push(structuredClone(the(p.networks, 'staff')))))),
    ).toEqual(['networks[3].id: id-twice'])
    const twice = site((plan) => {
      const { fixed } = the(plan.networks, 'servers')
      fixed.push({ ...structuredClone(fixed[0]!), ip: '10.9.20.11' })
    })
    expect(told(parsePlan(twice))).toEqual(['networks[2].fixed[1].id: id-twice'])
    // A failure scenario names a thing by its id alone.
    const shared = site((p) => void (the(p.uplinks, 'line').id = 'desk'))
    expect(told(parsePlan(shared))).toEqual(['uplinks[0].id: id-twice'])
    const mapped = gullhavenClean()
    const [tunnel, ...others] = mapped.tunnels
    const map = { id: 'map-1', inside: '10.61.1.0/24', outside: '10.99.1.0/24' }
    expect(told(parsePlan({ ...mapped, tunnels: [{ ...tunnel, mapped: [map, map] }, ...others] }))).toContain(
      'tunnels[0].mapped[1].id: id-twice',
    )
    expect(told(parsePlan(site((p) => void (the(p.networks, 'staff').id = '__proto__'))))).toEqual([
      'networks[1].id: not-allowed',
    ])
  })

  it.each([
    ['{', ': not-json'],
    ['null', ': not-a-plan'],
    ['[]', ': not-a-plan'],
    ['{"format":"other","version":1}', 'format: not-a-plan'],
  ])('%s is refused', (text, problem) => {
    expect(told(parsePlanText(text))).toEqual([problem])
  })

  it('too large is refused by its size, before it is read', () => {
    expect(told(parsePlanText('x'.repeat(MOST_PLAN_BYTES + 1)))).toEqual([': too-large'])
  })

  it('has so many networks and peers at most, since each meets each', () => {
    const peopled = (count: number) =>
      site((plan) => {
        const peers = Array.from({ length: count }, (_, i) => aPeer({ id: `p${i}`, name: `Peer ${i}` }))
        plan.tunnels.push({ ...aTunnel({ id: 'wg' }), peers })
      })
    const most = MOST_ZONES - base().networks.length
    expect(told(parsePlan(peopled(most)))).toEqual([])
    expect(told(parsePlan(peopled(most + 1)))).toEqual(['networks: too-many-zones'])
  })

  it('garbage never throws', () => {
    fc.assert(
      fc.property(fc.json(), (text) => {
        expect(parsePlanText(text).ok).toBe(false)
      }),
    )
    fc.assert(
      fc.property(fc.object(), (junk) => {
        expect(parsePlan({ ...base(), ...junk, networks: junk }).ok).toBe(false)
      }),
    )
  })
})

describe('a plan of version 3', () => {
  it('is read as one of today that says no more: no delegated prefix, no logging rule, no IPsec', () => {
    const { ipsec: _ipsec, ...rest } = inOldWords(base())
    const old = {
      ...rest,
      version: 3,
      uplinks: rest.uplinks.map(({ facts: { delegated6: _six, ...facts }, ...u }) => ({ ...u, facts })),
      policies: base().policies.map((p) => ({ ...p, rules: p.rules.map(({ log: _log, ...r }) => r) })),
    }
    expect(parsePlan(old)).toEqual({ ok: true, value: base() })
  })
})

describe('a patch between two documents', () => {
  // fast-json-patch applies it: an independent reading of RFC 6902.
  it('turns the one into the other, whatever they are, and says nothing of what both share', () => {
    // Through JSON first: it knows no negative zero.
    // The other reader refuses keys that could reach an object's prototype, as it should.
    const inner = fc
      .jsonValue({ maxDepth: 3 })
      .map((value) => JSON.stringify(value))
      .filter((text) => !/__proto__|prototype/.test(text))
      .map((text) => JSON.parse(text) as unknown)
    fc.assert(
      fc.property(inner, inner, inner, (first, second, shared) => {
        const [before, after] = [
          { 'a/b': first, shared, list: [shared, first, second] },
          { 'a/b': second, shared, list: [shared, second, second] },
        ]
        const patch = patchBetween(before, after)
        expect(
          fastJsonPatch.applyPatch(JSON.parse(JSON.stringify(before)), structuredClone(patch), true)
            .newDocument,
        ).toEqual(after)
        expect(
          patch.filter(
            (op) =>
              op.path.startsWith('/shared') || op.path.startsWith('/list/0') || op.path.startsWith('/list/2'),
          ),
        ).toEqual([])
      }),
    )
  })

  it('of one edit is one operation', () => {
    const before = gullhavenPlan()
    expect(patchBetween(before, { ...before, site: { ...before.site, name: 'X' } })).toEqual([
      { op: 'replace', path: '/site/name', value: 'X' },
    ])
    expect(patchBetween(before, { ...before, networks: before.networks.slice(0, -1) })).toEqual([
      { op: 'remove', path: `/networks/${before.networks.length - 1}` },
    ])
  })
})

describe('messages', () => {
  it('a save is a base revision and a patch of adds, replacements and removals', () => {
    const patch = [{ op: 'replace', path: '/site/name', value: 'x' }]
    expect(savePlanSchema.safeParse({ baseRevision: 1, patch, words: '' }).success).toBe(true)
    for (const bad of [
      { patch, words: '' },
      { baseRevision: 0, patch, words: '' },
      { baseRevision: 1, patch: [], words: '' },
      { baseRevision: 1, patch, words: '', extra: 1 },
    ])
      expect(savePlanSchema.safeParse(bad).success).toBe(false)
    for (const op of ['move', 'copy', 'test', '_get'])
      expect(patchOpSchema.safeParse({ op, path: '/a', from: '/b', value: 1 }).success).toBe(false)
  })

  // RFC 8572 appendix B.1 and section 7.3 give these request bodies;
  // RFC 7951 section 6.9 writes `empty` as [null].
  it('the bootstrap requests are RFC 7951 JSON', () => {
    expect(
      getBootstrappingDataSchema.safeParse({
        'ietf-sztp-bootstrap-server:input': {
          'signed-data-preferred': [null],
          'hw-model': 'A2X',
          'os-version': '5.2.0',
        },
      }).success,
    ).toBe(true)
    expect(
      getBootstrappingDataSchema.safeParse({
        'ietf-sztp-bootstrap-server:input': { 'signed-data-preferred': true },
      }).success,
    ).toBe(false)
    expect(
      reportProgressSchema.safeParse({
        'ietf-sztp-bootstrap-server:input': { 'progress-type': 'bootstrap-complete' },
      }).success,
    ).toBe(true)
    expect(
      reportProgressSchema.safeParse({ 'ietf-sztp-bootstrap-server:input': { 'progress-type': 'done' } })
        .success,
    ).toBe(false)
  })
})
