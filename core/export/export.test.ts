import { describe, expect, it } from 'vitest'
import type { Plan } from '#core/schema'
import { handed } from '../../tests/findings/changes'
import { site, the, type LoosePlan } from '../../tests/plans'
import {
  device,
  inNetwork,
  internet,
  link,
  ports,
  rule,
  ssid,
  theDevice,
  trunk,
  wifi,
} from '#server/demo/build'
import { gullhavenPlan } from '#server/demo/gullhaven'
import {
  ADDRESS_COLUMNS,
  addressRows,
  deviceConfig,
  dnsmasqConf,
  hostapdFiles,
  supplicantFiles,
  ipBatch,
  mediumText,
  modeText,
  nftRuleset,
  PORT_COLUMNS,
  portRows,
} from '.'

describe('the address plan', () => {
  it('has a row for each network, by VLAN', () => {
    const rows = addressRows(site())
    expect(rows.map((r) => r.length)).toEqual(rows.map(() => ADDRESS_COLUMNS.length))
    expect(rows[0]).toEqual([
      '10',
      'Staff',
      '10.9.10.0/24',
      '10.9.10.1',
      'serve',
      '10.9.10.100',
      '10.9.10.199',
      '256',
      '20',
      '',
    ])
    expect(rows[2]?.at(-1)).toBe('10.9.99.2 Switch')
  })
})

describe('the port map', () => {
  it('says what each port is and what it is connected to', () => {
    const rows = portRows(site())
    expect(rows.map((r) => r.length)).toEqual(rows.map(() => PORT_COLUMNS.length))
    expect(rows.filter((r) => r[1] === 'Switch')).toEqual([
      ['Room', 'Switch', '1', 'trunk', '99', '10 20', 'Gateway', '2', 'Cat6', '3'],
      ['Room', 'Switch', '2', 'access', '10', '', 'Desk', '1', 'Cat6', '10'],
      ['Room', 'Switch', '3', 'access', '20', '', 'Box', '1', 'Cat6', '5'],
      ['Room', 'Switch', '4', 'off', '', '', '', '', '', ''],
    ])
  })
  it('names media', () => {
    expect(mediumText({ kind: 'copper', category: 'Cat6', lengthM: 140, run: 'between' })).toEqual({
      kind: 'Cat6 between buildings',
      lengthM: '140',
    })
    expect(mediumText({ kind: 'wifi', ssidId: 'x', fourAddress: false, suffix: '' })).toEqual({
      kind: 'Wi-Fi',
      lengthM: '',
    })
    expect(modeText({ mode: 'trunk', native: null, tagged: [10] })).toEqual({
      mode: 'trunk',
      native: '',
      tagged: '10',
    })
  })
})

describe('a device’s configuration', () => {
  it('is the plan’s part for it, in the shape of RFC 8343 and RFC 8344', () => {
    expect(deviceConfig(site(), 'sw')).toMatchObject({
      'ietf-system:system': { hostname: 'sw' },
      'ietf-interfaces:interfaces': {
        interface: [
          {
            name: '1',
            enabled: true,
            'able-mast:bridge-port': { mode: 'trunk', 'native-vlan-id': 99, 'tagged-vlan-id': [10, 20] },
          },
          { name: '2', enabled: true, 'able-mast:bridge-port': { mode: 'access', 'vlan-id': 10 } },
          { name: '3' },
          { name: '4', enabled: false },
          {
            name: 'vlan99',
            type: 'iana-if-type:l3ipvlan',
            'ietf-ip:ipv4': { address: [{ ip: '10.9.99.2', 'prefix-length': 24 }] },
          },
        ],
      },
    })
  })
  it('holds an access point’s SSIDs, and is null for nobody', () => {
    expect(deviceConfig(gullhavenPlan(), 'boat-ap')).toMatchObject({
      'able-mast:wireless': {
        ssid: [
          { 'vlan-id': 10, isolation: false },
          { 'vlan-id': 60, isolation: true },
        ],
      },
    })
    expect(deviceConfig(site(), 'nobody')).toBeNull()
  })
  it('leaves out a native VLAN that is not there', () => {
    const plan = site(
      (p) => void Object.assign(the(the(p.devices, 'sw').ports, 'p4'), { mode: trunk(null, 10) }),
    )
    expect(JSON.stringify(deviceConfig(plan, 'sw'))).toContain(
      '"able-mast:bridge-port":{"mode":"trunk","tagged-vlan-id":[10]}',
    )
  })
})

