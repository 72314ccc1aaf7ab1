import type { Role } from '#contracts/api'

// Who may call what: the one place. A route that is not listed here is refused.
// `open`: without a session; `device`: a device's own authentication, checked by its handler.

export type Access = readonly Role[] | 'open' | 'device'

const ALL: readonly Role[] = ['planner', 'rigger', 'keeper']
const PLANNER: readonly Role[] = ['planner']
const HANDS: readonly Role[] = ['planner', 'rigger']

export const ACCESS: Readonly<Record<string, Access>> = {
  'POST /api/sign-in': 'open',
  'POST /api/sign-out': ALL,
  'GET /api/health': 'open',
  'GET /api/_auth/session': 'open',
  'DELETE /api/_auth/session': ALL,
  'GET /api/sites': ALL,
  'GET /api/fleet': ALL,
  'POST /api/sites': PLANNER,
  'POST /api/sites/:site/copy': PLANNER,
  'POST /api/sites/:site/template': PLANNER,
  'GET /api/templates': ALL,
  'POST /api/templates/:template/site': PLANNER,
  'DELETE /api/templates/:template': PLANNER,
  'GET /api/sites/:site/plan': ALL,
  'PATCH /api/sites/:site/plan': PLANNER,
  'GET /api/sites/:site/revisions': ALL,
  'GET /api/sites/:site/revisions/:revision': ALL,
  'POST /api/sites/:site/restore': PLANNER,
  'GET /api/sites/:site/news': ALL,
  'GET /api/sites/:site/roster': ALL,
  'POST /api/sites/:site/claims': HANDS,
  'DELETE /api/sites/:site/claims/:serial': HANDS,
  'POST /api/sites/:site/claims/:serial/replace': HANDS,
  'POST /api/sites/:site/claim-list': HANDS,
  'GET /api/sites/:site/lab': HANDS,
  'POST /api/sites/:site/lab/shelf': HANDS,
  'POST /api/sites/:site/lab/power': HANDS,
  'POST /api/sites/:site/lab/aim': HANDS,
  'GET /api/sites/:site/levels': ALL,
  'POST /api/sites/:site/levels': HANDS,
  'GET /api/sites/:site/ticks': ALL,
  'POST /api/sites/:site/ticks': HANDS,
  'GET /api/sites/:site/steps': ALL,
  'POST /api/sites/:site/steps': HANDS,
  'GET /api/sites/:site/photos': ALL,
  'POST /api/sites/:site/photos': HANDS,
  'GET /api/sites/:site/photos/:photo': ALL,
  'DELETE /api/sites/:site/photos/:photo': HANDS,
  'GET /api/sites/:site/keys': ALL,
  'POST /api/sites/:site/keys': PLANNER,
  'POST /api/sites/:site/keys/show': PLANNER,
  'POST /api/sites/:site/keys/take': PLANNER,
  'GET /api/sites/:site/passphrases': ALL,
  'POST /api/sites/:site/passphrases': PLANNER,
  'POST /api/sites/:site/passphrases/show': ALL,
  'GET /api/sites/:site/proof': ALL,
  'POST /api/sites/:site/proof/ask-lab': HANDS,
  'POST /api/sites/:site/proof/results': HANDS,
  'GET /api/sites/:site/runs': ALL,
  'POST /api/sites/:site/runs': HANDS,
  'GET /api/sites/:site/runs/:run': ALL,
  'DELETE /api/sites/:site/runs/:run': HANDS,
  'GET /api/sites/:site/export/:file': ALL,
  'POST /restconf/operations/:rpc': 'device',
  'POST /telemetry/lease': 'device',
}

const ROUTES = Object.entries(ACCESS).map(([key, access]) => {
  const [method = '', path = ''] = key.split(' ')
  return { method, path: new RegExp(`^${path.replaceAll(/:\w+/g, '[^/]+')}$`), access }
})

/** What a request needs; undefined where no route is listed. */
export function accessFor(method: string, path: string): Access | undefined {
  return ROUTES.find((route) => route.method === method && route.path.test(path))?.access
}
