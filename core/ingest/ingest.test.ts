import Papa from 'papaparse'
import { describe, expect, it } from 'vitest'
import { makeSerial } from '#core/queries'
import type { Problem } from '#core/util'
import { gullhavenPlan } from '#server/demo/gullhaven'
import { readEquipmentList, readNetworkList, readScan, readSerialList } from '.'

const rowsOf = (csv: string) => Papa.parse<string[]>(csv).data
const networks = (csv: string) => readNetworkList(rowsOf(csv))
const wordsOf = (problems: readonly Problem[]) => problems.map(({ place, code }) => `${place}: ${code}`)
const told = (result: ReturnType<typeof networks>) => (result.ok ? [] : wordsOf(result.problems))

describe('a network list', () => {
  it('is read by its headings, in any order and case', () => {
    expect(
      networks(
        'Gateway,Subnet,VLAN ID,Network,DHCP pool,Remark\n' +
          '10.61.1.1,10.61.1.0/24,10,Staff,10.61.1.100-10.61.1.219,x\n' +
          '10.61.2.1,10.61.2.0/26,20,Servers,,\n',
      ),
    ).toEqual({
      ok: true,
      value: [
        {
          vlan: 10,
          name: 'Staff',
          subnet: '10.61.1.0/24',
          gateway: '10.61.1.1',
          pool: { from: '10.61.1.100', to: '10.61.1.219' },
        },
        { vlan: 20, name: 'Servers', subnet: '10.61.2.0/26', gateway: '10.61.2.1', pool: null },
      ],
    })
  })
  it('names row and column of everything wrong, and gives nothing', () => {
    const csv =
      'vlan,name,subnet,gateway,pool\n10,Staff,10.61.1.0/24,10.61.1.1,\n' +
      '0,,10.61.2.5/24,10.61.2.300,10.61.2.9-10.61.2.1\n\n10,Twin,10.61.3.0/24,10.61.3.1,\n'
    expect(told(networks(csv))).toEqual([
      'row 3, column "vlan": not-a-vlan',
      'row 3, column "name": no-name',
      'row 3, column "subnet": host-bits',
      'row 3, column "gateway": not-ipv4',
      'row 3, column "pool": pool-reversed',
      'row 5, column "vlan": vlan-twice',
    ])
  })
  it.each([
    ['', 'row 1: no-heading'],
    ['vlan,name\n10,Staff', 'row 1: no-heading'],
    [`vlan,name,subnet,gateway\n${'1,a,b,c\n'.repeat(4100)}`, 'row 4096: too-many-rows'],
  ])('refuses what is no list', (csv, problem) => {
    expect(told(networks(csv))).toEqual([problem])
  })
  it('knows quoted cells (RFC 4180)', () => {
    expect(
      networks('vlan,name,subnet,gateway\r\n10,"Staff, ""main""",10.61.1.0/24,10.61.1.1\r\n'),
    ).toMatchObject({ ok: true, value: [{ name: 'Staff, "main"' }] })
  })
})

describe('a list of serials', () => {
  const { devices } = gullhavenPlan()
  const good = makeSerial('GH', '7A05K5R')
  const read = (csv: string) => readSerialList(rowsOf(csv), devices)

  it('names devices by id or by name', () => {
    expect(read(`serial,device\n${good},boat-ap\n${makeSerial('GB', '7A06K5R')},skerry SWITCH`)).toEqual({
      claims: [
        { row: 2, serial: good, kind: 'product', deviceId: 'boat-ap' },
        { row: 3, serial: makeSerial('GB', '7A06K5R'), kind: 'board', deviceId: 'skerry-switch' },
      ],
      problems: [],
      wrongRows: [],
    })
  })
  it('tells every bad row, and keeps the good ones apart', () => {
    const list = read(
      `${good},boat-ap\n${good},skerry-switch\nGH-0000-0000,visit-ap\n` +
        `${makeSerial('GH', '7A07K5R')},boat-ap\nx,nobody`,
    )
    expect(list.claims.map(({ row }) => row)).toEqual([1])
    expect(list.wrongRows).toEqual([2, 3, 4, 5])
    expect(wordsOf(list.problems)).toEqual([
      'row 2, column "serial": serial-twice',
      'row 3, column "serial": wrong-check',
      'row 4, column "device": device-twice',
      'row 5, column "serial": not-a-serial',
      'row 5, column "device": no-such-device',
    ])
    expect(wordsOf(read('serial,device').problems)).toEqual([': empty-list'])
    expect(wordsOf(read(`${good},boat-ap\n`.repeat(1002)).problems)).toEqual(['row 1002: too-many-rows'])
  })
})

describe('a list of boxes', () => {
  const serial = (n: number) => makeSerial('GH', `7A0${n}K5R`)
  const read = (...lines: string[]) =>
    readEquipmentList(
      lines.map((l) => l.split(',')),
      [{ id: 'b', model: 'A2', serial: serial(9), mac: '00-00-5E-00-53-99', deviceId: null }],
      gullhavenPlan().devices,
    )
  const codes = (...lines: string[]) =>
    read('model,serial,mac,device', ...lines).map((r) => r.problems.map((p) => p.code).join() || 'good')
  it('marks every bad row with its reason, and only those', () => {
    expect(
      codes(
        `S8P,${serial(1)},00-00-5E-00-53-01,Skerry switch`,
        `S8P,${serial(1)},,`,
        `S8P,GH-7A01-K5R0,,`,
        `A2,${makeSerial('GB', '7A01K5R')},,`,
        `A2,${serial(2)},00-00-5E-00-53-01,`,
        `A2,${serial(3)},01-00-5E-00-53-02,`,
        `A2,${serial(4)},02-00-5E-00-53-02,`,
        `A2,${serial(5)},00-00-5E-00-53,`,
        `A2,${serial(6)},,Nowhere`,
        `A2,${serial(9)},,`,
        `A2,${serial(7)},00-00-5e-00-53-99,`,
        '',
        `A2,${serial(8)},00:00:5E:00:53:08,visit-ap`,
      ),
    ).toEqual([
      'good',
      'serial-again',
      'wrong-check',
      'serial-other-kind',
      'mac-again',
      'multicast-mac',
      'local-mac',
      'not-eui48',
      'no-such-device',
      'serial-again',
      'mac-again',
      'good',
    ])
  })
  it('names the place, and which row had it first', () => {
    const [, second] = read('serial', serial(1), serial(1))
    expect(second?.problems).toEqual([
      { code: 'serial-again', place: 'row 3, column "serial"', values: { text: serial(1), row: 2 } },
    ])
  })
  it('without a heading, or too long, is refused whole', () => {
    expect(read(serial(1))[0]?.problems[0]?.code).toBe('no-heading')
    expect(
      readEquipmentList([['serial'], ...Array.from({ length: 5001 }, () => ['x'])], [], [])[0]?.problems[0]
        ?.code,
    ).toBe('too-many-rows')
  })
  it('finds serial and MAC in what a scanner types', () => {
    expect(readScan(`S/N:${serial(1)};MAC:00005E005301;P/N=77`)).toEqual({
      serial: serial(1),
      mac: '00-00-5E-00-53-01',
    })
    expect(readScan(serial(2).toLowerCase())).toEqual({ serial: serial(2), mac: null })
    expect(readScan('00:00:5E:00:53:02')).toEqual({ serial: null, mac: '00-00-5E-00-53-02' })
    expect(readScan('hello')).toBeNull()
  })
})
