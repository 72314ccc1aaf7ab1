// Question: how are intents written down, so that a person reads them and the same intents come back?
// Method: one line an intent, in the grammar below, read from left to right; an error names its line and
// column.
//
// line = id ":" selector "->" selector ":" services [ "survives" thing { "," thing } ] [ "during" schedule-id
// ] [ "logged" ] [ "#" note ]
// selector = "any" | "inside" | "internet" | "gateway" | network-id | prefix | prefix6
// | "device" device-id | "tunnel" tunnel-id | "peer" peer-id | "group" group-id
// services = "all" | service-id { "," service-id }
//
// Empty lines, and lines that begin with "#", say nothing.
// Source: a grammar of our own; prefixes as of RFC 4632, an IPv6 one with its address in brackets, as RFC
// 3986 section 3.2.2 has it.
import { parsePrefix4, parsePrefix6 } from '#core/address'
import { ok, problem, refuse, type Problem, type Result } from '#core/util'
import type { Intent, Selector } from '#core/schema'

/** Characters of an id at most, as a plan has it. */
const MOST_ID = 80
const RESERVED = ['any', 'inside', 'internet', 'gateway', 'device', 'tunnel', 'peer', 'network', 'group']

function selectorText(selector: Selector): string {
  switch (selector.kind) {
    case 'network':
      // A network that is called like a word of the grammar is told apart by the word before it.
      return RESERVED.includes(selector.id) || parsePrefix4(selector.id).ok
        ? `network ${selector.id}`
        : selector.id
    case 'device':
    case 'tunnel':
    case 'peer':
    case 'group':
      return `${selector.kind} ${selector.id}`
    case 'prefix':
      // Colons part the line: an IPv6 prefix has its address in brackets, as RFC 3986 writes them.
      return selector.prefix.includes(':') ? `[${selector.prefix.replace('/', ']/')}` : selector.prefix
    default:
      return selector.kind
  }
}

/** Intents as text, one a line, in their order. */
export function writeIntents(intents: readonly Intent[]): string {
  return intents
    .map((i) => {
      const survives = i.survives.length > 0 ? ` survives ${i.survives.join(', ')}` : ''
      const services = i.services.length === 0 ? 'all' : i.services.join(', ')
      const when = i.when === null ? '' : ` during ${i.when}`
      const note = i.note === '' ? '' : ` # ${i.note}`
      const ends = `${selectorText(i.from)} -> ${selectorText(i.to)}`
      return `${i.id}: ${ends}: ${services}${survives}${when}${i.log ? ' logged' : ''}${note}\n`
    })
    .join('')
}

class Reader {
  at = 0
  constructor(
    readonly text: string,
    readonly line: number,
  ) {}
  space(): void {
    while (/\s/.test(this.text[this.at] ?? '')) this.at++
  }
  get done(): boolean {
    this.space()
    return this.at >= this.text.length
  }
  /** Takes a word, or fails. */
  word(wanted: string): string {
    this.space()
    const found = /^[A-Za-z0-9][A-Za-z0-9._~/-]*/.exec(this.text.slice(this.at))?.[0].replace(/-$/, '')
    if (!found) throw this.wrong(wanted)
    this.at += found.length
    return found
  }
  /** Takes an id: a word that a plan can hold as one. */
  id(wanted: string): string {
    this.space()
    const start = this.at
    const found = this.word(wanted)
    if (found.includes('/') || found.length > MOST_ID) throw this.wrong(wanted, start)
    return found
  }
  /** Takes an IPv6 prefix: `[2001:db8::]/32`. */
  prefix6(): string {
    this.space()
    const [whole = '', address = '', length = ''] =
      /^\[([0-9A-Fa-f:]+)\]\/(\d{1,3})/.exec(this.text.slice(this.at)) ?? []
    const prefix = `${address}/${length}`
    if (!parsePrefix6(prefix).ok) throw this.wrong('an IPv6 prefix such as [2001:db8::]/32')
    this.at += whole.length
    return prefix
  }
  sign(sign: string): void {
    this.space()
    if (!this.text.startsWith(sign, this.at)) throw this.wrong(`"${sign}"`)
    this.at += sign.length
  }
  sees(sign: string): boolean {
    this.space()
    return this.text.startsWith(sign, this.at)
  }
  wrong(wanted: string, at = this.at): WrongText {
    return new WrongText(
      problem('intent-syntax', `line ${this.line}, column ${at + 1}`, {
        wanted,
        text: this.text.slice(at, at + 30).trim(),
      }),
    )
  }
}
/** Letters of a note that are kept. */
const MOST_NOTE = 200

