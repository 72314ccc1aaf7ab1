import {
  parseInterface4,
  parseIpv4,
  parseIpv6,
  parseMac,
  parsePrefix4,
  parsePrefix6,
  readInterface6,
} from '#core/address'
import { ok, problem, refuse, type Problem, type Result } from '#core/util'
import { BLANK_CELLULAR } from '#core/edit'
import { LEAST_RSRP, LEAST_SINR, MOST_RSRP, MOST_SINR, parseApn, parseSim } from '#core/format'
import type { Cellular, Uplink } from '#core/schema'
import { usePlan, type PlanDraft } from '~/stores/plan'
import { ASSIGNMENT_WORDS } from '~/wording/kinds'
import {
  amongYesAndNo,
  asTyped,
  checkChoice,
  columnsOver,
  judged,
  name,
  oneOf,
  orNothing,
  reasons,
  useColumns,
  whole,
  wordsIn,
  type Column,
  type Put,
} from '~/ui/columns'

// The tables of the provider's lines, a row a line. A question mark stands for what nobody has found out.

/** `10.0.0.2/30`: the address of an interface and the length of its subnet. */
export const checkFace = (text: string): readonly Problem[] => reasons(parseInterface4(text))

/** The same of IPv6: `fd61:6a11:20::1/64`. */
export function checkFace6(text: string): readonly Problem[] {
  const wrong = reasons(parseIpv6(text.split('/')[0] ?? ''))
  if (wrong.length > 0) return wrong
  return readInterface6(text) ? [] : [problem('bad-length6', '', { text })]
}

const UNKNOWN = '?'
const NOTHING = ['', UNKNOWN, '—']
const NONE = [...NOTHING, 'none']
export type UplinkDraft = PlanDraft['uplinks'][number]
type Facts = Uplink['facts']

/** Writes into one line of the plan, as one step to undo for each cell that is typed. */
export function useUplinkEdit(): Put<Uplink, UplinkDraft> {
  const plan = usePlan()
  return (row, session, words, recipe) =>
    plan.edit(`${row.name}: ${words}`, session, (draft) => {
      const uplink = draft.uplinks.find((u) => u.id === row.id)
      if (uplink) recipe(uplink, draft)
    })
}

const column = columnsOver<Uplink, UplinkDraft>()
const NAME: Column<Uplink> = { key: 'name', head: 'Uplink', strong: true, get: (u) => u.name }

/** A number that nobody may know. */
const known = (
  key: string,
  head: string,
  most: number,
  read: (u: Uplink) => number | null,
  write: (u: UplinkDraft, value: number | null) => void,
) =>
  column<number | null>({
    key,
    head,
    num: true,
    mono: true,
    read: (u) => String(read(u) ?? UNKNOWN),
    parse: orNothing(NOTHING, whole(0, most)),
    write,
  })

/** One of a few words; the question mark is one of them where it is given. */
const chosen = <Word extends string>(
  key: string,
  head: string,
  words: readonly Word[],
  read: (u: Uplink) => Word,
  write: (u: UplinkDraft, word: Word) => void,
) => column<Word>({ key, head, width: '74px', choices: () => words, read, parse: oneOf(words), write })

const KINDS: readonly Uplink['kind'][] = ['pppoe', 'dhcp', 'static']
const SPEEDS = [UNKNOWN, 'auto', '100', '1000', '2500', '10000'] as const
const OUTSIDES = [UNKNOWN, 'own', 'shared'] as const
const MODEMS = [UNKNOWN, 'bridge', 'routing', 'none'] as const
const MOST_MBPS = 1_000_000
const MOST_GB = 1_000_000

function tagText({ tag, facts }: Uplink): string {
  if (tag !== null) return String(tag)
  return facts.tagKnown ? 'none' : UNKNOWN
}
const tagOf = (text: string): Result<Pick<Uplink, 'tag'> & Pick<Facts, 'tagKnown'>> => {
  if (NONE.includes(text)) return ok({ tag: null, tagKnown: text === 'none' })
  const tag = whole(1, 4094)(text)
  return tag.ok ? ok({ tag: tag.value, tagKnown: true }) : tag
}

/** A MAC lock as it is typed: `no`, `yes`, or the address it is locked to. */
function lockOf(text: string): Result<Pick<Facts, 'macLock' | 'lockedMac'>> {
  if (NOTHING.includes(text)) return ok({ macLock: null, lockedMac: null })
  if (text === 'no' || text === 'yes') return ok({ macLock: text, lockedMac: null })
  return judged({ macLock: 'yes', lockedMac: text }, reasons(parseMac(text)))
}

