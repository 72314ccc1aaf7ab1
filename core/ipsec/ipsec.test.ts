import { describe, expect, it } from 'vitest'
import { ipsecEnd } from '#server/demo/build'
import type { IpsecEnd, IpsecSuite } from '#core/schema'
import { adviceFor, ENCRYPTION, INTEGRITY, PRF, termsOf } from '.'

const ours = ipsecEnd('a.example', '198.51.100.1', ['10.1.0.0/16'], true)
const theirs = ipsecEnd('b.example', '198.51.100.2', ['10.2.0.0/16'], false)
const with_ = (first: Partial<IpsecEnd>, second: Partial<IpsecEnd> = {}) =>
  termsOf({ ours: { ...ours, ...first }, theirs: { ...theirs, ...second } })
const kinds = (terms: ReturnType<typeof with_>) =>
  terms.disagreements.map((d) => (d.kind === 'no-common' ? `${d.use} ${d.what}` : d.kind))
const suite = (more: Partial<IpsecSuite>): IpsecSuite => ({ ...ours.ike, ...more })

// RFC 7296 section 2.7: of each kind of transform one that both sides have; combined algorithms need none for
// integrity (RFC 5282).
describe('the terms of two ends', () => {
  it('are the first of what the opening end offers that the other takes', () => {
    expect(with_({}).agreed).toEqual({
      ike: 'AES_GCM_16/256, HMAC_SHA2_256, group 19',
      esp: 'AES_GCM_16/256, group 19',
    })
    expect(with_({}, { ike: suite({ encryption: ['AES_CBC/256'], groups: [14, 19] }) }).agreed?.ike).toBe(
      'AES_CBC/256, HMAC_SHA2_256_128, HMAC_SHA2_256, group 19',
    )
    expect(with_({ starts: false }, { starts: true, ike: suite({ groups: [14, 19] }) }).agreed?.ike).toBe(
      'AES_GCM_16/256, HMAC_SHA2_256, group 14',
    )
  })
  it('fail for each kind that they do not share', () => {
    expect(kinds(with_({ ike: suite({ encryption: ['3DES'], prf: ['HMAC_SHA1'], groups: [2] }) }))).toEqual([
      'ike encryption',
      'ike prf',
      'ike groups',
    ])
    expect(
      kinds(with_({ ike: suite({ encryption: ['AES_CBC/256'], integrity: ['HMAC_SHA1_96'] }) })),
    ).toEqual(['ike integrity'])
    // A fresh exchange for data on one side alone.
    expect(kinds(with_({ esp: { ...ours.esp, groups: [] } }))).toEqual(['esp groups'])
    expect(
      kinds(with_({ esp: { ...ours.esp, groups: [] } }, { esp: { ...theirs.esp, groups: [] } })),
    ).toEqual([])
  })
  it('fail where nobody begins, nobody can be called, both are one, or want another proof', () => {
    expect(kinds(with_({ starts: false }))).toEqual(['nobody-starts'])
    expect(kinds(with_({}, { address: '' }))).toEqual(['nowhere-to-call'])
    expect(kinds(with_({ address: '' }))).toEqual([])
    expect(kinds(with_({ identity: 'b.example' }))).toEqual(['same-identity'])
    expect(kinds(with_({ auth: 'certificate' }))).toEqual(['auth'])
  })
  it('need subnets on both sides that do not meet', () => {
    expect(kinds(with_({ subnets: [] }))).toEqual(['subnets'])
    expect(kinds(with_({ subnets: ['10.2.4.0/24'] }))).toEqual(['subnets'])
    expect(kinds(with_({ subnets: ['10.3.0.0/16', '10.1.0.0/16'] }))).toEqual([])
  })
  it('are told from our side, whoever opens', () => {
    const [disagreement] = with_(
      { starts: false, ike: suite({ groups: [5] }) },
      { starts: true },
    ).disagreements
    expect(disagreement).toMatchObject({ kind: 'no-common', what: 'groups', ours: '5', theirs: '19, 14' })
  })
})

// Levels as RFC 8247 sections 2.1 to 2.4 and RFC 8221 sections 5 and 6 give them (from memory).
describe('what is advised', () => {
  it('forbids DES, MD5 and groups 1 and 22; advises against 3DES for data, and groups 2, 5, 23 and 24', () => {
    expect(
      adviceFor(
        suite({ encryption: ['DES'], integrity: ['HMAC_MD5_96'], prf: ['HMAC_MD5'], groups: [1, 22] }),
        'ike',
      ).map((a) => `${a.name} ${a.standing}`),
    ).toEqual([
      'DES must-not',
      'HMAC_MD5_96 must-not',
      'HMAC_MD5 must-not',
      'group 1 must-not',
      'group 22 must-not',
    ])
    expect(
      adviceFor(suite({ encryption: ['3DES'], integrity: [], prf: [], groups: [2, 5, 23, 24] }), 'esp').map(
        (a) => a.standing,
      ),
    ).toEqual(Array.from({ length: 5 }, () => 'should-not'))
    expect(adviceFor(suite({ encryption: ['3DES'] }), 'ike')).toEqual([])
  })
  it('has nothing against what must be there', () => {
    const must = {
      encryption: ENCRYPTION.filter((a) => a.ike === 'must').map((a) => a.name),
      integrity: INTEGRITY.filter((a) => a.ike === 'must').map((a) => a.name),
      prf: PRF.filter((a) => a.ike === 'must').map((a) => a.name),
      groups: [14],
    }
    expect(must.encryption).toEqual(['AES_CBC/256', 'AES_CBC/128'])
    expect(must.integrity).toContain('HMAC_SHA2_256_128')
    expect([...adviceFor(must, 'ike'), ...adviceFor(must, 'esp')]).toEqual([])
  })
})
