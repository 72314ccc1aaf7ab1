import { parseIpv4, parseIpv6, parseMac, parsePrefix6, readInterface6 } from '#core/address'
import { orNull, problem, type Problem } from '#core/util'
import {
  BLANK_CELLULAR,
  LEAST_RSRP,
  LEAST_SINR,
  MOST_RSRP,
  MOST_SINR,
  parseApn,
  parseSim,
  type Cellular,
  type Uplink,
} from '#core/model'
import { checkChoice, checkName, checkNumber, reasons, type Column } from './columns'
import { usePlan, type PlanDraft } from '~/stores/plan'

/** `10.0.0.2/30`: the address of an interface and the length of its subnet. */
export function checkFace(text: string): readonly Problem[] {
  const [ip = '', length] = text.split('/')
  const wrong = reasons(parseIpv4(ip))
  if (wrong.length > 0) return wrong
  return length !== undefined && /^\d{1,2}$/.test(length) && Number(length) <= 32
    ? []
    : [problem('no-length', '', { text })]
}

/** The same of IPv6: `fd61:6a11:20::1/64`. */
export function checkFace6(text: string): readonly Problem[] {
  const wrong = reasons(parseIpv6(text.split('/')[0] ?? ''))
  if (wrong.length > 0) return wrong
  return readInterface6(text) ? [] : [problem('bad-length6', '', { text })]
}

const UNKNOWN = '?'
const NONE = ['', UNKNOWN, '—']
type LineDraft = PlanDraft['uplinks'][number]

/** A MAC lock as it is typed: `no`, `yes`, or the address it is locked to. */
const lockOf = (text: string): 'no' | 'yes' => (text === 'no' ? 'no' : 'yes')

/** Writes into one line of the plan, as one step to undo for each cell that is typed. */
export function useLineEdit() {
  const plan = usePlan()
  return (row: Uplink, session: string, words: string, recipe: (u: LineDraft) => void) =>
    plan.edit(`${row.name}: ${words}`, session, (draft) => {
      const uplink = draft.uplinks.find((u) => u.id === row.id)
      if (uplink) recipe(uplink)
    })
}