class WrongText extends Error {
  constructor(readonly problem: Problem) {
    super(problem.code)
  }
}

function readSelector(reader: Reader): Selector {
  reader.space()
  const start = reader.at
  if (reader.sees('[')) return { kind: 'prefix', prefix: reader.prefix6() }
  const word = reader.word(
    'who: any, inside, internet, gateway, a network, a prefix, or device, tunnel, peer, group with an id',
  )
  switch (word) {
    case 'any':
    case 'inside':
    case 'internet':
    case 'gateway':
      return { kind: word }
    case 'device':
    case 'tunnel':
    case 'peer':
    case 'network':
    case 'group':
      return { kind: word, id: reader.id(`the id of a ${word}`) }
  }
  if (!word.includes('/')) return { kind: 'network', id: word }
  if (!parsePrefix4(word).ok) throw reader.wrong('an IPv4 prefix', start)
  return { kind: 'prefix', prefix: word }
}

function list(reader: Reader, wanted: string): string[] {
  const out = [reader.id(wanted)]
  while (reader.sees(',')) {
    reader.sign(',')
    out.push(reader.id(wanted))
  }
  return out
}

/** What may follow the services of an intent, in this order, each once. */
interface Tail {
  survives: string[]
  when: string | null
  log: boolean
}

/** Words that may still come after what was read. */
function wordsLeft({ survives, when, log }: Tail): string[] {
  const left = ['"survives"', '"during"', '"logged"']
  if (log) return []
  if (when !== null) return left.slice(2)
  return survives.length > 0 ? left.slice(1) : left
}

function readTail(reader: Reader): Tail {
  const tail: Tail = { survives: [], when: null, log: false }
  while (!reader.done && !reader.sees('#')) {
    const left = wordsLeft(tail)
    const wanted = [...left, '"#" or the end'].join(', ')
    const start = reader.at
    const word = left.length === 0 ? '' : reader.word(wanted)
    if (!left.includes(`"${word}"`)) throw reader.wrong(wanted, start)
    if (word === 'logged') tail.log = true
    else if (word === 'during') tail.when = reader.id('the id of a schedule')
    else tail.survives = list(reader, 'what may fail')
  }
  return tail
}

function readLine(text: string, line: number): Intent | null {
  const reader = new Reader(text, line)
  if (reader.done || reader.sees('#')) return null
  const id = reader.id('the name of an intent')
  reader.sign(':')
  const from = readSelector(reader)
  reader.sign('->')
  const to = readSelector(reader)
  reader.sign(':')
  const services = list(reader, 'services, or all')
  const tail = readTail(reader)
  const note = reader.sees('#') ? text.slice(reader.at + 1).trim() : ''
  return {
    id,
    from,
    to,
    services: services.length === 1 && services[0] === 'all' ? [] : services,
    ...tail,
    note: note.slice(0, MOST_NOTE),
  }
}

/** Reads intents; all of them, or every wrong line with its column. Errors: intent-syntax, intent-twice. */
export function readIntents(text: string): Result<readonly Intent[]> {
  const problems: Problem[] = []
  const intents: Intent[] = []
  text.split(/\r?\n/).forEach((lineText, i) => {
    try {
      const intent = readLine(lineText, i + 1)
      if (!intent) return
      if (intents.some((known) => known.id === intent.id))
        problems.push(problem('intent-twice', `line ${i + 1}, column 1`, { text: intent.id }))
      intents.push(intent)
    } catch (error) {
      if (!(error instanceof WrongText)) throw error
      problems.push(error.problem)
    }
  })
  return problems.length > 0 ? refuse(...problems) : ok(intents)
}
