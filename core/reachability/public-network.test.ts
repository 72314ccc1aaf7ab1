import { describe, expect, it } from 'vitest'
import { nftRuleset } from '#core/export'
import { down, upstreamDown } from '#core/queries'
import { publicNetwork } from '../../tests/twin/cases-hard'
import { site, the } from '../../tests/plans'
import { passes, walkOf } from '../../tests/fixtures/reachability'

// A provider that routes a prefix to a site knows a way to it by that line alone (RFC 1812 section 5.2.4); the
// kernel twin builds the same sites.

describe('a network of public addresses', () => {
  it('is reached from outside as rules allow, without any port forward', () => {
    expect(passes('internet', 'servers', publicNetwork)).toBe('tcp 443, icmp')
    expect(walkOf('internet', 'servers', publicNetwork)?.passes).toBe(true)
  })

  it('is reached by the uplink that it is routed by, and by no other', () => {
    expect(passes('internet', 'servers', publicNetwork, [down('line')])).toBe('nothing')
    expect(passes('internet', 'servers', publicNetwork, [upstreamDown('line')])).toBe('nothing')
    expect(passes('internet', 'servers', publicNetwork, [down('spare')])).toBe('tcp 443, icmp')
  })

  it('keeps its addresses as it goes out by that uplink, and hides behind another', () => {
    const kinds = (from: string, failed: string) =>
      walkOf(from, 'internet', publicNetwork, [down(failed)])?.lines.map((line) => line.kind)
    expect(kinds('servers', 'spare')).not.toContain('translate')
    expect(kinds('servers', 'line')).toContain('translate')
    expect(kinds('staff', 'spare')).toContain('translate')
    const ruleset = nftRuleset(site(publicNetwork), the(site().devices, 'gate').id)
    expect(ruleset).toContain('oifname "wan1" ip saddr 203.0.113.0/24 accept')
    expect(ruleset).not.toContain('oifname "wan2" ip saddr')
  })
})
