import { X509Certificate } from 'node:crypto'
import { once } from 'node:events'
import { readFileSync } from 'node:fs'
import type { IncomingMessage, ServerResponse } from 'node:http'
import { createServer, type Server } from 'node:https'
import type { AddressInfo } from 'node:net'
import type { DetailedPeerCertificate, TLSSocket } from 'node:tls'
import { RPC_PATH, YANG_JSON } from '#contracts/bootstrap'
import { describeError, log } from '#server/platform/log'
import { asServer } from '#server/platform/scope'
import { settings } from '#server/platform/settings'
import { authority } from '#server/services/authorities'
import { keyHashOf, type Peer } from '#server/services/device-keys'
import { certificateText, certify, keyText, newKeys } from '#server/platform/certificates'
import { answerDevice, fail, type DeviceReply } from './rpc'

// Devices are spoken to over TLS alone, on a port of its own.
// Each shows a certificate: its maker's, or one that it made itself.

const MOST_BYTES = 16_000
/** Devices that are spoken with at once, and how long one may take to ask (practice). */
const MOST_CONNECTIONS = 500
const MOST_MS = 15_000
const PATH = new RegExp(`^${RPC_PATH.replace(/[^/]*$/, '')}([\\w:-]+)$`)

let server: Server | undefined
/** Fingerprint of the maker of simulated devices. */
let labMaker = ''

/** Where the devices of this machine reach it. */
export function bootstrapUrl(): string {
  const { port } = (server?.address() ?? { port: 0 }) as AddressInfo
  return `https://127.0.0.1:${port}`
}

/** Who a connection is: `authorized` says that the certificate is of a maker whom we trust (IEEE 802.1AR). */
function peerOf(socket: TLSSocket): Peer {
  const { raw, subject, issuerCertificate } = socket.getPeerCertificate(
    true,
  ) as Partial<DetailedPeerCertificate>
  if (!raw) return { keyHash: null, certified: null, isSimulated: false }
  const told = subject as unknown as Readonly<Record<string, string | undefined>>
  const certified = socket.authorized ? (told['serialNumber'] ?? null) : null
  const isSimulated = certified !== null && issuerCertificate?.fingerprint256 === labMaker
  return { keyHash: keyHashOf(raw), certified, isSimulated }
}

/** Null where it is longer than any that there is. */
async function bodyOf(request: IncomingMessage): Promise<string | null> {
  const parts: Buffer[] = []
  let bytes = 0
  for await (const part of request) {
    bytes += (part as Buffer).length
    if (bytes > MOST_BYTES) return null
    parts.push(part as Buffer)
  }
  return Buffer.concat(parts).toString('utf8')
}

async function replyTo(request: IncomingMessage): Promise<DeviceReply> {
  const rpc = PATH.exec(request.url ?? '')?.[1]
  if (request.method !== 'POST' || rpc === undefined) return fail(404, 'invalid-value', 'no such operation')
  const body = await bodyOf(request)
  if (body === null) return fail(413, 'too-big', `more than ${MOST_BYTES} bytes`)
  const { authorization = '' } = request.headers
  const peer = peerOf(request.socket as TLSSocket)
  // A device is of whichever organisation has claimed it.
  return asServer(() => answerDevice({ peer, authorization, rpc, body }))
}

async function answer(request: IncomingMessage, response: ServerResponse): Promise<void> {
  const { status, body } = await replyTo(request)
  response.writeHead(status, {
    'content-type': YANG_JSON,
    'cache-control': 'no-store',
    ...(status === 413 ? { connection: 'close' } : {}),
  })
  response.end(body === null ? undefined : JSON.stringify(body))
}

/** Makers whom we trust: that of the lab, and those that whoever runs the installation has named. */
async function makers(): Promise<string[]> {
  const lab = certificateText((await authority('lab-maker')).certificate)
  labMaker = new X509Certificate(lab).fingerprint256
  const { deviceMakers } = settings()
  return [lab, ...(deviceMakers === '' ? [] : [readFileSync(deviceMakers, 'utf8')])]
}

/** Listens until it is closed: for all, where a port was named, and else for this machine alone. */
export async function openListener(): Promise<void> {
  const { bootstrapPort, publicUrl } = settings()
  const owner = await authority('owner')
  const keys = await newKeys()
  const host = publicUrl?.hostname ?? 'localhost'
  const certificate = await certify({ name: 'Able Mast bootstrap', host }, keys, owner)
  server = createServer(
    {
      key: await keyText(keys.privateKey),
      cert: certificateText(certificate) + certificateText(owner.certificate),
      ca: await makers(),
      requestCert: true,
      // Who has no maker's certificate shows one of their own, and a secret the first time.
      rejectUnauthorized: false,
      minVersion: 'TLSv1.2',
      requestTimeout: MOST_MS,
    },
    (request, response) => {
      answer(request, response).catch((error: unknown) => {
        log.warn({ error: describeError(error) }, 'a device was not answered')
        response.destroy()
      })
    },
  )
  server.maxConnections = MOST_CONNECTIONS
  if (bootstrapPort !== null && (await isListening(server, { port: bootstrapPort }))) return
  await isListening(server, { port: 0, host: '127.0.0.1' })
}

/** False where it cannot, as where another process of this machine has the port. */
async function isListening(
  on: Server,
  where: { readonly port: number; readonly host?: string },
): Promise<boolean> {
  try {
    on.listen(where)
    await once(on, 'listening')
    return true
  } catch (error) {
    log.error({ error: describeError(error), port: where.port }, 'devices cannot reach the bootstrap server')
    return false
  }
}

export async function closeListener(): Promise<void> {
  const open = server
  server = undefined
  if (!open) return
  open.closeAllConnections()
  await new Promise<void>((done) => open.close(() => done()))
}
