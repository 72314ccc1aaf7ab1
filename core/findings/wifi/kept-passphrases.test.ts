import { describe, expect, it } from 'vitest'
import { ssid } from '#server/demo/build'
import type { SsidSettings } from '#core/schema'
import { site } from '../../../tests/plans'
import { checkPassphrases, type KeptPassphrase } from './kept-passphrases'

const plan = (security: SsidSettings['security'] = 'wpa2') =>
  site((draft) => {
    for (const id of ['one', 'two'])
      draft.ssids.push(ssid({ id, name: id, networkId: 'staff', isolation: false, apIds: [] }, { security }))
  })
const kept = (ssidId: string, more: Partial<KeptPassphrase> = {}): KeptPassphrase => ({
  ssidId,
  weakness: null,
  sameAs: [],
  ...more,
})
const told = (list: readonly KeptPassphrase[], of = plan()) =>
  checkPassphrases(of, list).map(({ code, place, values }) => [code, place[1], Object.values(values).at(-1)])

describe('passphrases that are kept', () => {
  it('are told where they are soon guessed, and why', () => {
    expect(told([kept('one', { weakness: 'short' }), kept('two', { weakness: 'guessable' })])).toEqual([
      ['F02', 'one', 'short'],
      ['F02', 'two', 'guessable'],
    ])
    expect(told([kept('one'), kept('two')])).toEqual([])
  })
  it('are told once where two SSIDs have the same', () => {
    expect(told([kept('one', { sameAs: ['two'] }), kept('two', { sameAs: ['one'] })])).toEqual([
      ['F16', 'two', 'one'],
    ])
  })
  it('are not told where nobody joins by one any more, and not of SSIDs that are gone', () => {
    expect(told([kept('one', { weakness: 'short' })], plan('owe'))).toEqual([])
    expect(told([kept('gone', { weakness: 'short' })])).toEqual([])
  })
})
