import { EDITORS, HANDS, ROLES, type Role } from '#contracts/roles'

// Who may call what: the one place. A route that is not listed here is refused.
// Roles are those at the site, where a route is about one. `signed-in`: whatever their role;
// `operator`: who adds organisations; `open`: without a session.
// Devices ask elsewhere: `server/bootstrap`.

export type Access = readonly Role[] | 'signed-in' | 'operator' | 'open'

const ADMINISTRATOR: readonly Role[] = ['administrator']

export const ACCESS: Readonly<Record<string, Access>> = {
  'POST /api/sign-in': 'open',
  'POST /api/sign-in/passkey-options': 'open',
  'POST /api/sign-in/passkey': 'open',
  'GET /api/sign-in/ways': 'open',
  'POST /api/sign-in/provider': 'open',
  'POST /api/sign-in/provider-answer': 'open',
  'POST /api/sign-out': 'signed-in',
  'GET /api/health': 'open',
  'GET /api/ready': 'open',
  'GET /api/openapi': 'open',
  'POST /api/join/whom': 'open',
  'POST /api/join': 'open',
  'POST /api/join/first': 'open',
  'POST /api/join/provider': 'open',
  'POST /api/join/provider-answer': 'open',
  'GET /api/me': 'signed-in',
  'POST /api/me/password': 'signed-in',
  'GET /api/me/sessions': 'signed-in',
  'DELETE /api/me/sessions': 'signed-in',
  'DELETE /api/me/sessions/:session': 'signed-in',
  'GET /api/me/factors': 'signed-in',
  'POST /api/me/totp': 'signed-in',
  'POST /api/me/totp/confirm': 'signed-in',
  'POST /api/me/totp/remove': 'signed-in',
  'POST /api/me/recovery-codes': 'signed-in',
  'POST /api/me/passkeys/options': 'signed-in',
  'POST /api/me/passkeys': 'signed-in',
  'POST /api/me/passkeys/:passkey/remove': 'signed-in',
  'GET /api/me/identity': 'signed-in',
  'POST /api/me/identity': 'signed-in',
  'POST /api/me/identity/provider-answer': 'signed-in',
  'POST /api/me/identity/remove': 'signed-in',
  'GET /api/me/tokens': 'signed-in',
  'POST /api/me/tokens': 'signed-in',
  'DELETE /api/me/tokens/:token': 'signed-in',
  'GET /api/organisations': 'operator',
  'POST /api/organisations': 'operator',
  'DELETE /api/organisations/:organisation': 'operator',
  'PATCH /api/organisation': ADMINISTRATOR,
  'GET /api/people': ADMINISTRATOR,
  'POST /api/people': ADMINISTRATOR,
  'PATCH /api/people/:person': ADMINISTRATOR,
  'DELETE /api/people/:person': ADMINISTRATOR,
  'POST /api/people/:person/link': ADMINISTRATOR,
  'POST /api/people/:person/link-mail': ADMINISTRATOR,
  'POST /api/people/:person/clear-factors': ADMINISTRATOR,
  'GET /api/webhooks': ADMINISTRATOR,
  'POST /api/webhooks': ADMINISTRATOR,
  'PATCH /api/webhooks/:webhook': ADMINISTRATOR,
  'DELETE /api/webhooks/:webhook': ADMINISTRATOR,
  'POST /api/webhooks/:webhook/try': ADMINISTRATOR,
  'GET /api/audit': ADMINISTRATOR,
  'GET /api/audit/check': ADMINISTRATOR,
  'GET /api/audit/export': ADMINISTRATOR,
  'GET /api/deleted-sites': ADMINISTRATOR,
  'POST /api/deleted-sites/:site/restore': ADMINISTRATOR,
  'DELETE /api/deleted-sites/:site': ADMINISTRATOR,
  'POST /api/transfers': ADMINISTRATOR,
  'GET /api/sites': 'signed-in',
  'GET /api/fleet': 'signed-in',
  'POST /api/sites': EDITORS,
  'POST /api/sites/:site/archive': EDITORS,
  'POST /api/sites/:site/delete': ADMINISTRATOR,
  'POST /api/sites/:site/transfer': ADMINISTRATOR,
  'POST /api/sites/:site/copy': EDITORS,
  'POST /api/sites/:site/template': EDITORS,
  'GET /api/templates': ROLES,
  'POST /api/templates/:template/site': EDITORS,
  'DELETE /api/templates/:template': EDITORS,
  'GET /api/sites/:site/plan': ROLES,
  'PATCH /api/sites/:site/plan': EDITORS,
  'GET /api/sites/:site/revisions': ROLES,
  'GET /api/sites/:site/revisions/:revision': ROLES,
  'POST /api/sites/:site/restore': EDITORS,
  'GET /api/sites/:site/news': ROLES,
  'GET /api/sites/:site/roster': ROLES,
  'POST /api/sites/:site/claims': HANDS,
  'DELETE /api/sites/:site/claims/:serial': HANDS,
  'POST /api/sites/:site/claims/:serial/replace': HANDS,
  'POST /api/sites/:site/claims/:serial/secret': HANDS,
  'DELETE /api/sites/:site/claims/:serial/secret': HANDS,
  'POST /api/sites/:site/leases': HANDS,
  'POST /api/sites/:site/claim-list': HANDS,
  'GET /api/sites/:site/lab': HANDS,
  'POST /api/sites/:site/lab/shelf': HANDS,
  'POST /api/sites/:site/lab/power': HANDS,
  'POST /api/sites/:site/lab/aim': HANDS,
  'GET /api/sites/:site/levels': ROLES,
  'POST /api/sites/:site/levels': HANDS,
  'GET /api/sites/:site/ticks': ROLES,
  'POST /api/sites/:site/ticks': HANDS,
  'GET /api/sites/:site/steps': ROLES,
  'POST /api/sites/:site/steps': HANDS,
  'GET /api/sites/:site/photos': ROLES,
  'POST /api/sites/:site/photos': HANDS,
  'GET /api/sites/:site/photos/:photo': ROLES,
  'DELETE /api/sites/:site/photos/:photo': HANDS,
  'GET /api/sites/:site/keys': ROLES,
  'POST /api/sites/:site/keys': EDITORS,
  'POST /api/sites/:site/keys/show': EDITORS,
  'POST /api/sites/:site/keys/take': EDITORS,
  'GET /api/sites/:site/passphrases': ROLES,
  'POST /api/sites/:site/passphrases': EDITORS,
  'POST /api/sites/:site/passphrases/show': ROLES,
  'GET /api/sites/:site/proof': ROLES,
  'POST /api/sites/:site/proof/ask-lab': HANDS,
  'POST /api/sites/:site/proof/results': HANDS,
  'GET /api/sites/:site/runs': ROLES,
  'POST /api/sites/:site/runs': HANDS,
  'GET /api/sites/:site/runs/:run': ROLES,
  'DELETE /api/sites/:site/runs/:run': HANDS,
  'GET /api/sites/:site/export/:file': ROLES,
}

