import './globals'
import { describe, expect, it } from 'vitest'
import { checkKey } from '~/features/tunnels/columns'
import { gullhavenPlan } from '#server/demo/gullhaven'
import type { Plan } from '#core/schema'

const key = (n: number) => `${String(n).repeat(42)}A=`
const plan = (): Plan => {
  const made = structuredClone(gullhavenPlan()) as unknown as {
    tunnels: {
      id: string
      publicKey: string | null
      peers: { id: string; name: string; publicKey: string | null; next: unknown }[]
    }[]
  }
  const [tunnel] = made.tunnels
  tunnel!.publicKey = key(1)
  Object.assign(tunnel!.peers[0]!, { publicKey: key(2), next: { publicKey: key(3), until: '2027-01-01' } })
  return made as unknown as Plan
}
const codes = (own: string, text: string) =>
  checkKey(plan(), own, text).map((p) => [p.code, p.values['name']])

// One key, one peer: two with one key throw each other out (wg(8): an interface has one peer for each public
// key).
describe('a public key that is typed', () => {
  const [tunnel] = plan().tunnels
  const [first, second] = tunnel!.peers
  it('is refused where anybody else has it, or changes to it', () => {
    expect(codes(second!.id, key(2))).toEqual([['key-in-use', first!.name]])
    expect(codes(second!.id, key(3))).toEqual([['key-in-use', first!.name]])
    expect(codes(second!.id, key(1))).toEqual([['key-in-use', tunnel!.name]])
    expect(codes(first!.id, key(2))).toEqual([])
    expect(codes('', key(2))).toEqual([['key-in-use', first!.name]])
  })
  it('is taken where it is new, empty, and refused where it is none', () => {
    expect(codes(second!.id, key(4))).toEqual([])
    expect(codes(second!.id, '')).toEqual([])
    expect(codes(second!.id, 'no key').map(([code]) => code)).toEqual(['not-a-key'])
  })
})
