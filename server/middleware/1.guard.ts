import type { H3Event } from 'h3'
import { isPrintableLine } from '#core/format'
import { problem } from '#core/util'
import type { Me } from '#contracts/api'
import { accessFor } from '#server/access'
import { now } from '#server/platform/clock'

/** Writes must come from our own pages: browsers say where a request was made. */
function isForeign(
  method: string,
  site: string | undefined,
  origin: string | undefined,
  host: string | undefined,
): boolean {
  if (method === 'GET' || method === 'HEAD') return false
  if (site !== undefined) return site !== 'same-origin'
  return origin === undefined || host === undefined || origin.replace(/^https?:\/\//, '') !== host
}

// Opening a seal costs more than most answers do.
// What it held cannot change, so it is kept for a moment under its own text; a session that ends in the
// meantime ends at most this much later.
const KEPT_MS = 30_000
const MOST_KEPT = 2000
const opened = new Map<string, { readonly me: Me | undefined; readonly atMs: number }>()

async function whoIs(event: H3Event): Promise<Me | undefined> {
  const seal = getCookie(event, 'mast')
  if (seal === undefined) return undefined
  const nowMs = now().getTime()
  const kept = opened.get(seal)
  if (kept && nowMs - kept.atMs < KEPT_MS) return kept.me
  const { user } = await getUserSession(event)
  if (opened.size >= MOST_KEPT) opened.clear()
  opened.set(seal, { me: user as Me | undefined, atMs: nowMs })
  return user as Me | undefined
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
  if (!isPrintableUrl(event.path)) return refuse(400, 'not-printable')
  const access = accessFor(event.method, path)
  if (access === undefined) return refuse(404, 'no-such-route')
  if (access === 'device') return
  const foreign = isForeign(
    event.method,
    getRequestHeader(event, 'sec-fetch-site'),
    getRequestHeader(event, 'origin'),
    getRequestHeader(event, 'host'),
  )
  if (foreign) return refuse(403, 'other-origin')
  if (access === 'open') return
  const me = await whoIs(event)
  if (!me) return refuse(401, 'sign-in-needed')
  if (!access.includes(me.role)) return refuse(403, 'other-role')
  event.context['me'] = me
})