// The files are loaded by the real programs in tests/twin; here is what they must say, by hand.
describe('files of a gateway', () => {
  const lined = (...orders: readonly (readonly [priority: number, weight: number])[]) =>
    site((plan) => {
      const [first] = plan.uplinks
      plan.uplinks = orders.map(([priority, weight], i) => ({
        ...structuredClone(first!),
        id: `l${i}`,
        portId: `w${i}`,
        priority,
        weight,
      }))
    })
  const turns = (plan: Plan) => ({
    map: /jhash .*/.exec(nftRuleset(plan, 'gate') ?? '')?.[0],
    rules: ipBatch(plan, 'gate')
      .split('\n')
      .filter((l) => /pref 2\d\d\d/.test(l))
      .map((l) => l.replace(/rule add pref \d+ /, '')),
  })
  it('one hash names an uplink of each group; rules give each its turn, a sender any other of the last', () => {
    // Marks, by hand: the place of the line in bits 16 to 20 for the first group, 21 to 25 for the second.
    expect(turns(lined([1, 1], [2, 1]))).toEqual({ map: undefined, rules: [] })
    expect(turns(lined([1, 7], [1, 3], [2, 1]))).toEqual({
      map: 'jhash ip saddr mod 10 map { 0-6 : 65536, 7-9 : 131072 }',
      rules: [
        'fwmark 65536/2031616 lookup 257',
        'fwmark 131072/2031616 lookup 258',
        'not fwmark 0/2031616 lookup 257',
        'not fwmark 0/2031616 lookup 258',
      ],
    })
    expect(turns(lined([1, 1], [2, 1], [2, 1]))).toEqual({
      map: 'jhash ip saddr mod 2 map { 0 : 131072, 1 : 196608 }',
      rules: [
        'lookup 257',
        'fwmark 131072/2031616 lookup 258',
        'fwmark 196608/2031616 lookup 259',
        'not fwmark 0/2031616 lookup 258',
        'not fwmark 0/2031616 lookup 259',
      ],
    })
    const two = turns(lined([1, 1], [1, 1], [2, 1], [2, 3]))
    expect(two.map).toBe(
      `jhash ip saddr mod 1048576 map { 0-262143 : ${0x10000 + 3 * 2 ** 21}, 262144-524287 ` +
        `: ${0x10000 + 4 * 2 ** 21}, 524288-1048575 : ${0x20000 + 4 * 2 ** 21} }`,
    )
    expect(two.rules).toEqual([
      'fwmark 65536/2031616 lookup 257',
      'fwmark 131072/2031616 lookup 258',
      'lookup 257',
      'lookup 258',
      `fwmark ${3 * 2 ** 21}/65011712 lookup 259`,
      `fwmark ${4 * 2 ** 21}/65011712 lookup 260`,
      'not fwmark 0/65011712 lookup 259',
      'not fwmark 0/65011712 lookup 260',
    ])
  })
  it('the ruleset keeps the order, names interfaces, and says what names nothing', () => {
    const plan = site((plan) => {
      plan.policies[0]?.rules.unshift({ ...rule('r0', inNetwork('attic'), internet, [], 'gone') })
      plan.policies[0]?.rules.push({
        ...rule(
          'r9',
          theDevice('box'),
          { kind: 'prefix', prefix: '198.51.100.0/24' },
          ['dns', 'web'],
          'Box "asks" out',
        ),
        action: 'reject',
      })
    })
    const lines = (nftRuleset(plan, 'gate') ?? '').split('\n').map((l) => l.trim())
    expect(lines.filter((l) => /comment "r|^# r/.test(l))).toEqual([
      '# r0: names nothing that is there',
      'iifname "lan.10" oifname "lan.20" tcp dport { 443 } accept comment "r1: Staff use the box"',
      'iifname "lan.10" oifname "lan.20" icmp type echo-request accept comment "r1: Staff use the box"',
      'iifname "lan.10" oifname "wan1" accept comment "r2: Staff go out"',
      'ip saddr 10.9.20.10 ip daddr 198.51.100.0/24 tcp dport { 53, 80, 443 } reject comment "r9: Box  asks  out"',
      'ip saddr 10.9.20.10 ip daddr 198.51.100.0/24 udp dport { 53 } reject comment "r9: Box  asks  out"',
      'iifname { "lan.99", "lan.10", "lan.20" } tcp dport { 53 } accept comment "r3: Names"',
      'iifname { "lan.99", "lan.10", "lan.20" } udp dport { 53 } accept comment "r3: Names"',
      'iifname { "lan.99", "lan.10", "lan.20" } icmp type echo-request accept comment "r3: Names"',
    ])
    expect(lines).toContain('oifname { "wan1" } masquerade')
    expect(nftRuleset(plan, 'sw')).toBeNull()
  })
  it('a forward at the address of its uplink alone, not at those of a network that is routed here', () => {
    const plan = site((p) => handed(p, 'line'))
    expect(nftRuleset(plan, 'gate')).toMatch(
      /iifname "wan1" fib daddr \. iif type local tcp dport 8443 dnat ip to .*10\.9\.20\.10 \. 443/,
    )
  })
  it('addresses, pools without what is excluded, and reservations by MAC', () => {
    const plan = site((plan) =>
      Object.assign(plan.networks[1] as object, {
        exclusions: [{ from: '10.9.10.110', to: '10.9.10.119' }],
        options: { dns: ['10.9.20.10'], ntp: [], domain: 'small.example', controller: null },
        fixed: [
          {
            id: 'f',
            ip: '10.9.10.5',
            name: 'Printer',
            deviceId: null,
            how: 'reserved',
            mask: null,
            gateway: null,
            mac: '00-00-5E-00-53-0A',
            ip6: null,
          },
        ],
      }),
    )
    expect(ipBatch(plan, 'gate').split('\n').slice(0, 3)).toEqual([
      'addr add 10.9.99.1/24 dev lan.99',
      'addr add 10.9.10.1/24 dev lan.10',
      'addr add 10.9.20.1/24 dev lan.20',
    ])
    expect(
      dnsmasqConf(plan, 'gate')
        .split('\n')
        .filter((l) => /^(interface|dhcp-range|dhcp-host|domain|dhcp-option)/.test(l)),
    ).toEqual([
      'interface=lan.10',
      'dhcp-range=set:vlan10,10.9.10.100,10.9.10.109,255.255.255.0,28800',
      'dhcp-range=set:vlan10,10.9.10.120,10.9.10.199,255.255.255.0,28800',
      'dhcp-option=tag:vlan10,option:router,10.9.10.1',
      'dhcp-option=tag:vlan10,option:dns-server,10.9.20.10',
      'domain=small.example,10.9.10.0/24',
      'dhcp-host=00:00:5e:00:53:0a,10.9.10.5',
    ])
  })
})

