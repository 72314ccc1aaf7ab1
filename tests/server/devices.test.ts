import * as asn1 from 'asn1js'
import { connect } from 'node:tls'
import postgres from 'postgres'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Roster } from '#contracts/api'
import type { OneTimeSecret } from '#contracts/bootstrap'
import { makeSerial } from '#core/queries'
import { freePort } from '../../tools/postgres.mjs'
import { asks, basic, certificateFile, certifiedBy, selfSigned, tagOf, type Identity } from './device-wire'
import { client, codesOf, eventually, signedIn, startApp, type App, type Client, type Reply } from './harness'

// The bootstrap server as a device meets it: TLS, a certificate of its maker's or a secret that was printed for it.

const SITE = '/api/sites/gullhaven'
const DATA = { 'hw-model': 'A2X', 'os-name': 'mast-os', 'os-version': '5.2.0' }
let app: App
let rigger: Client
let port = 0
const maker = selfSigned('/CN=A maker')
const serial = makeSerial('GH', 'WIRE001')
beforeAll(async () => {
  port = await freePort()
  app = await startApp({
    env: { MAST_BOOTSTRAP_PORT: String(port), MAST_DEVICE_MAKERS: certificateFile(maker.name) },
  })
  rigger = await signedIn(app, 'rigger')
  expect((await rigger('POST', `${SITE}/claims`, { serial, deviceId: 'boat-ap' })).status).toBe(200)
})
afterAll(async () => {
  await app.stop()
})

const refusal = (reply: Reply) => [reply.status, ...codesOf(reply)]
const rowOf = async (deviceId: string) =>
  (await rigger<Roster>('GET', `${SITE}/roster`)).body.rows.find((row) => row.deviceId === deviceId)
const secretFor = async (of = serial): Promise<OneTimeSecret> => {
  const reply = await rigger<OneTimeSecret>('POST', `${SITE}/claims/${of}/secret`, {})
  expect(reply.status, reply.text).toBe(200)
  return reply.body
}
const data = (identity: Identity | null, authorization = '', input: object = DATA) =>
  asks(port, identity, 'get-bootstrapping-data', input, authorization)
const statusOf = async (asked: ReturnType<typeof data>) => (await asked).status

