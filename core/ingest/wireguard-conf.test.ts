import { aPeer, aTunnel } from '../../tests/fixtures/tunnels'
import { describe, expect, it } from 'vitest'
import { wireguardConf } from '#core/export'
import { parsePlan } from '#contracts/plan'
import { base, site } from '../../tests/plans'
import { readWireguardConf } from '.'

// Files as wg(8) and wg-quick(8) have them; the example keys are those of wg(8) itself.
const PRIVATE = 'yAnz5TF+lXXJte14tji3zlMNq+hd2rYUIgJBgB3fBmk='
const PUBLIC = 'xTIBA5rboUvnH4htodjb6e697QjLERt1NAB4mZqp8Dg='
const PROVIDER = `[Interface]
PrivateKey = ${PRIVATE}
Address = 10.66.12.9/32, fc00:bbbb::c09/128
DNS = 10.64.0.1
PostUp = iptables -A OUTPUT ! -o %i -j REJECT

[Peer] # somewhere
PublicKey = ${PUBLIC}
PresharedKey = /UwcSPg38hW/D9Y3tcS1FOV0K1wuURMbS0sesJEP5ak=
AllowedIPs = 0.0.0.0/0, ::/0
Endpoint = 203.0.113.77:51820
PersistentKeepalive = 25
`
const read = (text: string) => readWireguardConf(base(), 'gate', 'Provider', text)
const codes = (text: string) => {
  const found = read(text)
  return found.ok ? [] : found.problems.map((p) => `${p.place} ${p.code}`)
}

describe('a WireGuard file that somebody else made', () => {
  it('becomes a tunnel with its far end, and what a plan has no place for is told', () => {
    const found = read(PROVIDER)
    if (!found.ok) throw new Error(JSON.stringify(found.problems))
    expect(found.value.tunnel).toMatchObject({
      name: 'Provider',
      deviceId: 'gate',
      address: '10.66.12.9/32',
      address6: 'fc00:bbbb::c09/128',
      listenPort: 51820,
      mtu: 1420,
      publicKey: null,
    })
    expect(found.value.tunnel.peers).toEqual([
      aPeer({
        id: 'far-end',
        name: 'Provider, far end',
        kind: 'provider',
        publicKey: PUBLIC,
        allowed: ['0.0.0.0/0', '::/0'],
        theirAllowed: ['10.66.12.9/32', 'fc00:bbbb::c09/128'],
        endpoint: '203.0.113.77:51820',
        keepaliveS: 25,
      }),
    ])
    expect(found.value.leftOut.map((l) => `${l.what} ${l.text}`)).toEqual([
      'preshared ',
      'commands postup',
      'dns 10.64.0.1',
    ])
    expect(found.value.privateKey).toBe(PRIVATE)
    // The plan takes it, and holds no private key.
    const after = { ...base(), tunnels: [found.value.tunnel] }
    expect(parsePlan(JSON.parse(JSON.stringify(after))).ok).toBe(true)
    expect(JSON.stringify(after)).not.toContain(PRIVATE)
  })
  it('of another site allows its networks; host bits are cut as wg cuts them', () => {
    const found = read(
      `[interface]\nprivatekey=${PRIVATE}\naddress=10.9.9.2\nlistenport = ` +
        `5555\n[peer]\npublickey=${PUBLIC}\nallowedips = 10.20.0.7/22\nallowedips = 10.9.9.1`,
    )
    expect(found.ok && found.value.tunnel.peers[0]).toMatchObject({
      kind: 'site',
      allowed: ['10.20.0.0/22', '10.9.9.1/32'],
      endpoint: null,
    })
    expect(found.ok && found.value.tunnel.listenPort).toBe(5555)
  })
  it('that Able Mast wrote itself is read again', () => {
    const plan = site(
      (plan) =>
        void plan.tunnels.push(
          aTunnel({
            name: 'T',
            listenPort: 51821,
            publicKey: PUBLIC,
            peers: [
              aPeer({
                id: 'a',
                name: 'A',
                publicKey: PUBLIC,
                allowed: ['10.20.0.0/22'],
                endpoint: 'a.example:51820',
                keepaliveS: 25,
              }),
            ],
          }),
        ),
    )
    const found = read(wireguardConf(plan.tunnels[0]!, PRIVATE))
    expect(found.ok && found.value.tunnel).toMatchObject({
      listenPort: 51821,
      peers: [{ publicKey: PUBLIC, allowed: ['10.20.0.0/22'], endpoint: 'a.example:51820', keepaliveS: 25 }],
    })
  })
  it.each([
    ['nothing', '', [' conf-no-interface']],
    ['two interfaces', '[Interface]\n[Interface]\n', [' conf-no-interface']],
    ['a line that is none', `[Interface]\nwhat\n[Peer]\nPublicKey = ${PUBLIC}`, ['line 2 conf-syntax']],
    [
      'a field of the other section',
      `[Interface]\nEndpoint = a:1\n[Peer]\nPublicKey = ${PUBLIC}`,
      ['line 2 conf-syntax'],
    ],
    ['a field that stands twice', `[Interface]\nMTU = 1400\nMTU = 1300`, ['line 3 conf-syntax']],
    ['a peer without a key', '[Interface]\n[Peer]\nAllowedIPs = 10.0.0.0/8', ['line 2 conf-no-key']],
    ['a key cut short', '[Interface]\n[Peer]\nPublicKey = abc=', ['line 3 not-a-key']],
    [
      'what is no address',
      `[Interface]\nAddress = 10.0.0.300/24\n[Peer]\nPublicKey = ${PUBLIC}\nAllowedIPs = 10.0.0.0/33`,
      ['line 5 not-prefix', 'line 2 not-prefix'],
    ],
    [
      'an endpoint without a port',
      `[Interface]\n[Peer]\nPublicKey = ${PUBLIC}\nEndpoint = host`,
      ['line 4 not-an-endpoint'],
    ],
    ['a port beyond all', '[Interface]\nListenPort = 70000', ['line 2 not-allowed']],
  ])('%s is refused at its line', (_, text, wanted) => expect(codes(text).sort()).toEqual([...wanted].sort()))
  it('no message repeats a secret', () => {
    const broken = read(`[Interface]\nPrivateKey = ${PRIVATE}x\nPrivatKey = ${PRIVATE}\n`)
    expect(JSON.stringify(broken)).not.toContain(PRIVATE.slice(0, 10))
  })
})
