import { isIP } from 'node:net'
import type { H3Event } from 'h3'
import { isPrintableLine } from '#core/format'
import { problem } from '#core/util'
import { roleAtSite } from '#contracts/roles'
import { accessFor, isNeededElsewhere, type Access } from '#server/access'
import { readiness } from '#server/platform/readiness'
import type { Visitor } from '#server/platform/route'
import { asServer } from '#server/platform/scope'
import { settings } from '#server/platform/settings'
import { sessionIdOf } from '#server/platform/visits'
import { visitorBy } from '#server/services/sessions'

/** Host of a header, without its port. */
const nameOf = (host: string): string => host.replace(/:\d+$/, '').replace(/^\[(.*)\]$/, '$1')

/**
 * Whether we are asked by a name that is ours.
 * Another name may have been made to point here, so that a page of its own reaches us (DNS rebinding); an address
 * cannot be made to.
 */
function isOurs(host: string | undefined): boolean {
  if (host === undefined) return false
  const name = nameOf(host)
  return name === 'localhost' || isIP(name) > 0 || host === settings().publicUrl?.host
}

/** Writes must come from our own pages: browsers say where a request was made. */
function isForeign(event: H3Event, host: string): boolean {
  if (event.method === 'GET' || event.method === 'HEAD') return false
  const [site, origin] = [getRequestHeader(event, 'sec-fetch-site'), getRequestHeader(event, 'origin')]
  if (site === undefined && origin === undefined) return true
  if (site !== undefined && site !== 'same-origin') return true
  const { publicUrl } = settings()
  const own = host === publicUrl?.host ? publicUrl.origin : `http://${host}`
  return origin !== undefined && origin !== own
}

/** False where a path or a query holds what neither a name nor the database can hold, or decodes to nothing. */
function isPrintableUrl(path: string): boolean {
  try {
    return isPrintableLine(decodeURIComponent(path))
  } catch {
    return false
  }
}

/** Why somebody may not; null where they may. A site at which they have no role is none to them. */
function whyNot(method: string, path: string, access: Access, visitor: Visitor) {
  if (access === 'operator') return visitor.isOperator ? null : 'operator-needed'
  if (typeof access === 'string') return null
  const slug = /^\/api\/sites\/([^/]+)\//.exec(path)?.[1]
  const role = slug === undefined ? visitor.role : roleAtSite(visitor, decodeURIComponent(slug))
  if (slug !== undefined && role === null) return 'no-such-site'
  const roles = isNeededElsewhere(method, path) ? [role, visitor.role] : [role]
  return roles.every((one) => one !== null && access.includes(one)) ? null : 'other-role'
}

export default defineEventHandler(async (event) => {
  const path = event.path.split('?')[0] ?? ''
  if (!/^\/(api|restconf|telemetry)\//.test(path)) return
  const refuse = (status: number, code: string) => {
    setResponseStatus(event, status)
    return { problems: [problem(code, '')] }
  }
  if (!readiness.isReady) return refuse(503, 'no-database')
  if (!isPrintableUrl(event.path)) return refuse(400, 'not-printable')
  const access = accessFor(event.method, path)
  if (access === undefined) return refuse(404, 'no-such-route')
  if (access === 'device') return
  const host = getRequestHeader(event, 'host')
  if (!isOurs(host)) return refuse(421, 'other-host')
  if (isForeign(event, host ?? '')) return refuse(403, 'other-origin')
  if (access === 'open') return
  const sessionId = await sessionIdOf(event)
  const visitor = sessionId === undefined ? null : await asServer(() => visitorBy(sessionId))
  if (!visitor) return refuse(401, 'sign-in-needed')
  const why = whyNot(event.method, path, access, visitor)
  if (why === 'no-such-site') return refuse(404, why)
  if (why) return refuse(403, why)
  event.context['visitor'] = visitor
})
