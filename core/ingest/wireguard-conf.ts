// Question: what does a WireGuard file that somebody else made mean as a tunnel of this plan?
// Method: sections and keys as wg(8) and wg-quick(8) read them, line by line; the file is seen from this
// gateway's side.
// What is not part of a plan is told, and left out.
// The private key is handed back beside the tunnel, never in it.
// Source: wg(8) "CONFIGURATION FILE FORMAT", wg-quick(8); keys are 32 bytes in base64 (RFC 7748, RFC 4648).
import { formatPrefix4, formatPrefix6, readInterface4, readInterface6 } from '#core/address'
import { ok, problem, refuse, type Problem, type Result } from '#core/util'
import { failableThings } from '#core/queries'
import { freshId, USUAL_NAME } from '#core/edit'
import { isEndpoint, isPublicKey } from '#core/format'
import type { Peer, Plan, Tunnel, DeviceId } from '#core/schema'

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

/** Fields that name commands to run. */
const COMMANDS = ['preup', 'postup', 'predown', 'postdown']
const FIELDS: Readonly<Record<Section['name'], readonly string[]>> = {
  interface: [
    'privatekey',
    'listenport',
    'fwmark',
    'address',
    'dns',
    'mtu',
    'table',
    ...COMMANDS,
    'saveconfig',
  ],
  peer: ['publickey', 'presharedkey', 'allowedips', 'endpoint', 'persistentkeepalive'],
}
/** Fields that may stand several times, and add up. */
const LISTS = ['address', 'dns', 'allowedips', ...COMMANDS]

/** Takes `key = value` into a section; false where it does not belong there, or stands twice. */
function takeField(section: Section | undefined, key: string, value: string, line: number): boolean {
  const name = key.toLowerCase()
  if (!section || !FIELDS[section.name].includes(name)) return false
  const before = section.fields.get(name)
  if (before && !LISTS.includes(name)) return false
  const text = before ? `${before.text}, ${value}` : value
  section.fields.set(name, { text, line: before?.line ?? line })
  return true
}

