import type { z } from 'zod'
import {
  getBootstrappingDataSchema,
  reportProgressSchema,
  restconfError,
  type BootstrappingData,
  type Onboarding,
} from '#contracts/bootstrap'
import { readJson } from '#contracts/json'
import { problemsOf } from '#contracts/plan'
import { now } from '#server/platform/clock'
import { describeError, log } from '#server/platform/log'
import { authority } from '#server/services/authorities'
import { bootstrappingData, progressReported } from '#server/services/bootstrap'
import { serialOf, type Peer } from '#server/services/device-keys'
import { certificatesAlone, CONVEYED_JSON, plainJson, signJson } from '#server/platform/signed-data'
import { makeVoucher } from '#server/platform/vouchers'

// The bootstrap server's two operations, RFC 8572 section 7.1, over RESTCONF (RFC 8040 section 3.6).

const MODULE = 'ietf-sztp-bootstrap-server'
const OUTPUT = `${MODULE}:output` as const

/** Error tag (RFC 8040 section 7) and message of each refusal. */
const REFUSALS = {
  unclaimed: { tag: 'data-missing', message: 'no bootstrapping data for this serial number' },
  'wrong-model': { tag: 'invalid-value', message: 'the plan has another model in this place' },
  'firmware-old': { tag: 'operation-failed', message: 'the firmware is too old to be adopted' },
} as const

export interface DeviceRequest {
  readonly peer: Peer
  readonly authorization: string
  readonly rpc: string
  readonly body: string
}
export interface DeviceReply {
  readonly status: number
  /** Null for an empty one. */
  readonly body: object | null
}

export const fail = (status: number, tag: string, message: string): DeviceReply => ({
  status,
  body: restconfError(tag, message),
})

/** RFC 7617. */
function basicOf(authorization: string) {
  const match = /^Basic ([A-Za-z0-9+/=]+)$/.exec(authorization)
  if (!match?.[1]) return null
  const [name = '', ...secret] = Buffer.from(match[1], 'base64').toString('utf8').split(':')
  return { name, secret: secret.join(':') }
}

type Checked<T> =
  { readonly ok: true; readonly value: T } | { readonly ok: false; readonly reply: DeviceReply }

function checked<S extends z.ZodType>(body: string, schema: S): Checked<z.infer<S>> {
  const read = readJson(body)
  const parsed = read.ok ? schema.safeParse(read.value) : null
  if (parsed?.success) return { ok: true, value: parsed.data }
  const problems = read.ok && parsed?.error ? problemsOf(parsed.error, read.value) : []
  const told = (read.ok ? problems : read.problems).map(({ code, place }) => `${code} ${place}`)
  return { ok: false, reply: fail(400, 'invalid-value', told.join('; ')) }
}

/** RFC 8572, 3: signed for a device whose maker vouches for us; plain for one that trusts the connection. */
async function conveyed(serial: string, nonce: string, onboarding: Onboarding, { isSimulated }: Peer) {
  if (!isSimulated || nonce === '') return { 'conveyed-information': plainJson(CONVEYED_JSON, onboarding) }
  const [owner, maker] = [await authority('owner'), await authority('lab-maker')]
  return {
    'conveyed-information': await signJson(CONVEYED_JSON, onboarding, owner),
    'owner-certificate': certificatesAlone(owner.certificate),
    'ownership-voucher': await makeVoucher(maker, owner, { serial, nonce, at: now() }),
  }
}

async function getBootstrappingData(serial: string, peer: Peer, asked: string): Promise<DeviceReply> {
  const read = checked(asked, getBootstrappingDataSchema)
  if (!read.ok) return read.reply
  const input = read.value[`${MODULE}:input`]
  const answer = await bootstrappingData(serial, input?.['hw-model'] ?? '', input?.['os-version'] ?? '0')
  if (answer.kind !== 'give') {
    const { tag, message } = REFUSALS[answer.kind]
    return fail(409, tag, message)
  }
  const told = await conveyed(serial, input?.nonce ?? '', answer.onboarding, peer)
  const body: BootstrappingData = { [OUTPUT]: { 'reporting-level': 'verbose', ...told } }
  return { status: 200, body }
}

async function reportProgress(serial: string, body: string): Promise<DeviceReply> {
  const told = checked(body, reportProgressSchema)
  if (!told.ok) return told.reply
  const input = told.value[`${MODULE}:input`]
  if (!input) return fail(400, 'invalid-value', 'no input')
  await progressReported(serial, input['progress-type'], input.message ?? '')
  return { status: 204, body: null }
}

/** Answers one question of a device. */
export async function answerDevice({ peer, authorization, rpc, body }: DeviceRequest): Promise<DeviceReply> {
  try {
    const serial = await serialOf(peer, basicOf(authorization))
    if (serial === null) return fail(401, 'access-denied', 'the device did not prove its serial number')
    if (rpc === `${MODULE}:get-bootstrapping-data`) return await getBootstrappingData(serial, peer, body)
    if (rpc === `${MODULE}:report-progress`) return await reportProgress(serial, body)
    return fail(404, 'invalid-value', 'no such operation')
  } catch (error) {
    log.error({ error: describeError(error) }, 'defect in the bootstrap server')
    return fail(500, 'operation-failed', 'a defect of the server')
  }
}
