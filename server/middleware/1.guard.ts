import { isIP } from 'node:net'
import type { H3Event } from 'h3'
import { isPrintableLine } from '#core/format'
import { problem } from '#core/util'
import { accessFor } from '#server/access'
import { readiness } from '#server/platform/readiness'
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
  const visitor = sessionId === undefined ? null : await visitorBy(sessionId)
  if (!visitor) return refuse(401, 'sign-in-needed')
  if (!access.includes(visitor.role)) return refuse(403, 'other-role')
  event.context['visitor'] = visitor
})