const LINE_COLUMNS = [
  column({
    key: 'name',
    head: 'Uplink',
    strong: true,
    read: (u) => u.name,
    parse: name,
    write: (u, text) => void (u.name = text),
    words: (text) => `named ${text}`,
  }),
  chosen(
    'kind',
    'Kind',
    Object.values(ASSIGNMENT_WORDS),
    (u) => ASSIGNMENT_WORDS[u.kind],
    (u, word) => void (u.kind = KINDS.find((kind) => ASSIGNMENT_WORDS[kind] === word) ?? u.kind),
  ),
  column({
    key: 'tag',
    head: 'Tag',
    num: true,
    mono: true,
    read: tagText,
    parse: tagOf,
    write: (uplink, { tag, tagKnown }) => {
      uplink.tag = tag
      uplink.facts.tagKnown = tagKnown
    },
    words: (text) => `tag ${text}`,
  }),
  known(
    'pcp',
    'Prio',
    7,
    (u) => u.facts.pcp,
    (u, value) => void (u.facts.pcp = value),
  ),
  column({
    key: 'macLock',
    head: 'MAC lock',
    mono: true,
    read: ({ facts }) => (facts.macLock === 'yes' ? (facts.lockedMac ?? 'yes') : (facts.macLock ?? UNKNOWN)),
    parse: lockOf,
    write: (u, lock) => void Object.assign(u.facts, lock),
  }),
  chosen(
    'linkSpeed',
    'Link',
    SPEEDS,
    (u) => u.facts.linkSpeed ?? UNKNOWN,
    (u, speed) => void (u.facts.linkSpeed = speed === UNKNOWN ? null : speed),
  ),
  known(
    'downMbps',
    'Down',
    MOST_MBPS,
    (u) => u.downMbps || null,
    (u, value) => void (u.downMbps = value ?? 0),
  ),
  known(
    'upMbps',
    'Up',
    MOST_MBPS,
    (u) => u.upMbps || null,
    (u, value) => void (u.upMbps = value ?? 0),
  ),
  column<string | null>({
    key: 'delegated6',
    head: 'IPv6 delegated',
    mono: true,
    read: (u) => u.facts.delegated6 ?? 'none',
    parse: orNothing(NONE, asTyped(parsePrefix6)),
    write: (u, text) => void (u.facts.delegated6 = text),
    words: (text) => `IPv6 ${text}`,
  }),
  known(
    'capGb',
    'GB/month',
    MOST_GB,
    (u) => u.facts.capGb,
    (u, value) => void (u.facts.capGb = value),
  ),
  chosen(
    'outsideKnown',
    'Outside',
    OUTSIDES,
    (u) => (u.facts.outsideKnown ? u.outside : UNKNOWN),
    (uplink, outside) => {
      uplink.facts.outsideKnown = outside !== UNKNOWN
      if (outside !== UNKNOWN) uplink.outside = outside
    },
  ),
  chosen(
    'modem',
    'Modem',
    MODEMS,
    (u) => u.facts.modem ?? UNKNOWN,
    (u, modem) => void (u.facts.modem = modem === UNKNOWN ? null : modem),
  ),
]

/** The facts of the provider's lines. */
export const useUplinkColumns = (): readonly Column<Uplink>[] => useColumns(LINE_COLUMNS, useUplinkEdit())

const tooLong = (text: string, most: number): readonly Problem[] =>
  text.length > most ? [problem('too-long', '', { text: text.slice(0, 20) })] : []

const FORWARDS = [UNKNOWN, 'yes', 'no'] as const
const forwardsWord = (forwards: boolean | null): string => {
  if (forwards === null) return UNKNOWN
  return forwards ? 'yes' : 'no'
}

