import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { request } from 'node:https'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

// A device as another program would be one: keys and certificates by OpenSSL, TLS by Node.js.

export interface DeviceAnswer {
  readonly status: number
  readonly type: string
  readonly body: Readonly<Record<string, unknown>> | null
}

export interface Identity {
  readonly key: string
  readonly cert: string
}

export const scratch = mkdtempSync(join(tmpdir(), 'mast-devices-'))
const at = (name: string): string => join(scratch, name)
export const openssl = (...args: readonly string[]): string =>
  execFileSync('openssl', args, { encoding: 'utf8', stdio: ['ignore', 'pipe', 'pipe'] })

let count = 0
const newKey = (name: string): string => {
  openssl('ecparam', '-name', 'prime256v1', '-genkey', '-noout', '-out', at(`${name}.key`))
  return at(`${name}.key`)
}

/** A certificate that says of itself who it is. */
export function selfSigned(subject: string): Identity & { readonly name: string } {
  const name = `own-${(count += 1)}`
  const key = newKey(name)
  openssl('req', '-x509', '-new', '-key', key, '-subj', subject, '-days', '365', '-out', at(`${name}.crt`))
  return { name, key: readFileSync(key, 'utf8'), cert: readFileSync(at(`${name}.crt`), 'utf8') }
}

/** One that a maker has signed, with the serial in its name as IEEE 802.1AR has it. */
export function certifiedBy(maker: string, serial: string): Identity {
  const name = `device-${(count += 1)}`
  const key = newKey(name)
  openssl('req', '-new', '-key', key, '-subj', `/CN=Device/serialNumber=${serial}`, '-out', at(`${name}.csr`))
  const signer = ['-CA', at(`${maker}.crt`), '-CAkey', at(`${maker}.key`), '-CAcreateserial']
  openssl('x509', '-req', '-in', at(`${name}.csr`), ...signer, '-days', '365', '-out', at(`${name}.crt`))
  return { key: readFileSync(key, 'utf8'), cert: readFileSync(at(`${name}.crt`), 'utf8') }
}

export const certificateFile = (name: string): string => at(`${name}.crt`)
export function writeScratch(name: string, content: string | Buffer): string {
  writeFileSync(at(name), content)
  return at(name)
}

export const basic = (name: string, secret: string): string =>
  `Basic ${Buffer.from(`${name}:${secret}`).toString('base64')}`

/** One question to the bootstrap server. */
export function asks(
  port: number,
  identity: Identity | null,
  rpc: string,
  input: object,
  authorization = '',
): Promise<DeviceAnswer> {
  const body = JSON.stringify({ 'ietf-sztp-bootstrap-server:input': input })
  return new Promise((done, fail) => {
    request(
      `https://127.0.0.1:${port}/restconf/operations/ietf-sztp-bootstrap-server:${rpc}`,
      {
        method: 'POST',
        agent: false,
        rejectUnauthorized: false,
        ...(identity ?? {}),
        headers: {
          'content-type': 'application/yang-data+json',
          'content-length': String(Buffer.byteLength(body)),
          ...(authorization === '' ? {} : { authorization }),
        },
      },
      (response) => {
        let text = ''
        response.setEncoding('utf8').on('data', (part: string) => (text += part))
        response.on('end', () =>
          done({
            status: response.statusCode ?? 0,
            type: response.headers['content-type'] ?? '',
            body: text === '' ? null : (JSON.parse(text) as Record<string, unknown>),
          }),
        )
      },
    )
      .on('error', fail)
      .end(body)
  })
}

export const tagOf = ({ body }: DeviceAnswer): string | undefined =>
  (body as { 'ietf-restconf:errors'?: { error: { 'error-tag': string }[] } } | null)?.['ietf-restconf:errors']
    ?.error[0]?.['error-tag']
