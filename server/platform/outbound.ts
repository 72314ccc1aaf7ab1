import { lookup as lookUp, type LookupAddress } from 'node:dns'
import { request as requestPlain } from 'node:http'
import { request as requestTls } from 'node:https'
import { isIP, type LookupFunction } from 'node:net'
import ipaddr from 'ipaddr.js'
import type { DeliveryOutcome } from '#contracts/webhooks'
import { settings } from './settings'

// Requests that we make to addresses that people typed. They must not reach what only we can reach.

const TIMEOUT_MS = 10_000

/** Whether an address is one of the Internet's, and not of this machine or its network (RFC 6890). */
const isPublic = (address: string): boolean => ipaddr.process(address).range() === 'unicast'

/** Whether whoever runs this installation has said that it may be reached, wherever it is. */
const isNamed = (host: string): boolean => settings().webhookHosts.includes(host)

const hostOf = ({ hostname }: URL): string => hostname.replace(/^\[(.*)\]$/, '$1')

class NotPublic extends Error {}

/** Looks a name up as usual, and refuses what is not public: it is asked at each connection, as names move. */
const lookUpPublic: LookupFunction = (name, options, done) => {
  lookUp(name, { ...options, all: true }, (error, found: LookupAddress[]) => {
    if (error) return done(error, '')
    const [first] = found
    if (!first || found.some(({ address }) => !isPublic(address))) return done(new NotPublic(name), '')
    if (options.all) done(null, found)
    else done(null, first.address, first.family)
  })
}

/** Why an address cannot be one that we send to; null where it can. */
export function problemOfUrl(text: string): 'not-a-url' | 'not-https' | 'not-public' | null {
  const url = URL.canParse(text) ? new URL(text) : null
  if (!url || url.username !== '' || url.password !== '') return 'not-a-url'
  const host = hostOf(url)
  if (isNamed(host) && /^https?:$/.test(url.protocol)) return null
  if (url.protocol !== 'https:') return 'not-https'
  if (isIP(host) > 0) return isPublic(host) ? null : 'not-public'
  return host.includes('.') ? null : 'not-public'
}

export interface Answered {
  readonly outcome: DeliveryOutcome
  readonly status: number | null
}

/** Sends a body; what is answered besides the status is not read, and nobody is followed elsewhere. */
export async function post(
  text: string,
  headers: Readonly<Record<string, string>>,
  body: string,
): Promise<Answered> {
  if (problemOfUrl(text) !== null) return { outcome: 'not-public', status: null }
  const url = new URL(text)
  const request = url.protocol === 'https:' ? requestTls : requestPlain
  const lookup = isNamed(hostOf(url)) ? {} : { lookup: lookUpPublic }
  return new Promise((done) => {
    const asked = request(
      url,
      { method: 'POST', headers, agent: false, signal: AbortSignal.timeout(TIMEOUT_MS), ...lookup },
      (response) => {
        const status = response.statusCode ?? 0
        response.destroy()
        done({ outcome: status >= 200 && status < 300 ? 'taken' : 'refused', status })
      },
    )
    asked.on('error', (error) => done({ outcome: outcomeOf(error), status: null }))
    asked.end(body)
  })
}

function outcomeOf(error: Error): DeliveryOutcome {
  if (error instanceof NotPublic) return 'not-public'
  return error.name === 'TimeoutError' || error.name === 'AbortError' ? 'too-slow' : 'unreachable'
}
