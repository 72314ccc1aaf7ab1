import { parsePrefix4 } from '#core/address'
import { problem, type Problem } from '#core/util'
import { ENCRYPTION, GROUPS, INTEGRITY, PRF } from '#core/ipsec'
import type { IpsecEnd, IpsecLink } from '#core/schema'
import { checkChoice, checkNumber, reasons, type Column } from '~/ui/columns'
import { usePlan, type PlanDraft } from '~/stores/plan'

type EndDraft = PlanDraft['ipsec'][number]['ours']
/** One parameter, a row of the sheet. */
export interface IpsecParameter {
  readonly id: string
  readonly name: string
  readonly get: (end: IpsecEnd) => string
  readonly check: (text: string) => readonly Problem[]
  readonly set: (end: EndDraft, text: string) => void
}

const parts = (text: string): string[] => text.split(/[,\s]+/).filter((t) => t !== '')
const YES = ['yes', 'no'] as const
const AUTH = ['psk', 'certificate'] as const

const names = (
  id: string,
  name: string,
  known: readonly string[],
  get: (e: IpsecEnd) => readonly string[],
  set: (e: EndDraft, list: string[]) => void,
): IpsecParameter => ({
  id,
  name,
  get: (e) => get(e).join(', ') || 'none',
  check: (text) => (text === 'none' ? [] : parts(text).flatMap((t) => checkChoice(t, known))),
  set: (e, text) => set(e, text === 'none' ? [] : parts(text)),
})
const groups = (
  id: string,
  name: string,
  get: (e: IpsecEnd) => readonly number[],
  set: (e: EndDraft, list: number[]) => void,
): IpsecParameter =>
  names(
    id,
    name,
    [...GROUPS.keys()].map(String),
    (e) => get(e).map(String),
    (e, list) => set(e, list.map(Number)),
  )
const seconds = (
  id: string,
  name: string,
  get: (e: IpsecEnd) => number,
  set: (e: EndDraft, value: number) => void,
): IpsecParameter => ({
  id,
  name,
  get: (e) => String(get(e)),
  check: (text) => checkNumber(text, 60, 31_536_000),
  set: (e, text) => set(e, Number(text)),
})

const of = (list: readonly { readonly name: string }[]) => list.map((a) => a.name)
export const PARAMETERS: readonly IpsecParameter[] = [
  {
    id: 'identity',
    name: 'Calls itself',
    get: (e) => e.identity || '—',
    check: (t) => (t.length > 200 ? [problem('no-name', '')] : []),
    set: (e, t) => void (e.identity = t === '—' ? '' : t),
  },
  {
    id: 'address',
    name: 'Is found at',
    get: (e) => e.address || 'nowhere',
    check: (text) =>
      text === 'nowhere' || /^[A-Za-z0-9.:-]{0,253}$/.test(text)
        ? []
        : [problem('not-a-host', '', { text: text })],
    set: (e, t) => void (e.address = t === 'nowhere' ? '' : t),
  },
  {
    id: 'subnets',
    name: 'Its subnets',
    get: (e) => e.subnets.join(', ') || 'none',
    check: (t) => (t === 'none' ? [] : parts(t).flatMap((x) => reasons(parsePrefix4(x)))),
    set: (e, t) => void (e.subnets = t === 'none' ? [] : parts(t)),
  },
  {
    id: 'starts',
    name: 'Opens the connection',
    get: (e) => (e.starts ? 'yes' : 'no'),
    check: (t) => checkChoice(t, YES),
    set: (e, t) => void (e.starts = t === 'yes'),
  },
  {
    id: 'auth',
    name: 'Proves itself by',
    get: (e) => e.auth,
    check: (t) => checkChoice(t, AUTH),
    set: (e, t) => void (e.auth = t as IpsecEnd['auth']),
  },
  names(
    'ike-encryption',
    'Key exchange: encryption',
    of(ENCRYPTION),
    (e) => e.ike.encryption,
    (e, l) => void (e.ike.encryption = l),
  ),
  names(
    'ike-integrity',
    'Key exchange: integrity',
    of(INTEGRITY),
    (e) => e.ike.integrity,
    (e, l) => void (e.ike.integrity = l),
  ),
  names(
    'ike-prf',
    'Key exchange: PRF',
    of(PRF),
    (e) => e.ike.prf,
    (e, l) => void (e.ike.prf = l),
  ),
  groups(
    'ike-groups',
    'Key exchange: groups',
    (e) => e.ike.groups,
    (e, l) => void (e.ike.groups = l),
  ),
  seconds(
    'ike-life',
    'Key exchange: new keys after, s',
    (e) => e.ikeLifeS,
    (e, v) => void (e.ikeLifeS = v),
  ),
  names(
    'esp-encryption',
    'Data: encryption',
    of(ENCRYPTION),
    (e) => e.esp.encryption,
    (e, l) => void (e.esp.encryption = l),
  ),
  names(
    'esp-integrity',
    'Data: integrity',
    of(INTEGRITY),
    (e) => e.esp.integrity,
    (e, l) => void (e.esp.integrity = l),
  ),
  groups(
    'esp-groups',
    'Data: fresh exchange, groups',
    (e) => e.esp.groups,
    (e, l) => void (e.esp.groups = l),
  ),
  seconds(
    'esp-life',
    'Data: new keys after, s',
    (e) => e.espLifeS,
    (e, v) => void (e.espLifeS = v),
  ),
  {
    id: 'dpd',
    name: 'Asks after a silence of, s',
    get: (e) => (e.dpdS === null ? 'never' : String(e.dpdS)),
    check: (t) => (t === 'never' ? [] : checkNumber(t, 1, 86_400)),
    set: (e, t) => void (e.dpdS = t === 'never' ? null : Number(t)),
  },
]

/** Parameters as rows, both ends as columns. */
export function useIpsecColumns(link: () => IpsecLink | undefined): readonly Column<IpsecParameter>[] {
  const plan = usePlan()
  const side = (key: 'ours' | 'theirs', head: string): Column<IpsecParameter> => ({
    key,
    head,
    get: (parameter) => {
      const now = link()
      return now ? parameter.get(now[key]) : ''
    },
    check: (p, text) => p.check(text.trim()),
    commit: (parameter, text, session) =>
      plan.edit(`${link()?.name}: ${parameter.name.toLowerCase()}`, session, (draft) => {
        const now = draft.ipsec.find((l) => l.id === link()?.id)
        if (now) parameter.set(now[key], text.trim())
      }),
  })
  return [
    { key: 'name', head: 'Parameter', strong: true, width: '230px', get: (p) => p.name },
    side('ours', 'Here'),
    side('theirs', 'There'),
  ]
}
