import { createPrivateKey, createPublicKey } from 'node:crypto'
import postgres from 'postgres'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { PlanAt, TunnelKey } from '#contracts/api'
import { codesOf, signedIn, startApp, type App, type Client } from './harness'

let app: App
let planner: Client
let keeper: Client
beforeAll(async () => {
  app = await startApp()
  planner = await signedIn(app, 'planner')
  keeper = await signedIn(app, 'keeper')
})
afterAll(() => app.stop())

const PATH = '/api/sites/gullhaven/keys'
/**
 * The public half of a raw X25519 key (RFC 7748), by way of its DER form (RFC 8410 section 10.3 gives the
 * prefix).
 */
function publicOf(raw: string): string {
  const der = Buffer.concat([
    Buffer.from('302e020100300506032b656e04220420', 'hex'),
    Buffer.from(raw, 'base64'),
  ])
  return createPublicKey(createPrivateKey({ key: der, format: 'der', type: 'pkcs8' }))
    .export({ format: 'der', type: 'spki' })
    .subarray(-32)
    .toString('base64')
}

describe('keys of tunnels', () => {
  it('are made for what the plan has, sealed in the database, and never listed', async () => {
    expect(codesOf(await planner('POST', PATH, { owner: 'nobody' }))).toEqual(['no-such-peer'])
    const { publicKey } = (await planner<{ publicKey: string }>('POST', PATH, { owner: 'surveyor' })).body
    expect(Buffer.from(publicKey, 'base64')).toHaveLength(32)
    const [listed] = (await keeper<TunnelKey[]>('GET', PATH)).body
    expect(listed).toMatchObject({ owner: 'surveyor', publicKey, madeBy: 'Planner', shownAt: null })
    expect(Object.keys(listed ?? {}).sort()).toEqual([
      'madeAt',
      'madeBy',
      'owner',
      'publicKey',
      'shownAt',
      'shownBy',
    ])
    const sql = postgres(app.databaseUrl, { max: 1 })
    const [row] = await sql<{ sealed: string }[]>`select sealed from tunnel_keys where owner = 'surveyor'`
    await sql.end()
    const [mark, key, sealed = ''] = (row?.sealed ?? '').split('.')
    expect([mark, key?.length]).toEqual(['k1', 12])
    expect(Buffer.from(sealed, 'base64')).toHaveLength(12 + 16 + 44)
  })

  it(
    'that were made elsewhere are sealed, and their public half is told: the pair of RFC ' +
      '7748 section 6.1',
    async () => {
      const hex = (text: string) => Buffer.from(text, 'hex').toString('base64')
      const [privateKey, publicKey] = [
        hex('5dab087e624a8a4b79e17f8b83800ee66f3bb1292618b6fd1c2f8b27ff88e0eb'),
        hex('de9edb7d7b7dc1b4d35b61c2ece435373f8343c85b78674dadfc7e146f882b4f'),
      ]
      expect(
        (await planner<{ publicKey: string }>('POST', `${PATH}/take`, { owner: 'keeper-away', privateKey }))
          .body,
      ).toEqual({ publicKey })
      expect(
        codesOf(await planner('POST', `${PATH}/take`, { owner: 'keeper-away', privateKey: 'short' })),
      ).toEqual(['not-a-key'])
      expect(codesOf(await planner('POST', `${PATH}/take`, { owner: 'nobody', privateKey }))).toEqual([
        'no-such-peer',
      ])
      expect((await keeper('POST', `${PATH}/take`, { owner: 'keeper-away', privateKey })).status).toBe(403)
    },
  )

  it('are shown only while they are the plan’s, with the private key that fits, and that is noted', async () => {
    const { publicKey } = (await planner<{ publicKey: string }>('POST', PATH, { owner: 'surveyor' })).body
    expect(codesOf(await planner('POST', `${PATH}/show`, { owner: 'surveyor' }))).toEqual(['other-key'])
    expect(codesOf(await planner('POST', `${PATH}/show`, { owner: 'boat-crew' }))).toEqual(['no-key'])
    const { revision } = (await planner<PlanAt>('GET', '/api/sites/gullhaven/plan')).body
    await planner('PATCH', '/api/sites/gullhaven/plan', {
      baseRevision: revision,
      patch: [{ op: 'replace', path: '/tunnels/0/peers/2/publicKey', value: publicKey }],
      words: 'key',
    })
    const { text } = (await planner<{ text: string }>('POST', `${PATH}/show`, { owner: 'surveyor' })).body
    expect(publicOf(/^PrivateKey = (\S+)$/m.exec(text)?.[1] ?? '')).toBe(publicKey)
    expect(text).toContain('Address = 10.61.20.4/32')
    expect(text).toContain('Endpoint = vpn.gullhaven.example:51820')
    expect((await keeper<TunnelKey[]>('GET', PATH)).body.find((k) => k.owner === 'surveyor')).toMatchObject({
      shownBy: 'Planner',
    })
    expect((await keeper('POST', `${PATH}/show`, { owner: 'surveyor' })).status).toBe(403)
    // A private key is in no file that leaves otherwise.
    expect((await keeper('GET', '/api/sites/gullhaven/export/site.json')).text).not.toContain(
      /^PrivateKey = (\S+)$/m.exec(text)?.[1] ?? 'x',
    )
  })
})
