import './globals'
import { describe, expect, it } from 'vitest'
import { readIntents } from '#core/filter'
import { gullhavenPlan } from '#server/demo/gullhaven'
import { intentWords } from '~/features/rules/intent-completion'

const plan = gullhavenPlan()
const after = (before: string) => intentWords(plan, before)

describe('what an intent in writing can go on with', () => {
  it('is nothing within its name or its note', () => {
    expect(after('')).toEqual([])
    expect(after('i-voice')).toEqual([])
    expect(after('i-voice: voice -> internet: all # a note, ')).toEqual([])
  })

  it('is who, on both sides of the arrow, IPv6 prefixes and all', () => {
    for (const before of ['i: ', 'i: voice -> ', 'i: [2001:db8::]/32 -> ']) {
      expect(after(before)).toContain('guests')
      expect(after(before)).toContain('internet')
    }
    expect(after('i: voice ')).toEqual([])
  })

  it('is an id of the kind that the word before it names', () => {
    expect(after('i: device ')).toEqual(plan.devices.map(({ id }) => id))
    expect(after('i: any -> peer ')).toEqual(plan.tunnels.flatMap(({ peers }) => peers.map(({ id }) => id)))
    expect(after('i: any -> any: all during ')).toEqual(plan.schedules.map(({ id }) => id))
  })

  it('is services, then what may follow them', () => {
    expect(after('i: voice -> internet: ')).toEqual(['all', ...plan.services.map(({ id }) => id)])
    expect(after('i: voice -> internet: dns, ')).toContain('web')
    expect(after('i: voice -> internet: dns ')).toEqual(['survives', 'during', 'logged'])
  })

  it('is an uplink, a tunnel or a device that others depend on, for what may fail', () => {
    const things = after('i: voice -> internet: dns survives ')
    expect(things).toContain('fibre')
    expect(after('i: voice -> internet: dns survives fibre, ')).toEqual(things)
    expect(after('i: voice -> internet: dns survives fibre ')).toEqual(['survives', 'during', 'logged'])
  })

  it('is read, whichever is taken', () => {
    const begun = ['i: ', 'i: voice -> ', 'i: voice -> internet: ', 'i: voice -> internet: dns survives ']
    const ended = [' -> internet: all', ': all', '', '']
    begun.forEach((before, at) => {
      for (const word of after(before).filter((one) => !['device', 'tunnel', 'peer', 'group'].includes(one)))
        expect(readIntents(`${before}${word}${ended[at]}`)).toMatchObject({ ok: true })
    })
  })
})