describe('a device with a certificate of its maker', () => {
  const device = certifiedBy(maker.name, serial)

  it('gets its onboarding information in a CMS structure', async () => {
    const { status, type, body } = await data(device)
    expect([status, type]).toEqual([200, 'application/yang-data+json'])
    const output = body?.['ietf-sztp-bootstrap-server:output'] as Record<string, string>
    expect(output['reporting-level']).toBe('verbose')
    // RFC 5652 section 3: ContentInfo is SEQUENCE { contentType, [0] EXPLICIT content }; RFC 8572, 3.1 names the type.
    const der = Uint8Array.from(Buffer.from(output['conveyed-information'] ?? '', 'base64'))
    const [contentType, wrapper] = (asn1.fromBER(der.buffer).result as asn1.Sequence).valueBlock.value as [
      asn1.ObjectIdentifier,
      asn1.Constructed,
    ]
    expect(contentType.valueBlock.toString()).toBe('1.2.840.113549.1.9.16.1.43')
    const inner = wrapper.valueBlock.value[0] as asn1.OctetString
    const told = JSON.parse(new TextDecoder().decode(inner.getValue())) as Record<
      string,
      Record<string, string>
    >
    const information = told['ietf-sztp-conveyed-info:onboarding-information'] ?? {}
    expect(Object.keys(information)).toEqual(['configuration-handling', 'configuration'])
    const configuration = Buffer.from(information['configuration'] ?? '', 'base64').toString('utf8')
    expect(JSON.parse(configuration)).toMatchObject({ 'ietf-system:system': { hostname: 'boat-ap' } })
  })

  it('is heard: 204 to a report, which is kept, and 400 to what is not in the module', async () => {
    const told = { 'progress-type': 'config-warning', message: 'fan is loud' }
    expect(await asks(port, device, 'report-progress', told)).toMatchObject({ status: 204, body: null })
    const row = await rowOf('boat-ap')
    expect(row?.events.at(-1)).toMatchObject({
      kind: 'progress',
      type: 'config-warning',
      message: 'fan is loud',
    })
    const bad = await asks(port, device, 'report-progress', { 'progress-type': 'nearly-there' })
    expect([bad.status, tagOf(bad)]).toEqual([400, 'invalid-value'])
    expect((await asks(port, device, 'reboot', {})).status).toBe(404)
    const large = await asks(port, device, 'report-progress', { ...told, message: 'x'.repeat(20_000) })
    expect(large.status).toBe(413)
  })

  it('has no data where nobody claimed it, nor with firmware that is too old, whatever it says it is', async () => {
    const stranger = await data(certifiedBy(maker.name, makeSerial('GH', 'WIRE002')))
    expect([stranger.status, tagOf(stranger)]).toEqual([409, 'data-missing'])
    for (const model of ['A2X', ''])
      expect(tagOf(await data(device, '', { 'hw-model': model, 'os-version': '4.9.9' }))).toBe(
        'operation-failed',
      )
    expect(tagOf(await data(device, '', { ...DATA, 'hw-model': 'G8' }))).toBe('invalid-value')
  })

  it('is not taken for another, nor from a maker whom nobody trusts, nor without its key', async () => {
    const foreign = selfSigned('/CN=Another maker')
    expect(await statusOf(data(certifiedBy(foreign.name, serial)))).toBe(401)
    expect(await statusOf(data(selfSigned(`/CN=Device/serialNumber=${serial}`)))).toBe(401)
    expect(await statusOf(data(null))).toBe(401)
    for (const name of ['\0', 'two\nlines', 'x'.repeat(5000), ''])
      expect(await statusOf(data(maker, basic(name, 'x')))).toBe(401)
    // A certificate is public: who shows it without its key has no connection at all.
    await expect(data({ cert: device.cert, key: maker.key })).rejects.toThrow()
    // What it says besides does not matter: it is who its certificate says.
    const other = makeSerial('GH', 'WIRE003')
    await data(device, basic(other, 'x'))
    expect((await rowOf('boat-ap'))?.events.at(-1)).toMatchObject({ kind: 'asked' })
  })

  it('is revoked by itself, and let in again by a new secret', async () => {
    expect((await rigger('DELETE', `${SITE}/claims/${serial}/secret`)).status).toBe(200)
    expect((await rowOf('boat-ap'))?.key).toBe('revoked')
    expect(await statusOf(data(device))).toBe(401)
    await secretFor()
    expect(await statusOf(data(device))).toBe(200)
  })
})