/** The facts of the provider's lines, a row a line. A question mark stands for what nobody has found out. */
export function useLineColumns(): readonly Column<Uplink>[] {
  const put = useLineEdit()
  const choice = (
    key: string,
    head: string,
    width: string,
    choices: readonly string[],
    { get, set }: { readonly get: (u: Uplink) => string; readonly set: (u: LineDraft, text: string) => void },
  ): Column<Uplink> => ({
    key,
    head,
    width,
    get,
    choices: () => choices,
    check: (_, text) => checkChoice(text, choices),
    commit: (row, text, session) => put(row, session, `${head} ${text}`, (u) => set(u, text)),
  })
  const number = (
    key: string,
    head: string,
    most: number,
    get: (u: Uplink) => number | null,
    set: (u: LineDraft, value: number | null) => void,
  ): Column<Uplink> => ({
    key,
    head,
    num: true,
    mono: true,
    get: (u) => String(get(u) ?? UNKNOWN),
    check: (_, text) => (NONE.includes(text) ? [] : checkNumber(text, 0, most)),
    commit: (row, text, session) =>
      put(row, session, `${head} ${text}`, (u) => set(u, NONE.includes(text) ? null : Number(text))),
  })
  return [
    {
      key: 'name',
      head: 'Line',
      strong: true,
      get: (u) => u.name,
      check: (_, text) => checkName(text),
      commit: (row, text, session) => put(row, session, `named ${text}`, (u) => void (u.name = text)),
    },
    choice('kind', 'Kind', '74px', ['pppoe', 'dhcp', 'static'], {
      get: (u) => u.kind,
      set: (u, text) => void (u.kind = text as Uplink['kind']),
    }),
    {
      key: 'tag',
      head: 'Tag',
      num: true,
      mono: true,
      get: (uplink) => {
        if (uplink.tag === null) {
          if (uplink.facts.tagKnown) return 'none'
          return UNKNOWN
        }
        return String(uplink.tag)
      },
      check: (_, text) => ([...NONE, 'none'].includes(text) ? [] : checkNumber(text, 1, 4094)),
      commit: (row, text, session) =>
        put(row, session, `tag ${text}`, (uplink) => {
          uplink.tag = [...NONE, 'none'].includes(text) ? null : Number(text)
          uplink.facts.tagKnown = !NONE.includes(text)
        }),
    },
    number(
      'pcp',
      'Prio',
      7,
      (u) => u.facts.pcp,
      (u, value) => void (u.facts.pcp = value),
    ),
    {
      key: 'macLock',
      head: 'MAC lock',
      mono: true,
      get: (u) => (u.facts.macLock === 'yes' ? (u.facts.lockedMac ?? 'yes') : (u.facts.macLock ?? UNKNOWN)),
      check: (_, text) => ([...NONE, 'no', 'yes'].includes(text) ? [] : reasons(parseMac(text))),
      commit: (row, text, session) =>
        put(row, session, `MAC lock ${text}`, (uplink) => {
          uplink.facts.macLock = NONE.includes(text) ? null : lockOf(text)
          uplink.facts.lockedMac = [...NONE, 'no', 'yes'].includes(text) ? null : text
        }),
    },
    choice('linkSpeed', 'Link', '64px', [UNKNOWN, 'auto', '100', '1000', '2500', '10000'], {
      get: (u) => u.facts.linkSpeed ?? UNKNOWN,
      set: (uplink, text) =>
        void (uplink.facts.linkSpeed = text === UNKNOWN ? null : (text as Uplink['facts']['linkSpeed'])),
    }),
    number(
      'downMbps',
      'Down',
      1_000_000,
      (u) => u.downMbps || null,
      (u, value) => void (u.downMbps = value ?? 0),
    ),
    number(
      'upMbps',
      'Up',
      1_000_000,
      (u) => u.upMbps || null,
      (u, value) => void (u.upMbps = value ?? 0),
    ),
    {
      key: 'delegated6',
      head: 'IPv6 delegated',
      mono: true,
      get: (u) => u.facts.delegated6 ?? 'none',
      check: (_, text) => ([...NONE, 'none'].includes(text) ? [] : reasons(parsePrefix6(text))),
      commit: (row, text, session) =>
        put(
          row,
          session,
          `IPv6 ${text}`,
          (u) => void (u.facts.delegated6 = [...NONE, 'none'].includes(text) ? null : text),
        ),
    },
    number(
      'capGb',
      'GB/month',
      1_000_000,
      (u) => u.facts.capGb,
      (u, value) => void (u.facts.capGb = value),
    ),
    choice('outsideKnown', 'Outside', '74px', [UNKNOWN, 'own', 'shared'], {
      get: (u) => (u.facts.outsideKnown ? u.outside : UNKNOWN),
      set: (uplink, text) => {
        uplink.facts.outsideKnown = text !== UNKNOWN
        if (text !== UNKNOWN) uplink.outside = text as Uplink['outside']
      },
    }),
    choice('modem', 'Modem', '74px', [UNKNOWN, 'bridge', 'routing', 'none'], {
      get: (u) => u.facts.modem ?? UNKNOWN,
      set: (u, text) => void (u.facts.modem = text === UNKNOWN ? null : (text as Uplink['facts']['modem'])),
    }),
  ]
}

/** Second table of the lines: what is kept elsewhere, and what the port needs. */
export function useLineMoreColumns(): readonly Column<Uplink>[] {
  const put = useLineEdit()
  const listOf = (text: string) => text.split(/[\s,;]+/).filter((t) => !NONE.includes(t))
  return [
    { key: 'name', head: 'Line', strong: true, get: (u) => u.name },
    {
      key: 'credentialsAt',
      head: 'Password is kept',
      wraps: true,
      get: (u) => u.facts.credentialsAt ?? UNKNOWN,
      edit: (u) => u.facts.credentialsAt ?? '',
      check: (_, text) => (text.length > 80 ? [problem('too-long', '', { text: text.slice(0, 20) })] : []),
      commit: (row, text, session) =>
        put(
          row,
          session,
          'credentials kept',
          (u) => void (u.facts.credentialsAt = NONE.includes(text) ? null : text),
        ),
    },
    {
      key: 'address',
      head: 'WAN address',
      mono: true,
      get: (u) => u.facts.address ?? UNKNOWN,
      edit: (u) => u.facts.address ?? '',
      check: (_, text) => (NONE.includes(text) ? [] : checkFace(text)),
      commit: (row, text, session) =>
        put(
          row,
          session,
          `address ${text}`,
          (u) => void (u.facts.address = NONE.includes(text) ? null : text),
        ),
    },
    {
      key: 'gateway',
      head: 'Gateway',
      mono: true,
      get: (u) => u.facts.gateway ?? '—',
      edit: (u) => u.facts.gateway ?? '',
      check: (_, text) => (NONE.includes(text) ? [] : reasons(parseIpv4(text))),
      commit: (row, text, session) =>
        put(
          row,
          session,
          `gateway ${text}`,
          (u) => void (u.facts.gateway = NONE.includes(text) ? null : text),
        ),
    },
    {
      key: 'dns',
      head: 'Name servers',
      mono: true,
      get: (u) => u.facts.dns.join(' ') || '—',
      edit: (u) => u.facts.dns.join(' '),
      check: (_, text) => listOf(text).flatMap((t) => reasons(parseIpv4(t))),
      commit: (row, text, session) =>
        put(row, session, `name servers ${text}`, (u) => void (u.facts.dns = listOf(text))),
    },
    {
      key: 'portEnabled',
      head: 'Port enabled',
      width: '104px',
      get: (u) => (u.facts.portEnabled ? 'yes' : 'no'),
      choices: () => ['yes', 'no'],
      check: (_, text) => checkChoice(text, ['yes', 'no']),
      commit: (row, text, session) =>
        put(row, session, `port enabled ${text}`, (u) => void (u.facts.portEnabled = text === 'yes')),
    },
    {
      key: 'cellular',
      head: 'Cellular',
      width: '84px',
      get: (u) => (u.facts.cellular ? 'yes' : 'no'),
      choices: () => ['yes', 'no'],
      check: (_, text) => checkChoice(text, ['yes', 'no']),
      commit: (row, text, session) =>
        put(
          row,
          session,
          text === 'yes' ? 'cellular' : 'not cellular',
          (uplink) =>
            void (uplink.facts.cellular =
              text === 'yes' ? (uplink.facts.cellular ?? { ...BLANK_CELLULAR }) : null),
        ),
    },
  ]
}

