import { describe, expect, it } from 'vitest'
import { down } from '#core/queries'
import { HARD } from '../../tests/twin/cases-hard'
import { endpoint } from '../../tests/fixtures/reachability'

// RFC 1542 section 4: the server's answer goes to the relay. The kernel twin builds the same sites with a real
// relay and a real server (dnsmasq).

const leased = (what: string) => {
  const found = HARD.find(([name]) => name === what)
  if (!found) throw new Error(what)
  const [, change, scenario] = found
  return endpoint('desk', change, scenario).how
}

describe('a relayed lease', () => {
  it.each([
    ['a relay to a server in another network', 'leased'],
    ['a relay whose server has no way back: a gateway that is not there', 'link-local'],
    ['a relay whose server takes the relay for a neighbour', 'link-local'],
    ['a relay whose server is cut off', 'link-local'],
    ['a relay whose server is on another VLAN', 'link-local'],
    ['a relay to a server behind a second gateway, whose rules drop it', 'link-local'],
    ['a relay to a server behind a second gateway, whose rules let it pass', 'leased'],
    ['a relay to a server behind a second gateway that is down', 'link-local'],
  ])('%s: %s', (what, how) => {
    expect(leased(what)).toBe(how)
  })

  it('is gone with the server alone', () => {
    const [, change] = HARD.find(([name]) => name === 'a relay to a server in another network')!
    expect(endpoint('desk', change, [down('gate.2-sw.1')]).how).toBe('link-local')
  })
})
