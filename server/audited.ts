import type { Deed } from '#contracts/audit'

// What is written down of who did it: the one place. Routes that are not listed leave no line.

/** What was asked, and what was answered. */
export interface Asked {
  readonly params: Readonly<Record<string, string>>
  readonly told: Readonly<Record<string, unknown>>
  readonly answer: unknown
}
interface Audited {
  readonly what: Deed
  /** To or with what it was done. */
  readonly subject: (asked: Asked) => string
}

const text = (value: unknown): string => (typeof value === 'string' ? value : '')
const of = (holder: unknown, ...path: readonly string[]): string =>
  text(
    path.reduce((node, key) => (node as Readonly<Record<string, unknown>> | null | undefined)?.[key], holder),
  )

const nothing = () => ''
const told =
  (...names: readonly string[]) =>
  (asked: Asked) =>
    names
      .map((name) => text(asked.told[name]))
      .filter((word) => word !== '')
      .join(' ')
const param = (name: string) => (asked: Asked) => asked.params[name] ?? ''
const answered =
  (...path: readonly string[]) =>
  (asked: Asked) =>
    of(asked.answer, ...path)

const person = param('person')
const SITE = '/api/sites/:site'

export const AUDITED: Readonly<Record<string, Audited>> = {
  'POST /api/sign-in': { what: 'signed-in', subject: nothing },
  'POST /api/sign-out': { what: 'signed-out', subject: nothing },
  'POST /api/join': { what: 'joined', subject: nothing },
  'POST /api/join/first': { what: 'joined', subject: nothing },
  'POST /api/me/password': { what: 'password-changed', subject: nothing },
  'DELETE /api/me/sessions': { what: 'sessions-ended', subject: nothing },
  'DELETE /api/me/sessions/:session': { what: 'sessions-ended', subject: nothing },
  'POST /api/people': {
    what: 'person-added',
    subject: (asked) => `${told('name')(asked)}, ${told('role')(asked)}`,
  },
  'PATCH /api/people/:person': {
    what: 'person-changed',
    subject: ({ answer }) => `${of(answer, 'name')}, ${of(answer, 'role')}, ${of(answer, 'state')}`,
  },
  'DELETE /api/people/:person': {
    what: 'person-removed',
    subject: (asked) => answered('name')(asked) || person(asked),
  },
  'POST /api/people/:person/link': {
    what: 'link-made',
    subject: (asked) => answered('name')(asked) || person(asked),
  },
  'POST /api/sites': { what: 'site-made', subject: answered('slug') },
  [`POST ${SITE}/copy`]: { what: 'site-made', subject: answered('slug') },
  'POST /api/templates/:template/site': { what: 'site-made', subject: answered('slug') },
  [`POST ${SITE}/archive`]: {
    what: 'site-archived',
    subject: (asked) => (asked.told['isArchived'] === false ? 'brought back' : ''),
  },
  [`POST ${SITE}/delete`]: { what: 'site-deleted', subject: told('name') },
  'POST /api/deleted-sites/:site/restore': { what: 'site-brought-back', subject: answered('name') },
  'DELETE /api/deleted-sites/:site': { what: 'site-purged', subject: nothing },
  [`POST ${SITE}/restore`]: {
    what: 'plan-restored',
    subject: (asked) => `revision ${String(asked.told['revision'])}`,
  },
  [`POST ${SITE}/keys`]: { what: 'key-made', subject: told('owner') },
  [`POST ${SITE}/keys/take`]: { what: 'key-taken', subject: told('owner') },
  [`POST ${SITE}/keys/show`]: { what: 'key-shown', subject: told('owner') },
  [`POST ${SITE}/passphrases`]: { what: 'passphrase-set', subject: told('ssid') },
  [`POST ${SITE}/passphrases/show`]: { what: 'passphrase-shown', subject: told('ssid') },
  [`POST ${SITE}/claims`]: { what: 'device-claimed', subject: told('serial', 'deviceId') },
  [`POST ${SITE}/claim-list`]: { what: 'device-claimed', subject: () => 'by a list' },
  [`DELETE ${SITE}/claims/:serial`]: { what: 'device-released', subject: param('serial') },
  [`POST ${SITE}/claims/:serial/replace`]: {
    what: 'device-replaced',
    subject: (asked) => `${param('serial')(asked)} by ${told('serial')(asked)}`,
  },
  [`POST ${SITE}/lab/power`]: { what: 'lab-switched', subject: told('serial', 'action') },
  [`GET ${SITE}/export/:file`]: { what: 'exported', subject: param('file') },
  'GET /api/audit/export': { what: 'audit-exported', subject: nothing },
}
