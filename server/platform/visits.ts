import type { H3Event } from 'h3'
import { isPrintableLine } from '#core/format'
import type { SignOn } from './provider'
import { settings } from './settings'

// What a browser brings along: the sealed session, the device it is known by, and where it asks from.

const DEVICE_COOKIE = 'mast-device'
const DEVICE_S = 180 * 24 * 3600

/** Opening a seal costs more than most answers do; what it holds never changes. */
const MOST_KEPT = 2000
const opened = new Map<string, string | undefined>()

/** Id of the session that a request brings along; undefined for none, or for one that we did not seal. */
export async function sessionIdOf(event: H3Event): Promise<string | undefined> {
  const sealed = getCookie(event, 'mast')
  if (sealed === undefined) return undefined
  if (opened.has(sealed)) return opened.get(sealed)
  const { secure } = await getUserSession(event)
  const { sessionId } = (secure ?? {}) as { readonly sessionId?: string }
  if (opened.size >= MOST_KEPT) opened.clear()
  opened.set(sealed, sessionId)
  return sessionId
}

/** Gives the browser a session, and what its device is known by. */
export async function giveSession(event: H3Event, sessionId: string, deviceProof?: string): Promise<void> {
  await replaceUserSession(event, { secure: { sessionId } as object })
  if (deviceProof === undefined) return
  const { cookie } = useRuntimeConfig(event).session
  setCookie(event, DEVICE_COOKIE, deviceProof, {
    httpOnly: true,
    sameSite: 'strict',
    path: '/api/sign-in',
    maxAge: DEVICE_S,
    secure: typeof cookie !== 'object' || cookie.secure !== false,
  })
}

const SIGN_ON_COOKIE = 'mast-sign-on'
const SIGN_ON_S = 10 * 60

const signOnSession = (event: H3Event) => {
  const { password, cookie } = useRuntimeConfig(event).session
  const options = typeof cookie === 'object' ? cookie : {}
  return useSession<{ signOn?: SignOn }>(event, {
    name: SIGN_ON_COOKIE,
    password,
    maxAge: SIGN_ON_S,
    cookie: { ...options, path: '/api' },
  })
}

/** Keeps, sealed and in the browser alone, what it was sent to the provider for. */
export const keepSignOn = async (event: H3Event, signOn: SignOn): Promise<void> => {
  const session = await signOnSession(event)
  await session.update({ signOn })
}

/** What it was sent for; null where it was not, or too long ago. It is taken once. */
export async function takeSignOn(event: H3Event): Promise<SignOn | null> {
  const session = await signOnSession(event)
  const { signOn = null } = session.data
  await session.clear()
  return signOn
}

export const deviceProofOf = (event: H3Event): string | undefined => getCookie(event, DEVICE_COOKIE)

/** Address a request comes from: of a proxy that is trusted, the one it tells of last. */
export function addressOf(event: H3Event): string {
  const peer = event.node.req.socket.remoteAddress?.replace(/^::ffff:/, '') ?? 'unknown'
  if (!settings().trustedProxies.includes(peer)) return peer
  const told = getRequestHeader(event, 'x-forwarded-for')?.split(',').at(-1)?.trim() ?? ''
  return /^[0-9a-fA-F:.]{2,45}$/.test(told) ? told : peer
}

const MOST_DEVICE = 200

/** Where somebody signs in from, as far as their browser tells. */
export function fromOf(event: H3Event): { readonly device: string; readonly address: string } {
  const told = (getRequestHeader(event, 'user-agent') ?? '').slice(0, MOST_DEVICE)
  return { device: isPrintableLine(told) ? told : '', address: addressOf(event) }
}

/** By which name, and from where, browsers use passkeys with us (W3C Web Authentication, 5.1.2). */
export interface RelyingParty {
  readonly id: string
  readonly origin: string
}

/** Null where browsers refuse: at an address without a name, or over plain HTTP from elsewhere. */
export function relyingPartyOf(event: H3Event): RelyingParty | null {
  const [host, { publicUrl }] = [getRequestHeader(event, 'host') ?? '', settings()]
  if (publicUrl && host === publicUrl.host)
    return publicUrl.protocol === 'https:' || publicUrl.hostname === 'localhost'
      ? { id: publicUrl.hostname, origin: publicUrl.origin }
      : null
  return host.replace(/:\d+$/, '') === 'localhost' ? { id: 'localhost', origin: `http://${host}` } : null
}