describe('wpa_supplicant', () => {
  const joining = (change: (ssid: Plan['ssids'][number]) => Plan['ssids'][number]) => {
    const demo = gullhavenPlan()
    const plan = { ...demo, ssids: demo.ssids.map(change) }
    return plan.devices.flatMap((device) => supplicantFiles(plan, device)).map(({ text }) => text)
  }
  it('joins an extender to the SSID that it repeats, and says where its passphrase goes', () => {
    const [text = '', ...others] = joining((ssid) => ({
      ...ssid,
      settings: { ...ssid.settings, security: 'wpa2', hidden: true },
    }))
    expect(others).toEqual([])
    // "Tidewater Visitors" in ASCII.
    expect(text).toContain('\tssid=54696465776174657220566973697 4'.replace(' ', ''))
    expect(text).toContain('\tscan_ssid=1\n\tkey_mgmt=WPA-PSK\n\tpairwise=CCMP\n\tieee80211w=1\n\t# psk: ')
  })
  it('says under which name it sends on, where that is another', () => {
    const plan = structuredClone(gullhavenPlan()) as LoosePlan
    const told = () =>
      plan.devices
        .flatMap((device) => supplicantFiles(plan, device))
        .map(({ text }) => text.includes('_EXT.'))
    expect(told()).toEqual([false])
    for (const { medium } of plan.links) if (medium.kind === 'wifi') medium.suffix = '_EXT'
    expect(told()).toEqual([true])
  })
  it('an open one has no key, and one of unknown security says so', () => {
    const of = (security: Plan['ssids'][number]['settings']['security']) =>
      joining((ssid) => ({ ...ssid, settings: { ...ssid.settings, security } }))[0]
    expect(of('open')).toContain('\tkey_mgmt=NONE\n}')
    expect(of('wpa3')).toContain('\tkey_mgmt=SAE')
    expect(of(null)).toContain('# Nobody has said how it is secured')
    expect(of(null)).not.toContain('key_mgmt')
  })
})

