import { isIP } from 'node:net'
import type { H3Event } from 'h3'
import { isPrintableLine } from '#core/format'
import { problem } from '#core/util'
import { roleAtSite } from '#contracts/roles'
import { accessFor, isForTokens, isNeededElsewhere, type Access } from '#server/access'
import { readiness } from '#server/platform/readiness'
import type { Visitor } from '#server/platform/route'
import { asServer } from '#server/platform/scope'
import { settings } from '#server/platform/settings'
import { sessionIdOf } from '#server/platform/visits'
import { lacksFactor, visitorBy } from '#server/services/sessions'
import { visitorByToken } from '#server/services/tokens'

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

/** Why a request is not one to us, or not from our own pages; null where it is. */
function whereElse(event: H3Event, authorization: string | undefined): readonly [number, string] | null {
  const host = getRequestHeader(event, 'host')
  if (!isOurs(host)) return [421, 'other-host']
  // What a program shows no browser sends by itself: no page of others can ask with it.
  return authorization === undefined && isForeign(event, host ?? '') ? [403, 'other-origin'] : null
}

/** Who asks: by a token, or by a session. */
async function visitorOf(event: H3Event, authorization: string | undefined): Promise<Visitor | null> {
  if (authorization !== undefined) return visitorByToken(authorization)
  const sessionId = await sessionIdOf(event)
  return sessionId === undefined ? null : visitorBy(sessionId)
}

/** Whether somebody has to set a second factor up before they may ask that. */
const isHeldUp = (path: string, visitor: Visitor): boolean =>
  lacksFactor(visitor) && !/^\/api\/(me|sign-out)(\/|$)/.test(path)

/** Why a program may not; null where whose token it has decides. */
function whyNotByToken(method: string, path: string, { token }: Visitor) {
  if (!token) return null
  if (!isForTokens(method, path)) return 'not-by-token'
  return method === 'GET' || token.mayWrite ? null : 'token-reads'
}

/** Why somebody may not; null where they may. A site at which they have no role is none to them. */
function whyNot(method: string, path: string, access: Access, visitor: Visitor) {
  const byToken = whyNotByToken(method, path, visitor)
  if (byToken) return byToken
  if (isHeldUp(path, visitor)) return 'factor-needed'
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
  // Of devices' questions there are none here, so that they get no page for an answer.
  if (!/^\/(api|restconf)\//.test(path)) return
  const refuse = (status: number, code: string) => {
    setResponseStatus(event, status)
    return { problems: [problem(code, '')] }
  }
  if (!readiness.isReady) return refuse(503, 'no-database')
  if (!isPrintableUrl(event.path)) return refuse(400, 'not-printable')
  const access = accessFor(event.method, path)
  if (access === undefined) return refuse(404, 'no-such-route')
  const authorization = getRequestHeader(event, 'authorization')
  const elsewhere = whereElse(event, authorization)
  if (elsewhere) return refuse(...elsewhere)
  if (access === 'open') return
  const visitor = await asServer(() => visitorOf(event, authorization))
  if (!visitor) return refuse(401, authorization === undefined ? 'sign-in-needed' : 'token-unknown')
  const why = whyNot(event.method, path, access, visitor)
  if (why === 'no-such-site') return refuse(404, why)
  if (why) return refuse(403, why)
  event.context['visitor'] = visitor
})
