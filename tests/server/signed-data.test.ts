import { beforeAll, describe, expect, it } from 'vitest'
import {
  certificateText,
  certify,
  keyText,
  newAuthority,
  newKeys,
  readCertificate,
  readKey,
  type Signer,
} from '#server/platform/certificates'
import {
  certificatesAlone,
  CONVEYED_JSON,
  signJson,
  verifiedJson,
  VOUCHER_JSON,
} from '#server/platform/signed-data'
import { makeVoucher, ownerIn } from '#server/platform/vouchers'
import { openssl, writeScratch } from './device-wire'

// Certificates, signed data and vouchers, read by OpenSSL as well as by ourselves.

const AT = new Date('2026-11-30T12:00:00Z')
const VALUE = { told: 'as it is', umlaut: 'ø' }
let owner: Signer
let maker: Signer
let stranger: Signer
beforeAll(async () => {
  ;[owner, maker, stranger] = [
    await newAuthority('Owner'),
    await newAuthority('Maker'),
    await newAuthority('Stranger'),
  ]
})

const fileOf = ({ certificate }: Signer, name: string) => writeScratch(name, certificateText(certificate))
const opensslReads = (text: string, by: Signer): string => {
  const [file, trusted] = [writeScratch('signed.der', Buffer.from(text, 'base64')), fileOf(by, 'trusted.pem')]
  return openssl('cms', '-verify', '-inform', 'DER', '-in', file, '-CAfile', trusted, '-purpose', 'any')
}
/** Changes one byte near the end: of what is signed, of the signature, of something. */
function changed(text: string, at: number): string {
  const bytes = Buffer.from(text, 'base64')
  bytes[at] = (bytes[at] ?? 0) ^ 1
  return bytes.toString('base64')
}

describe('certificates', () => {
  it('are what OpenSSL takes them for: a chain, with the serial of IEEE 802.1AR', async () => {
    const device = await certify(
      { name: 'GH-1', isDevice: true, host: 'mast.example' },
      await newKeys(),
      maker,
    )
    const file = writeScratch('device.pem', certificateText(device))
    expect(openssl('verify', '-CAfile', fileOf(maker, 'maker.pem'), file)).toContain('OK')
    expect(() => openssl('verify', '-CAfile', fileOf(stranger, 'stranger.pem'), file)).toThrow()
    const text = openssl('x509', '-in', file, '-noout', '-text')
    expect(text).toMatch(/Subject: serialNumber ?= ?GH-1\n/)
    expect(text).toContain('DNS:mast.example')
    expect(text).toContain('CA:FALSE')
    expect(text).toContain('ecdsa-with-SHA256')
  })
  it('and keys are read back from what is kept of them', async () => {
    const again = {
      certificate: readCertificate(certificateText(owner.certificate)),
      key: await readKey(await keyText(owner.key)),
    }
    expect(opensslReads(await signJson(CONVEYED_JSON, VALUE, again), owner)).toBe(JSON.stringify(VALUE))
  })
})

describe('signed data', () => {
  it('is read by OpenSSL and by us, from whom we trust', async () => {
    const text = await signJson(CONVEYED_JSON, VALUE, owner)
    expect(opensslReads(text, owner)).toBe(JSON.stringify(VALUE))
    expect(() => opensslReads(text, stranger)).toThrow()
    expect(await verifiedJson(CONVEYED_JSON, text, [owner.certificate])).toEqual(VALUE)
    expect(await verifiedJson(CONVEYED_JSON, text, [stranger.certificate])).toBeNull()
    expect(await verifiedJson(VOUCHER_JSON, text, [owner.certificate]), 'of another type').toBeNull()
  })
  it('of which any byte of the content or the signature was changed is not', async () => {
    const text = await signJson(CONVEYED_JSON, VALUE, owner)
    const bytes = Buffer.from(text, 'base64')
    const content = bytes.indexOf('as it is')
    const places = [content, content + 5, bytes.length - 1, bytes.length - 20, bytes.length - 60]
    for (const place of places)
      expect(
        await verifiedJson(CONVEYED_JSON, changed(text, place), [owner.certificate]),
        `${place}`,
      ).toBeNull()
    for (const nothing of ['', 'AAAA', 'not base64!', text.slice(0, 40)])
      expect(await verifiedJson(CONVEYED_JSON, nothing, [owner.certificate])).toBeNull()
  })
  it('that somebody signed whom our authority did not certify is not, though they say its name', async () => {
    const mimic = await newAuthority('Owner')
    expect(
      await verifiedJson(CONVEYED_JSON, await signJson(CONVEYED_JSON, VALUE, mimic), [owner.certificate]),
    ).toBeNull()
  })
  it('shows an owner’s certificate alone, as OpenSSL prints it', () => {
    const file = writeScratch('alone.der', Buffer.from(certificatesAlone(owner.certificate), 'base64'))
    expect(openssl('pkcs7', '-inform', 'DER', '-in', file, '-print_certs')).toContain('CN = Owner')
  })
})

describe('an ownership voucher', () => {
  const told = { serial: 'GH-1', nonce: 'bm9uY2U=' }
  it('says whose a device is, by RFC 8366, section 5', async () => {
    const voucher = await makeVoucher(maker, owner, { ...told, at: AT })
    expect(JSON.parse(opensslReads(voucher, maker))).toEqual({
      'ietf-voucher:voucher': {
        'created-on': '2026-11-30T12:00:00.000Z',
        assertion: 'logged',
        'serial-number': 'GH-1',
        nonce: 'bm9uY2U=',
        'pinned-domain-cert': certificateText(owner.certificate).replaceAll(/-----[^-]+-----|\s/g, ''),
      },
    })
    expect(await ownerIn(voucher, { ...told, maker: certificateText(maker.certificate) })).toBe(
      certificateText(owner.certificate),
    )
  })
  it('is none for another device, another question, or from another maker', async () => {
    const voucher = await makeVoucher(maker, owner, { ...told, at: AT })
    const [good, bad] = [certificateText(maker.certificate), certificateText(stranger.certificate)]
    expect(await ownerIn(voucher, { ...told, serial: 'GH-2', maker: good })).toBeNull()
    expect(await ownerIn(voucher, { ...told, nonce: 'YW5vdGhlcg==', maker: good })).toBeNull()
    expect(await ownerIn(voucher, { ...told, maker: bad })).toBeNull()
    expect(await ownerIn('', { ...told, maker: good })).toBeNull()
  })
})