/** What cellular lines need and hear. */
export function useCellularColumns(): readonly Column<Uplink>[] {
  const put = useLineEdit()
  type Facts = NonNullable<LineDraft['facts']['cellular']>
  const cell = <K extends keyof Cellular>(
    key: K,
    head: string,
    check: (text: string) => readonly Problem[],
    read: (text: string) => Facts[K],
    rest: Partial<Column<Uplink>> = {},
  ): Column<Uplink> => ({
    key,
    head,
    ...rest,
    get: (u) => String(u.facts.cellular?.[key] ?? UNKNOWN),
    edit: (u) => String(u.facts.cellular?.[key] ?? ''),
    check: (uplink, text) => {
      if (!uplink.facts.cellular) return [problem('not-cellular', '')]
      if (NONE.includes(text)) return []
      return check(text)
    },
    commit: (row, text, session) =>
      put(
        row,
        session,
        `${head} ${text}`,
        (uplink) =>
          void (
            uplink.facts.cellular &&
            (uplink.facts.cellular[key] = (NONE.includes(text) ? null : read(text)) as Facts[K])
          ),
      ),
  })
  const reading =
    (least: number, most: number) =>
    (text: string): readonly Problem[] =>
      /^-?\d{1,3}(\.\d)?$/.test(text) && Number(text) >= least && Number(text) <= most
        ? []
        : [problem('not-in-range', '', { text, least, most })]
  const money = (text: string): readonly Problem[] =>
    /^\d{1,6}(\.\d{1,2})?$/.test(text) ? [] : [problem('not-in-range', '', { text, least: 0, most: 999_999 })]
  const long = (text: string): readonly Problem[] =>
    text.length > 200 ? [problem('too-long', '', { text: text.slice(0, 20) })] : []
  const numeric = { num: true, mono: true }
  return [
    { key: 'name', head: 'Line', strong: true, get: (u) => u.name },
    {
      ...cell(
        'sim',
        'SIM',
        (text) => reasons(parseSim(text)),
        (text) => orNull(parseSim(text)),
        { mono: true, wraps: true },
      ),
      get: (u) => u.facts.cellular?.sim?.replaceAll(/(.{4})(?=.)/g, '$1 ') ?? UNKNOWN,
    },
    cell(
      'apn',
      'Access point',
      (text) => reasons(parseApn(text)),
      (text) => orNull(parseApn(text)),
      { mono: true },
    ),
    cell('antennas', 'Antennas', (text) => checkNumber(text, 0, 16), Number, numeric),
    cell('antennasAt', 'Where they are', long, (text) => text, { wraps: true }),
    cell('rsrpDbm', 'RSRP dBm', reading(LEAST_RSRP, MOST_RSRP), Number, numeric),
    cell('sinrDb', 'SINR dB', reading(LEAST_SINR, MOST_SINR), Number, numeric),
    cell('pricePerMonth', 'A month', money, Number, numeric),
    cell('pricePerGb', 'GB beyond', money, Number, numeric),
  ]
}