const ROUTES = Object.entries(ACCESS).map(([key, access]) => {
  const [method = '', path = ''] = key.split(' ')
  return { key, method, path: new RegExp(`^${path.replaceAll(/:\w+/g, '[^/]+')}$`), access }
})

const routeFor = (method: string, path: string) =>
  ROUTES.find((route) => route.method === method && route.path.test(path))

/** Needed at the site and in the organisation: what they make, or give away, is the organisation's. */
const ALSO_ELSEWHERE = [
  'POST /api/sites/:site/transfer',
  'POST /api/sites/:site/copy',
  'POST /api/sites/:site/template',
]
export const isNeededElsewhere = (method: string, path: string): boolean =>
  ALSO_ELSEWHERE.includes(routeFor(method, path)?.key ?? '')

/** What a token is never taken for: secrets, what ends a site or gives it away, and the lab's toys. */
const NOT_BY_TOKEN = /\/(keys|passphrases|secret|delete|transfer|copy|template|lab)(\/|$)/

/** Whether a program may ask it: about sites, and never about people, accounts or secrets. */
export const isForTokens = (method: string, path: string): boolean =>
  path === '/api/fleet' ||
  (/^\/api\/sites(\/|$)/.test(path) && (method === 'GET' || !NOT_BY_TOKEN.test(path)))

/** What a request needs; undefined where no route is listed. */
export const accessFor = (method: string, path: string): Access | undefined => routeFor(method, path)?.access

/** The route of a request, as it is listed. */
export const routeKeyFor = (method: string, path: string): string | undefined => routeFor(method, path)?.key
