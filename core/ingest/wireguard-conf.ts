// Question: what does a WireGuard file that somebody else made mean as a tunnel of this plan?
// Method: sections and keys as wg(8) and wg-quick(8) read them, line by line; the file is seen from this
// gateway's side.
// What is not part of a plan is told, and left out.
// The private key is handed back beside the tunnel, never in it.
// Source: wg(8) "CONFIGURATION FILE FORMAT", wg-quick(8); keys are 32 bytes in base64 (RFC 7748, RFC 4648).
import {
  formatIpv4,
  formatPrefix6,
  parseIpv4,
  readInterface6,
  type Ipv4,
  readInterface4,
} from '#core/address'
import { ok, problem, refuse, type Problem, type Result } from '#core/util'
import {
  failableThings,
  freshId,
  isEndpoint,
  isPublicKey,
  USUAL_NAME,
  type Peer,
  type Plan,
  type Tunnel,
} from '#core/model'

/** What of a file a plan has no place for. */
export type LeftOut = 'preshared' | 'commands' | 'table' | 'dns' | 'addresses' | 'fwmark' | 'no-key'

export interface ReadTunnel {
  /** Without a key of its own: that follows from the private one, where it is kept. */
  readonly tunnel: Tunnel
  readonly privateKey: string | null
  /** Each with what the file says of it. */
  readonly leftOut: readonly { readonly what: LeftOut; readonly text: string }[]
}

interface Section {
  readonly name: 'interface' | 'peer'
  readonly line: number
  readonly fields: Map<string, { readonly text: string; readonly line: number }>
}

const FIELDS: Readonly<Record<Section['name'], readonly string[]>> = {
  interface: [
    'privatekey',
    'listenport',
    'fwmark',
    'address',
    'dns',
    'mtu',
    'table',
    'preup',
    'postup',
    'predown',
    'postdown',
    'saveconfig',
  ],
  peer: ['publickey', 'presharedkey', 'allowedips', 'endpoint', 'persistentkeepalive'],
}
/** Fields that may stand several times, and add up. */
const LISTS = ['address', 'dns', 'allowedips', 'preup', 'postup', 'predown', 'postdown']