describe('hostapd', () => {
  const plan = site((draft) => {
    draft.site.country = 'GB'
    draft.devices.push(
      device('ap', 'AP', 'access-point', 'A2', 'Hall', 'management', ports({ 1: trunk(99, 10) })),
    )
    draft.ssids.push(
      ssid(
        { id: 'air', name: 'Air\\"x', networkId: 'staff', isolation: true, apIds: ['ap'] },
        { security: 'wpa3', bands: ['5'], leastMbps: 12, hidden: true },
      ),
    )
    draft.wifi.radios.push({
      id: 'r',
      deviceId: 'ap',
      band: '5',
      generation: 'ax',
      streams: 2,
      channel: 104,
      widthMhz: 80,
      powerDbm: 20,
      gainDbi: 4,
    })
  })
  const [file, ...others] = hostapdFiles(plan, the(plan.devices, 'ap'))
  const lines = file?.text.split('\n') ?? []
  it('is one file for each radio that sends an SSID', () => {
    expect([file?.name, others]).toEqual(['hostapd-wlan1.conf', []])
  })
  it('says what else is known of an SSID: a button, a list, hours, and bridges that join it', () => {
    const more = site((draft) => {
      draft.devices.push(
        device('ap', 'AP', 'access-point', 'A2', 'Hall', 'management', ports({ radio: { mode: 'radio' } })),
        device('ext', 'Extender', 'extender', 'E2', 'Hall', null, ports({ up: { mode: 'plain' } })),
      )
      const hours = { from: '07:00', to: '22:00' }
      draft.ssids.push(
        ssid(
          { id: 'air', name: 'Air', networkId: 'staff', isolation: false, apIds: ['ap'] },
          { security: 'wpa2', wps: true, macList: true, hours },
        ),
      )
      draft.links.push(link('ap:radio', 'ext:up', wifi('air', true)))
    })
    const [said] = hostapdFiles(more, the(more.devices, 'ap'))
    expect(said?.text.split('\n')).toEqual(
      expect.arrayContaining([
        'wps_state=2',
        '# Its list is no part of the plan: macaddr_acl=1 and accept_mac_file=/etc/hostapd/air.accept',
        '# Sent from 07:00 to 22:00: hostapd has no clock.',
        'wds_sta=1',
        'wds_bridge=br0',
      ]),
    )
    expect(lines).toEqual(expect.arrayContaining(['wps_state=0']))
    expect(lines.some((line) => line.startsWith('wds_') || line.includes('accept'))).toBe(false)
  })
  it('says band, channel, and of a wide one where its middle is (hostapd.conf: channel 106 is 5,530 MHz)', () => {
    expect(lines).toEqual(
      expect.arrayContaining([
        'country_code=GB',
        'hw_mode=a',
        'channel=104',
        'ht_capab=[HT40-]',
        'vht_oper_chwidth=1',
        'vht_oper_centr_freq_seg0_idx=106',
        'he_oper_centr_freq_seg0_idx=106',
      ]),
    )
  })
  it('writes a name by its octets, so that it cannot end its line, and its network by the bridge of its VLAN', () => {
    expect(lines).toEqual(
      expect.arrayContaining([
        'ssid2=4169725c2278',
        'bridge=br10',
        'ap_isolate=1',
        'ignore_broadcast_ssid=1',
      ]),
    )
  })
  it('is encrypted as was said, and speaks no slower than was said', () => {
    expect(lines).toEqual(
      expect.arrayContaining([
        'wpa_key_mgmt=SAE',
        'ieee80211w=2',
        'supported_rates=120 180 240 360 480 540',
        'basic_rates=120',
      ]),
    )
    expect(file?.text).not.toMatch(/^(sae_password|wpa_passphrase)=/m)
  })
})