describe('a device without one', () => {
  it('comes with the secret that was printed for it, and is known by its key from then on', async () => {
    const { secret, fingerprint, expiresAt } = await secretFor()
    expect(secret).toMatch(/^([a-z2-9]{6}-){3}[a-z2-9]{6}$/)
    expect(fingerprint).toMatch(/^([0-9A-F]{2}:){31}[0-9A-F]{2}$/)
    expect(Date.parse(expiresAt) - Date.now()).toBeGreaterThan(13 * 24 * 3_600_000)
    expect((await rowOf('boat-ap'))?.key).toBe('secret-made')
    const device = selfSigned('/CN=Itself')
    expect(await statusOf(data(device, basic(serial, 'aaaaaa-aaaaaa-aaaaaa-aaaaaa')))).toBe(401)
    // Without a key of its own to bind there is nothing that it could be known by.
    expect(await statusOf(data(null, basic(serial, secret)))).toBe(401)
    expect(await statusOf(data(device, basic(serial, secret.toUpperCase())))).toBe(200)
    expect((await rowOf('boat-ap'))?.key).toBe('bound')
    // Its key is enough now; the secret is worth nothing to whoever overheard or found it.
    expect(await statusOf(data(device, basic(serial, 'forgotten')))).toBe(200)
    const thief = selfSigned('/CN=Itself')
    expect(await statusOf(data(thief, basic(serial, secret)))).toBe(401)
    // A new secret ends the old key.
    const again = await secretFor()
    expect(await statusOf(data(device, basic(serial, secret)))).toBe(401)
    expect(await statusOf(data(thief, basic(serial, again.secret)))).toBe(200)
  })

  it('has one of two who come with the secret at once taken', async () => {
    const { secret } = await secretFor()
    const both = [selfSigned('/CN=One'), selfSigned('/CN=Two')]
    const statuses = await Promise.all(both.map((one) => statusOf(data(one, basic(serial, secret)))))
    expect(statuses.toSorted()).toEqual([200, 401])
  })

  it('comes too late after two weeks, and not at all once its claim was given up', async () => {
    const { secret } = await secretFor()
    const database = postgres(app.databaseUrl, { max: 1 })
    await database`update device_keys set expires_at = now() - interval '1 second'`
    expect(await statusOf(data(selfSigned('/CN=Late'), basic(serial, secret)))).toBe(401)
    expect((await rowOf('boat-ap'))?.key).toBe('secret-expired')
    // Of that nothing is heard: it comes to be so while nobody does anything.
    await database`update device_keys set expires_at = now() + interval '2 seconds'`
    expect((await rowOf('boat-ap'))?.key).toBe('secret-made')
    await eventually(
      () => rowOf('boat-ap'),
      (row) => row?.key === 'secret-expired',
    )
    const device = selfSigned('/CN=Gone')
    await data(device, basic(serial, (await secretFor()).secret))
    await rigger('DELETE', `${SITE}/claims/${serial}`)
    expect(await statusOf(data(device, basic(serial, 'x')))).toBe(401)
    expect(await database`select * from device_keys`).toHaveLength(0)
    await database.end()
    await rigger('POST', `${SITE}/claims`, { serial, deviceId: 'boat-ap' })
  })

  it('has none made where it is not claimed, or by who may not', async () => {
    const strange = `${SITE}/claims/${makeSerial('GH', 'WIRE009')}/secret`
    expect(refusal(await rigger('POST', strange, {}))).toEqual([404, 'no-such-claim'])
    expect(refusal(await rigger('POST', `/api/sites/carrow/claims/${serial}/secret`, {}))).toEqual([
      404,
      'no-such-claim',
    ])
    const keeper = await signedIn(app, 'keeper')
    expect((await keeper('POST', `${SITE}/claims/${serial}/secret`, {})).status).toBe(403)
  })

  it('can tell by the fingerprint whom it speaks with', async () => {
    const { fingerprint } = await secretFor()
    const chain = await new Promise<string[]>((done, fail) => {
      const socket = connect({ port, host: '127.0.0.1', rejectUnauthorized: false }, () => {
        const own = socket.getPeerCertificate(true)
        socket.destroy()
        done([own.fingerprint256, own.issuerCertificate.fingerprint256])
      }).on('error', fail)
    })
    expect(chain[1]).toBe(fingerprint)
    expect(chain[0]).not.toBe(fingerprint)
  })
})

describe('what is not a device', () => {
  it('gets nothing over plain HTTP, where it was before', async () => {
    const path = '/restconf/operations/ietf-sztp-bootstrap-server:get-bootstrapping-data'
    const reply = await client(app)('POST', path, {}, { authorization: basic(serial, 'x') })
    expect(reply.status).toBe(404)
    await expect(fetch(`http://127.0.0.1:${port}${path}`, { method: 'POST', body: '{}' })).rejects.toThrow()
  })

  it('tells of leases as somebody of the site, of its own devices and of those that nobody has claimed', async () => {
    const lease = (slug: string, of: string) =>
      rigger('POST', `/api/sites/${slug}/leases`, { serial: of, model: 'A2X', address: '10.61.1.77' })
    expect((await lease('gullhaven', serial)).status).toBe(200)
    expect((await rowOf('boat-ap'))?.events.at(-1)).toMatchObject({ kind: 'lease', address: '10.61.1.77' })
    expect((await lease('gullhaven', makeSerial('GH', 'WIRE010'))).status).toBe(200)
    expect(refusal(await lease('carrow', serial))).toEqual([409, 'not-claimed-here'])
    const keeper = await signedIn(app, 'keeper')
    expect((await keeper('POST', `${SITE}/leases`, {})).status).toBe(403)
  })
})