const LINE_MORE_COLUMNS = [
  NAME,
  column<string | null>({
    key: 'credentialsAt',
    head: 'Password at',
    wraps: true,
    read: (u) => u.facts.credentialsAt ?? UNKNOWN,
    edit: (u) => u.facts.credentialsAt ?? '',
    parse: orNothing(NOTHING, (text) => judged(text, tooLong(text, 80))),
    write: (u, text) => void (u.facts.credentialsAt = text),
    words: () => 'credentials kept',
  }),
  column<string | null>({
    key: 'address',
    head: 'WAN address',
    mono: true,
    read: (u) => u.facts.address ?? UNKNOWN,
    edit: (u) => u.facts.address ?? '',
    parse: orNothing(NOTHING, asTyped(parseInterface4)),
    write: (u, text) => void (u.facts.address = text),
    words: (text) => `address ${text}`,
  }),
  column<string | null>({
    key: 'gateway',
    head: 'Gateway',
    mono: true,
    read: (u) => u.facts.gateway ?? '—',
    edit: (u) => u.facts.gateway ?? '',
    parse: orNothing(NOTHING, asTyped(parseIpv4)),
    write: (u, text) => void (u.facts.gateway = text),
    words: (text) => `gateway ${text}`,
  }),
  column<readonly string[]>({
    key: 'routed4',
    head: 'Routed here',
    wraps: true,
    mono: true,
    read: (u) => u.facts.routed4.join(' ') || 'none',
    parse: (text) => {
      const list = wordsIn(text, NONE)
      return judged(
        list,
        list.flatMap((prefix) => reasons(parsePrefix4(prefix))),
      )
    },
    write: (u, list) => void (u.facts.routed4 = [...list]),
    words: (text) => `routed here ${text}`,
  }),
  column({
    key: 'dns',
    head: 'DNS servers',
    wraps: true,
    mono: true,
    read: (u) => u.facts.dns.join(' ') || '—',
    edit: (u) => u.facts.dns.join(' '),
    parse: (text) => {
      const list = wordsIn(text, NOTHING)
      return judged(
        list,
        list.flatMap((t) => reasons(parseIpv4(t))),
      )
    },
    write: (u, list) => void (u.facts.dns = list),
    words: (text) => `name servers ${text}`,
  }),
  column<boolean | null>({
    key: 'modemForwards',
    head: 'Modem forwards',
    choices: () => FORWARDS,
    // Only a modem that routes keeps calls to itself.
    read: ({ facts }) => (facts.modem === 'routing' ? forwardsWord(facts.modemForwards) : '—'),
    edit: ({ facts }) => forwardsWord(facts.modemForwards),
    parse: (text) => judged(text === UNKNOWN ? null : text === 'yes', checkChoice(text, FORWARDS)),
    write: (u, forwards) => void (u.facts.modemForwards = forwards),
    words: (text) => `modem forwards: ${text}`,
  }),
  column({
    key: 'portEnabled',
    head: 'Port on',
    read: (u) => (u.facts.portEnabled ? 'yes' : 'no'),
    ...amongYesAndNo,
    write: (u, enabled) => void (u.facts.portEnabled = enabled),
    words: (text) => `port enabled ${text}`,
  }),
  column({
    key: 'cellular',
    head: 'Cellular',
    read: (u) => (u.facts.cellular ? 'yes' : 'no'),
    ...amongYesAndNo,
    write: ({ facts }, cellular) =>
      void (facts.cellular = cellular ? (facts.cellular ?? { ...BLANK_CELLULAR }) : null),
    words: (text) => (text === 'yes' ? 'cellular' : 'not cellular'),
  }),
]

/** Second table of the lines: what is kept elsewhere, and what the port needs. */
export const useUplinkMoreColumns = (): readonly Column<Uplink>[] =>
  useColumns(LINE_MORE_COLUMNS, useUplinkEdit())

type CellularKey = keyof Cellular & keyof NonNullable<UplinkDraft['facts']['cellular']>
const cellular = <Key extends CellularKey>(
  key: Key,
  head: string,
  parse: (text: string) => Result<NonNullable<Cellular[Key]>>,
  look: Partial<Pick<Column<Uplink>, 'num' | 'mono' | 'wraps'>> = {},
  shown: (value: NonNullable<Cellular[Key]>) => string = String,
) =>
  column<Cellular[Key] | null>({
    key,
    head,
    ...look,
    read: ({ facts }) => {
      const value = facts.cellular?.[key]
      return value === null || value === undefined ? UNKNOWN : shown(value)
    },
    edit: (u) => String(u.facts.cellular?.[key] ?? ''),
    parse: (text, uplink) =>
      uplink.facts.cellular ? orNothing(NOTHING, parse)(text) : refuse(problem('not-cellular', '')),
    write: (u, value) => void (u.facts.cellular && Object.assign(u.facts.cellular, { [key]: value })),
  })

const inRange =
  (pattern: RegExp, least: number, most: number) =>
  (text: string): Result<number> =>
    pattern.test(text) && Number(text) >= least && Number(text) <= most
      ? ok(Number(text))
      : refuse(problem('not-in-range', '', { text, least, most }))
const reading = (least: number, most: number) => inRange(/^-?\d{1,3}(\.\d)?$/, least, most)
const money = inRange(/^\d{1,6}(\.\d{1,2})?$/, 0, 999_999)
const numeric = { num: true, mono: true }
/** Digits in groups of four. */
const inFours = (digits: string) => digits.replaceAll(/(.{4})(?=.)/g, '$1 ')

const CELLULAR_COLUMNS = [
  NAME,
  cellular('sim', 'SIM', parseSim, { mono: true, wraps: true }, inFours),
  cellular('apn', 'APN', parseApn, { mono: true }),
  cellular('antennas', 'Antennas', whole(0, 16), numeric),
  cellular('antennasAt', 'Where they are', (text) => judged(text, tooLong(text, 200)), { wraps: true }),
  cellular('rsrpDbm', 'RSRP dBm', reading(LEAST_RSRP, MOST_RSRP), numeric),
  cellular('sinrDb', 'SINR dB', reading(LEAST_SINR, MOST_SINR), numeric),
  cellular('pricePerMonth', 'A month', money, numeric),
  cellular('pricePerGb', 'GB beyond', money, numeric),
]

/** What cellular lines need and hear. */
export const useCellularColumns = (): readonly Column<Uplink>[] =>
  useColumns(CELLULAR_COLUMNS, useUplinkEdit())
