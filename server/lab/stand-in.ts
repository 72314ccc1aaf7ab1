import { randomBytes } from 'node:crypto'
import { request } from 'node:https'
import { onboardingSchema, RPC_PATH, YANG_JSON } from '#contracts/bootstrap'
import { certificateText, certify, keyText, newKeys, readCertificate } from '#server/platform/certificates'
import { CONVEYED_JSON, verifiedJson } from '#server/platform/signed-data'
import { bootstrapUrl } from '#server/bootstrap/listener'
import { ownerIn } from '#server/platform/vouchers'
import { authority } from '#server/services/authorities'

// A device of the lab as it speaks on the wire: TLS to the bootstrap server, nothing else.
// It takes what a server says for nothing that it cannot prove: its maker vouches for the owner, who signs.

const TIMEOUT_MS = 10_000
const NONCE_BYTES = 16

/** What a simulated device is born with (IEEE 802.1AR): a key, its maker's word for it, and the maker's certificate. */
interface DeviceIdentity {
  readonly key: string
  readonly certificate: string
  readonly maker: string
}

const MOST_KEPT = 5000
const identities = new Map<string, Promise<DeviceIdentity>>()

async function makeIdentity(serial: string): Promise<DeviceIdentity> {
  const [maker, keys] = [await authority('lab-maker'), await newKeys()]
  return {
    key: await keyText(keys.privateKey),
    certificate: certificateText(await certify({ name: serial, isDevice: true }, keys, maker)),
    maker: certificateText(maker.certificate),
  }
}

function identityOf(serial: string): Promise<DeviceIdentity> {
  if (identities.size >= MOST_KEPT) identities.clear()
  const identity = identities.get(serial) ?? makeIdentity(serial)
  identities.set(serial, identity)
  identity.catch(() => identities.delete(serial))
  return identity
}

interface Answer {
  readonly status: number
  readonly body: unknown
}

/** RFC 8572, 5.3: the server is not known yet, so that its certificate is not judged. */
async function post(serial: string, rpc: string, input: object): Promise<Answer> {
  const { key, certificate } = await identityOf(serial)
  const body = JSON.stringify({ 'ietf-sztp-bootstrap-server:input': input })
  return new Promise((done, fail) => {
    const asked = request(
      `${bootstrapUrl()}${RPC_PATH}${rpc}`,
      {
        method: 'POST',
        key,
        cert: certificate,
        rejectUnauthorized: false,
        agent: false,
        signal: AbortSignal.timeout(TIMEOUT_MS),
        headers: {
          'content-type': YANG_JSON,
          accept: YANG_JSON,
          'content-length': String(Buffer.byteLength(body)),
        },
      },
      (response) => {
        let text = ''
        response.setEncoding('utf8').on('data', (part: string) => (text += part))
        response.on('error', fail).on('end', () => {
          done({ status: response.statusCode ?? 0, body: text === '' ? null : (JSON.parse(text) as unknown) })
        })
      },
    )
    asked.on('error', fail).end(body)
  })
}

export const report = (serial: string, type: string, message = ''): Promise<unknown> =>
  post(serial, 'report-progress', { 'progress-type': type, message })

export type Told =
  | { readonly kind: 'given'; readonly firmware: string | null; readonly configuration: string }
  | { readonly kind: 'refused'; readonly why: string }

const refusedFor = (why: string): Told => ({ kind: 'refused', why })

interface Output {
  readonly 'conveyed-information'?: string
  readonly 'ownership-voucher'?: string
}

/** What was conveyed, if the device's maker says that who signed it owns the device; null otherwise. */
async function trusted(serial: string, nonce: string, output: Output): Promise<unknown> {
  const { maker } = await identityOf(serial)
  const owner = await ownerIn(output['ownership-voucher'] ?? '', { maker, serial, nonce })
  if (owner === null) return null
  return verifiedJson(CONVEYED_JSON, output['conveyed-information'] ?? '', [readCertificate(owner)])
}

/** Asks for its bootstrapping data and reads the answer as a device would. */
export async function ask(serial: string, model: string, firmware: string): Promise<Told> {
  const nonce = randomBytes(NONCE_BYTES).toString('base64')
  const answer = await post(serial, 'get-bootstrapping-data', {
    'signed-data-preferred': [null],
    'hw-model': model,
    'os-name': 'mast-os',
    'os-version': firmware,
    nonce,
  })
  if (answer.status !== 200) {
    const error = answer.body as { 'ietf-restconf:errors'?: { error: { 'error-tag': string }[] } } | null
    return refusedFor(error?.['ietf-restconf:errors']?.error[0]?.['error-tag'] ?? `HTTP ${answer.status}`)
  }
  const { 'ietf-sztp-bootstrap-server:output': output = {} } = answer.body as Record<string, Output>
  const conveyed = onboardingSchema.safeParse(await trusted(serial, nonce, output))
  if (!conveyed.success) return refusedFor('answer not trusted')
  const information = conveyed.data['ietf-sztp-conveyed-info:onboarding-information']
  return {
    kind: 'given',
    firmware: information['boot-image']?.['os-version'] ?? null,
    configuration: Buffer.from(information.configuration, 'base64').toString('utf8'),
  }
}