function sectionsOf(text: string, problems: Problem[]): Section[] {
  const sections: Section[] = []
  const wrong = (line: number, what: string) =>
    void problems.push(problem('conf-syntax', `line ${line}`, { text: what.slice(0, 60) }))
  text.split(/\r?\n/).forEach((raw, i) => {
    const line = raw.replace(/#.*$/, '').trim()
    if (line === '') return
    const head = /^\[(\w+)\]$/.exec(line)?.[1]?.toLowerCase()
    if (head === 'interface' || head === 'peer')
      return void sections.push({ name: head, line: i + 1, fields: new Map() })
    const [, key = '', value = ''] = /^(\w+)\s*=\s*(.*)$/.exec(line) ?? []
    const section = sections.at(-1)
    const name = key.toLowerCase()
    // A secret is not repeated in what is said of it.
    if (!section || !FIELDS[section.name].includes(name))
      return wrong(i + 1, key === '' ? (line.split('=')[0] ?? '') : key)
    const before = section.fields.get(name)
    if (before && !LISTS.includes(name)) return wrong(i + 1, key)
    section.fields.set(name, {
      text: before ? `${before.text}, ${value}` : value,
      line: before?.line ?? i + 1,
    })
  })
  return sections
}

const parts = (text = ''): string[] =>
  text
    .split(',')
    .map((t) => t.trim())
    .filter((t) => t !== '')

/** Prefixes of a list, of both families; an address alone is one, as wg reads it. */
function prefixes(section: Section, field: string, problems: Problem[]): string[] {
  const found = section.fields.get(field)
  return parts(found?.text).flatMap((text) => {
    const six = text.includes(':')
    const whole = text.includes('/') ? text : `${text}/${six ? 128 : 32}`
    const face6 = six ? readInterface6(whole) : null
    if (face6) return [formatPrefix6(face6.prefix)]
    const [base = '', length = ''] = whole.split('/')
    const read = parseIpv4(base)
    const face = readInterface4(whole)
    if (read.ok && face) return [`${formatIpv4(face.prefix.base as Ipv4)}/${length}`]
    problems.push(
      problem(six ? 'not-prefix6' : 'not-prefix', `line ${found?.line ?? section.line}`, { text }),
    )
    return []
  })
}

function peerOf(
  section: Section,
  lineNumber: number,
  name: string,
  own: readonly string[],
  problems: Problem[],
): Peer {
  const at = (field: string) => section.fields.get(field)
  const check = (field: string, good: (text: string) => boolean, code: string) => {
    const found = at(field)
    if (found && !good(found.text))
      problems.push(
        problem(code, `line ${found.line}`, {
          text: field === 'publickey' ? found.text.slice(0, 8) : found.text.slice(0, 60),
        }),
      )
  }
  if (!at('publickey')) problems.push(problem('conf-no-key', `line ${section.line}`))
  check('publickey', isPublicKey, 'not-a-key')
  check('endpoint', isEndpoint, 'not-an-endpoint')
  check(
    'persistentkeepalive',
    (t) => t === 'off' || (/^\d{1,5}$/.test(t) && Number(t) <= 65_535),
    'not-allowed',
  )
  const allowed = prefixes(section, 'allowedips', problems)
  const keepalive = Number(at('persistentkeepalive')?.text)
  return {
    id: '',
    name: lineNumber === 0 ? name : `${name} ${lineNumber + 1}`,
    kind: allowed.some((a) => a.endsWith('/0')) ? 'provider' : 'site',
    publicKey: at('publickey')?.text ?? null,
    next: null,
    allowed,
    // Nothing in the file says what the far end takes from here; at least the address that it gave.
    theirAllowed: own,
    endpoint: at('endpoint')?.text ?? null,
    downMbps: null,
    upMbps: null,
    keepaliveS: keepalive > 0 ? keepalive : null,
  }
}

const MOST_CHARACTERS = 200_000

/**
 * A file for `wg-quick` or `wg setconf`, as a tunnel of a gateway. @param name of the tunnel @param
 * deviceId the gateway Errors, each with its line: conf-syntax (also for what stands twice),
 * conf-no-interface, conf-no-key, not-a-key, not-prefix, not-an-endpoint, not-allowed, too-large.
 */
export function readWireguardConf(
  plan: Plan,
  deviceId: string,
  name: string,
  text: string,
): Result<ReadTunnel> {
  if (text.length > MOST_CHARACTERS)
    return refuse(problem('too-large', '', { bytes: text.length, most: MOST_CHARACTERS }))
  const problems: Problem[] = []
  const sections = sectionsOf(text, problems)
  const faces = sections.filter((s) => s.name === 'interface')
  const [face] = faces
  if (!face || faces.length > 1)
    return refuse(...problems, problem('conf-no-interface', '', { count: faces.length }))
  const at = (field: string) => face.fields.get(field)
  const number = (field: string, otherwise: number, least: number, most: number): number => {
    const found = at(field)
    const value = found ? Number(found.text) : otherwise
    if (!Number.isInteger(value) || value < least || value > most)
      problems.push(problem('not-allowed', `line ${found?.line ?? face.line}`, { text: found?.text ?? '' }))
    return value
  }
  const key = at('privatekey')
  if (key && !isPublicKey(key.text)) problems.push(problem('not-a-key', `line ${key.line}`, { text: '' }))
  const addresses = parts(at('address')?.text).map((part) =>
    part.includes('/') ? part : `${part}/${part.includes(':') ? 128 : 32}`,
  )
  const [address = '', ...more] = addresses.filter((t) => !t.includes(':'))
  const [address6 = '', ...more6] = addresses.filter((t) => t.includes(':'))
  if (address !== '' && !readInterface4(address))
    problems.push(problem('not-prefix', `line ${at('address')?.line ?? 0}`, { text: address }))
  if (address6 !== '' && !readInterface6(address6))
    problems.push(problem('not-prefix6', `line ${at('address')?.line ?? 0}`, { text: address6 }))
  const alone = (text: string, length: number): string[] =>
    text === '' ? [] : [`${text.split('/')[0]}/${length}`]
  const own = [...alone(address, 32), ...alone(address6, 128)]
  const listenPort = number('listenport', 51_820 + plan.tunnels.length, 1, 65_535)
  const mtu = number('mtu', 1420, 576, 9000)
  const taken: { readonly id: string }[] = failableThings(plan)
  const peers = sections
    .filter((s) => s.name === 'peer')
    .map((section, i): Peer => {
      const made = { ...peerOf(section, i, `${name}, far end`, own, problems), id: freshId(taken, 'far-end') }
      taken.push(made)
      return made
    })
  if (problems.length > 0) return refuse(...problems)
  const commands = ['preup', 'postup', 'predown', 'postdown'].flatMap((f) => (at(f) ? [f] : []))
  const left = (what: LeftOut, said: string | undefined): ReadTunnel['leftOut'] =>
    said ? [{ what, text: said }] : []
  return ok({
    tunnel: {
      id: freshId(taken, 'tunnel'),
      name,
      deviceId,
      publicName: null,
      ...USUAL_NAME,
      address: address || `10.255.${plan.tunnels.length % 256}.1/32`,
      address6: address6 === '' ? null : address6,
      listenPort,
      mtu,
      publicKey: null,
      mapped: [],
      peers,
    },
    privateKey: key?.text ?? null,
    leftOut: [
      ...(sections.some((s) => s.fields.has('presharedkey'))
        ? [{ what: 'preshared' as const, text: '' }]
        : []),
      ...left('commands', commands.join(', ')),
      ...left('table', at('table')?.text),
      ...left('fwmark', at('fwmark')?.text),
      ...left('dns', at('dns')?.text),
      ...left('addresses', [...more, ...more6].join(', ')),
      ...(key ? [] : [{ what: 'no-key' as const, text: '' }]),
    ],
  })
}
