import type { AuditAction } from '#contracts/audit'

// What is written down of who did it: the one place. Routes that are not listed leave no line.

/** What was asked, and what was answered. */
export interface Asked {
  readonly params: Readonly<Record<string, string>>
  readonly told: Readonly<Record<string, unknown>>
  readonly answer: unknown
}
/** What is written down of a request: what it did, and to or with what. */
type Audited = (asked: Asked) => { readonly what: AuditAction; readonly subject: string }

const fieldOf = (holder: unknown, name: string): unknown =>
  typeof holder === 'object' && holder !== null
    ? (holder as Readonly<Record<string, unknown>>)[name]
    : undefined

/** What is a text or a number, one after the other. */
const words = (...values: readonly unknown[]): string =>
  values
    .flatMap((value) => (typeof value === 'string' || typeof value === 'number' ? [String(value)] : []))
    .filter((text) => text !== '')
    .join(', ')

type Subject = (asked: Asked) => string
const nothing: Subject = () => ''
const told =
  (...names: readonly string[]): Subject =>
  (asked) =>
    words(...names.map((name) => asked.told[name]))
const param =
  (name: string): Subject =>
  ({ params }) =>
    params[name] ?? ''
const answered =
  (...names: readonly string[]): Subject =>
  ({ answer }) =>
    words(...names.map((name) => fieldOf(answer, name)))
const does =
  (what: AuditAction, subject: Subject = nothing): Audited =>
  (asked) => ({ what, subject: subject(asked) })

const SITE = '/api/sites/:site'

export const AUDITED: Readonly<Record<string, Audited>> = {
  'POST /api/sign-in': does('signed-in'),
  'POST /api/sign-in/passkey': does('signed-in'),
  'POST /api/sign-in/provider-answer': does('signed-in'),
  'POST /api/join/provider-answer': does('joined'),
  'POST /api/me/identity/provider-answer': does('identity-connected'),
  'POST /api/me/identity/remove': does('identity-removed'),
  'POST /api/me/totp/confirm': does('factor-added'),
  'POST /api/me/tokens': does('token-made', told('name')),
  'DELETE /api/me/tokens/:token': does('token-ended', answered('name')),
  'POST /api/me/passkeys': does('factor-added', told('name')),
  'POST /api/me/totp/remove': does('factor-removed'),
  'POST /api/me/passkeys/:passkey/remove': does('factor-removed'),
  'POST /api/me/recovery-codes': does('recovery-codes-made'),
  'POST /api/people/:person/clear-factors': does('factors-cleared', answered('name')),
  'POST /api/sign-out': does('signed-out'),
  'POST /api/join': does('joined'),
  'POST /api/join/first': does('joined'),
  'POST /api/me/password': does('password-changed'),
  'DELETE /api/me/sessions': does('sessions-ended'),
  'DELETE /api/me/sessions/:session': does('sessions-ended'),
  'POST /api/people': does('person-added', told('name', 'role')),
  'PATCH /api/people/:person': does('person-changed', answered('name', 'role', 'state')),
  'DELETE /api/people/:person': does('person-removed', answered('name')),
  'POST /api/people/:person/link': does('link-made', answered('name')),
  'POST /api/people/:person/link-mail': does('link-mailed', answered('name', 'to')),
  'POST /api/organisations': does('organisation-added', told('name', 'administrator')),
  'DELETE /api/organisations/:organisation': does('organisation-removed', answered('name')),
  'PATCH /api/organisation': (asked) =>
    does(
      fieldOf(asked.answer, 'needsFactor') === true ? 'organisation-strict' : 'organisation-changed',
      told('name'),
    )(asked),
  [`POST ${SITE}/transfer`]: does('site-offered'),
  'POST /api/transfers': does('site-taken', answered('slug')),
  'POST /api/webhooks': does('webhook-added', told('url')),
  'PATCH /api/webhooks/:webhook': (asked) =>
    does(asked.told['isPaused'] === true ? 'webhook-paused' : 'webhook-resumed', answered('url'))(asked),
  'DELETE /api/webhooks/:webhook': does('webhook-removed', answered('url')),
  'POST /api/sites': does('site-made', answered('slug')),
  [`POST ${SITE}/copy`]: does('site-made', answered('slug')),
  'POST /api/templates/:template/site': does('site-made', answered('slug')),
  [`POST ${SITE}/archive`]: (asked) =>
    does(asked.told['isArchived'] === true ? 'site-archived' : 'site-unarchived')(asked),
  [`POST ${SITE}/delete`]: does('site-deleted', told('name')),
  'POST /api/deleted-sites/:site/restore': does('site-restored', answered('name')),
  'DELETE /api/deleted-sites/:site': does('site-purged'),
  [`POST ${SITE}/restore`]: does('plan-restored', told('revision')),
  [`POST ${SITE}/keys`]: does('key-made', told('owner')),
  [`POST ${SITE}/keys/take`]: does('key-taken', told('owner')),
  [`POST ${SITE}/keys/show`]: does('key-shown', told('owner')),
  [`POST ${SITE}/passphrases`]: does('passphrase-set', told('ssid')),
  [`POST ${SITE}/passphrases/show`]: does('passphrase-shown', told('ssid')),
  [`POST ${SITE}/claims`]: does('device-claimed', told('serial', 'deviceId')),
  [`POST ${SITE}/claim-list`]: does('list-claimed'),
  [`DELETE ${SITE}/claims/:serial`]: does('device-released', param('serial')),
  [`POST ${SITE}/claims/:serial/replace`]: does('device-replaced', (asked) =>
    words(asked.params['serial'], asked.told['serial']),
  ),
  [`POST ${SITE}/claims/:serial/secret`]: does('device-secret-made', param('serial')),
  [`DELETE ${SITE}/claims/:serial/secret`]: does('device-revoked', param('serial')),
  [`POST ${SITE}/lab/power`]: does('lab-switched', told('serial', 'action')),
  [`GET ${SITE}/export/:file`]: does('exported', param('file')),
  'GET /api/audit/export': does('audit-exported'),
}
