import { onboardingSchema, RPC_PATH, YANG_JSON } from '#contracts/bootstrap'
import { unwrapConveyed } from '#server/bootstrap/cms'
import { birthSecret } from '#server/platform/secrets'
import { settings } from '#server/platform/settings'

// A device of the lab as it speaks on the wire: HTTP to the bootstrap server, nothing else.

const basic = (name: string): string =>
  `Basic ${Buffer.from(`${name}:${birthSecret(name)}`).toString('base64')}`

async function post(
  path: string,
  as: string,
  body: object,
  type = 'application/json',
): Promise<{ status: number; body: unknown }> {
  const response = await fetch(settings().selfUrl + path, {
    method: 'POST',
    headers: { authorization: basic(as), 'content-type': type, accept: type },
    body: JSON.stringify(body),
    signal: AbortSignal.timeout(10_000),
  })
  const text = await response.text()
  return { status: response.status, body: text === '' ? null : JSON.parse(text) }
}

export const tellLease = (serial: string, model: string, address: string) =>
  post('/telemetry/lease', 'dhcp-server', { serial, model, address })

export function report(serial: string, type: string, message = ''): Promise<unknown> {
  return post(
    `${RPC_PATH}report-progress`,
    serial,
    { 'ietf-sztp-bootstrap-server:input': { 'progress-type': type, message } },
    YANG_JSON,
  )
}

export type Told =
  | { readonly kind: 'given'; readonly firmware: string | null; readonly configuration: string }
  | { readonly kind: 'refused'; readonly why: string }

/** Asks for its bootstrapping data and reads the answer as a device would. */
export async function ask(serial: string, model: string, firmware: string): Promise<Told> {
  const input = {
    'signed-data-preferred': [null],
    'hw-model': model,
    'os-name': 'mast-os',
    'os-version': firmware,
  }
  const answer = await post(
    `${RPC_PATH}get-bootstrapping-data`,
    serial,
    { 'ietf-sztp-bootstrap-server:input': input },
    YANG_JSON,
  )
  if (answer.status !== 200) {
    const error = answer.body as { 'ietf-restconf:errors'?: { error: { 'error-tag': string }[] } } | null
    return {
      kind: 'refused',
      why: error?.['ietf-restconf:errors']?.error[0]?.['error-tag'] ?? `HTTP ${answer.status}`,
    }
  }
  const output = answer.body as { 'ietf-sztp-bootstrap-server:output'?: { 'conveyed-information'?: string } }
  const conveyed = onboardingSchema.safeParse(
    unwrapConveyed(output['ietf-sztp-bootstrap-server:output']?.['conveyed-information'] ?? ''),
  )
  if (!conveyed.success) return { kind: 'refused', why: 'answer not understood' }
  const information = conveyed.data['ietf-sztp-conveyed-info:onboarding-information']
  return {
    kind: 'given',
    firmware: information['boot-image']?.['os-version'] ?? null,
    configuration: Buffer.from(information.configuration, 'base64').toString('utf8'),
  }
}
