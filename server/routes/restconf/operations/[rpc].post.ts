import type { H3Event } from 'h3'
import {
  getBootstrappingDataSchema,
  reportProgressSchema,
  restconfError,
  YANG_JSON,
  type BootstrappingData,
} from '#contracts/bootstrap'
import { wrapConveyed } from '#server/bootstrap/cms'
import { Refused, readChecked } from '#server/platform/route'
import { describeError, log } from '#server/platform/log'
import { asServer } from '#server/platform/scope'
import { serialFromBasic } from '#server/platform/secrets'
import { bootstrappingData, progressReported } from '#server/services/bootstrap'

// The bootstrap server's two operations, RFC 8572 section 7.1, over RESTCONF (RFC 8040 section 3.6).

const MODULE = 'ietf-sztp-bootstrap-server'
const MOST_BYTES = 16_000

/** Error tag (RFC 8040 section 7) and message of each refusal. */
const REFUSALS = {
  unclaimed: { tag: 'data-missing', message: 'no bootstrapping data for this serial number' },
  'wrong-model': { tag: 'invalid-value', message: 'the plan has another model in this place' },
  'firmware-old': { tag: 'operation-failed', message: 'the firmware is too old to be adopted' },
} as const

function fail(event: H3Event, status: number, tag: string, message: string) {
  setResponseStatus(event, status)
  return restconfError(tag, message)
}

async function getBootstrappingData(event: H3Event, serial: string) {
  const body = await readChecked(event, getBootstrappingDataSchema, MOST_BYTES)
  const input = body[`${MODULE}:input`]
  const answer = await bootstrappingData(serial, input?.['hw-model'] ?? '', input?.['os-version'] ?? '0')
  if (answer.kind !== 'give') {
    const { tag, message } = REFUSALS[answer.kind]
    return fail(event, 409, tag, message)
  }
  const output: BootstrappingData = {
    [`${MODULE}:output`]: {
      'reporting-level': 'verbose',
      'conveyed-information': wrapConveyed(answer.onboarding),
    },
  } as BootstrappingData
  return output
}

async function reportProgress(event: H3Event, serial: string) {
  const body = await readChecked(event, reportProgressSchema, MOST_BYTES)
  const input = body[`${MODULE}:input`]
  if (!input) return fail(event, 400, 'invalid-value', 'no input')
  await progressReported(serial, input['progress-type'], input.message ?? '')
  setResponseStatus(event, 204)
  return null
}

/** A device is of whichever organisation has claimed it. */
export default defineEventHandler((event) => asServer(() => answered(event)))

async function answered(event: H3Event) {
  setResponseHeaders(event, { 'content-type': YANG_JSON, 'cache-control': 'no-store' })
  const serial = serialFromBasic(getRequestHeader(event, 'authorization'))
  if (serial === null) {
    setResponseHeader(event, 'www-authenticate', 'Basic realm="bootstrap"')
    return fail(event, 401, 'access-denied', 'the device did not prove its serial number')
  }
  try {
    const rpc = getRouterParam(event, 'rpc')
    if (rpc === `${MODULE}:get-bootstrapping-data`) return await getBootstrappingData(event, serial)
    if (rpc === `${MODULE}:report-progress`) return await reportProgress(event, serial)
    return fail(event, 404, 'invalid-value', 'no such operation')
  } catch (error) {
    if (error instanceof Refused)
      return fail(
        event,
        error.status,
        error.status === 413 ? 'too-big' : 'invalid-value',
        error.problems.map((p) => `${p.code} ${p.place}`).join('; '),
      )
    log.error({ error: describeError(error) }, 'defect in the bootstrap server')
    return fail(event, 500, 'operation-failed', 'a defect of the server')
  }
}