function sectionsOf(text: string, problems: Problem[]): Section[] {
  const sections: Section[] = []
  text.split(/\r?\n/).forEach((raw, i) => {
    const line = raw.replace(/#.*$/, '').trim()
    if (line === '') return
    const head = /^\[(\w+)\]$/.exec(line)?.[1]?.toLowerCase()
    if (head === 'interface' || head === 'peer')
      return void sections.push({ name: head, line: i + 1, fields: new Map() })
    const [, key = '', value = ''] = /^(\w+)\s*=\s*(.*)$/.exec(line) ?? []
    if (takeField(sections.at(-1), key, value, i + 1)) return
    // A secret is not repeated in what is said of it.
    const said = key === '' ? (line.split('=')[0] ?? '') : key
    problems.push(problem('conf-syntax', `line ${i + 1}`, { text: said.slice(0, 60) }))
  })
  return sections
}

const parts = (text = ''): string[] =>
  text
    .split(',')
    .map((t) => t.trim())
    .filter((t) => t !== '')

/** An address alone has all of its bits, as wg reads it. */
const withLength = (text: string): string =>
  text.includes('/') ? text : `${text}/${text.includes(':') ? 128 : 32}`

/** A prefix of either family, its host bits cleared; null where it cannot be read. */
function prefixText(text: string): string | null {
  const whole = withLength(text)
  if (text.includes(':')) {
    const ipv6 = readInterface6(whole)
    return ipv6 && formatPrefix6(ipv6.prefix)
  }
  const ipv4 = readInterface4(whole)
  return ipv4 && formatPrefix4(ipv4.prefix)
}

const notPrefix = (text: string, line: number): Problem =>
  problem(text.includes(':') ? 'not-prefix6' : 'not-prefix', `line ${line}`, { text })

/** Prefixes of a list, of both families. */
function prefixes(section: Section, field: string, problems: Problem[]): string[] {
  const found = section.fields.get(field)
  return parts(found?.text).flatMap((text) => {
    const read = prefixText(text)
    if (read === null) problems.push(notPrefix(text, found?.line ?? section.line))
    return read ?? []
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
 * A file for `wg-quick` or `wg setconf`, as a tunnel of a gateway.
 * @param deviceId the gateway
 * @param name of the tunnel
 * Errors, each with its line: conf-syntax (also for what stands twice), conf-no-interface, conf-no-key,
 * not-a-key, not-prefix, not-an-endpoint, not-allowed, too-large.
 */
export function readWireguardConf(
  plan: Plan,
  deviceId: DeviceId,
  name: string,
  text: string,
): Result<ReadTunnel> {
  if (text.length > MOST_CHARACTERS)
    return refuse(problem('too-large', '', { bytes: text.length, most: MOST_CHARACTERS }))
  const problems: Problem[] = []
  const sections = sectionsOf(text, problems)
  const own = sections.filter((s) => s.name === 'interface')
  const [section] = own
  if (!section || own.length > 1)
    return refuse(...problems, problem('conf-no-interface', '', { count: own.length }))
  const key = section.fields.get('privatekey')
  if (key && !isPublicKey(key.text)) problems.push(problem('not-a-key', `line ${key.line}`, { text: '' }))
  const addresses = addressesOf(section, problems)
  const numbers = {
    listenPort: numberOf(section, 'listenport', [1, 51_820 + plan.tunnels.length, 65_535], problems),
    mtu: numberOf(section, 'mtu', [576, 1420, 9000], problems),
  }
  const taken: { readonly id: string }[] = failableThings(plan)
  const alone = [addresses.ipv4, addresses.ipv6].filter((t) => t !== '').map(hostPrefix)
  const peers = sections
    .filter((s) => s.name === 'peer')
    .map((peer, i): Peer => {
      const made = { ...peerOf(peer, i, `${name}, far end`, alone, problems), id: freshId(taken, 'far-end') }
      taken.push(made)
      return made
    })
  if (problems.length > 0) return refuse(...problems)
  return ok({
    tunnel: {
      id: freshId(taken, 'tunnel'),
      name,
      deviceId,
      publicName: null,
      ...USUAL_NAME,
      address: addresses.ipv4 || `10.255.${plan.tunnels.length % 256}.1/32`,
      address6: addresses.ipv6 || null,
      ...numbers,
      publicKey: null,
      mapped: [],
      peers,
    },
    privateKey: key?.text ?? null,
    leftOut: leftOutOf(sections, section, addresses.more),
  })
}

/** The first address of each family, and those that a plan has no place for. */
function addressesOf(section: Section, problems: Problem[]) {
  const found = section.fields.get('address')
  const all = parts(found?.text).map(withLength)
  const [ipv4 = '', ...more] = all.filter((t) => !t.includes(':'))
  const [ipv6 = '', ...more6] = all.filter((t) => t.includes(':'))
  const unreadable = [ipv4, ipv6].filter((t) => t !== '' && prefixText(t) === null)
  problems.push(...unreadable.map((t) => notPrefix(t, found?.line ?? 0)))
  return { ipv4, ipv6, more: [...more, ...more6] }
}

/** An address as the prefix of it alone. */
const hostPrefix = (text: string): string => withLength(text.split('/')[0] ?? '')

/** A whole number of a section. @param range least, usual and most */
function numberOf(
  section: Section,
  field: string,
  [least, usual, most]: readonly [number, number, number],
  problems: Problem[],
): number {
  const found = section.fields.get(field)
  const value = found ? Number(found.text) : usual
  if (!Number.isInteger(value) || value < least || value > most)
    problems.push(problem('not-allowed', `line ${found?.line ?? section.line}`, { text: found?.text ?? '' }))
  return value
}

/** What of a file a plan has no place for, each with what the file says of it. */
function leftOutOf(
  sections: readonly Section[],
  section: Section,
  addresses: readonly string[],
): ReadTunnel['leftOut'] {
  const textOf = (field: string) => section.fields.get(field)?.text
  const commands = COMMANDS.filter((field) => section.fields.has(field))
  const left = (what: LeftOut, text: string | undefined): ReadTunnel['leftOut'] =>
    text ? [{ what, text }] : []
  const told = (what: LeftOut, holds: boolean): ReadTunnel['leftOut'] => (holds ? [{ what, text: '' }] : [])
  return [
    ...told(
      'preshared',
      sections.some((s) => s.fields.has('presharedkey')),
    ),
    ...left('commands', commands.join(', ')),
    ...left('table', textOf('table')),
    ...left('fwmark', textOf('fwmark')),
    ...left('dns', textOf('dns')),
    ...left('addresses', addresses.join(', ')),
    ...told('no-key', !section.fields.has('privatekey')),
  ]
}
