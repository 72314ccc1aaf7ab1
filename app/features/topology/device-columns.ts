import { joinSsid, renameDevice, setCount, setHome, setModel, setSent, ssidOf } from '#core/edit'
import { MODELS, hasTrait } from '#core/queries'
import type { Device, Plan } from '#core/schema'
import { ok, problem, refuse, type Result } from '#core/util'
import { usePlan } from '~/stores/plan'
import { KIND_WORDS } from '~/wording/kinds'
import { checkNumber, idsNamed, judged, oneOf, reasons, type Column } from '~/ui/columns'

// The table of devices: what each is called, is, and where it belongs.

const NONE = '—'
const UNKNOWN = 'not known'
const MOST_HOSTS = 100_000

/** What typing into a cell makes of the whole plan, or why it cannot. */
type Step = (plan: Plan, row: Device, text: string) => Result<Plan>

interface Spec extends Pick<Column<Device>, 'key' | 'head' | 'num' | 'strong' | 'wraps'> {
  readonly read: (row: Device, plan: Plan) => string
  readonly choices?: (row: Device, plan: Plan) => readonly string[]
  readonly step: Step
}

const networkNames = (plan: Plan): string[] => [NONE, ...plan.networks.map((n) => n.name)]
const modelNames = (plan: Plan, { kind }: Device): string[] => [
  UNKNOWN,
  ...[...plan.models, ...MODELS].filter((model) => model.kind === kind).map(({ name }) => name),
]
const ssidNames = (plan: Plan): string[] => [NONE, ...plan.ssids.map(({ name }) => name)]

/** True of what has a network: hosts and whatever is managed. */
const hasHome = (device: Device): boolean => device.kind === 'hosts' || hasTrait(device, 'addressed')

function ssidsSent(row: Device, plan: Plan): string {
  return plan.ssids
    .filter(({ apIds }) => apIds.includes(row.id))
    .map(({ name }) => name)
    .join(', ')
}

function toWifi(plan: Plan, row: Device, text: string): Result<Plan> {
  if (row.kind === 'access-point') {
    const ids = idsNamed(text, plan.ssids)
    return ids.ok ? setSent(plan, row.id, ids.value) : ids
  }
  if (row.kind !== 'hosts') return refuse(problem('no-station', '', { text: row.name }))
  const named = oneOf(ssidNames(plan))(text)
  if (!named.ok) return named
  return joinSsid(plan, row.id, plan.ssids.find(({ name }) => name === text)?.id ?? null)
}

function toHome(plan: Plan, row: Device, text: string): Result<Plan> {
  if (!hasHome(row)) return refuse(problem('no-home', '', { text: row.name }))
  const named = oneOf(networkNames(plan))(text)
  return named.ok ? setHome(plan, row.id, plan.networks.find(({ name }) => name === text)?.id ?? null) : named
}

const SPECS: readonly Spec[] = [
  {
    key: 'name',
    head: 'Name',
    strong: true,
    read: ({ name }) => name,
    step: (plan, { id }, text) => renameDevice(plan, id, text),
  },
  {
    key: 'model',
    head: 'Model',
    read: ({ model }) => model || UNKNOWN,
    choices: (row, plan) => modelNames(plan, row),
    step: (plan, row, text) => {
      const named = oneOf(modelNames(plan, row))(text)
      return named.ok ? setModel(plan, row.id, text === UNKNOWN ? '' : text) : named
    },
  },
  {
    key: 'place',
    head: 'Place',
    read: ({ place }) => place || NONE,
    step: (plan, { id }, text) => {
      const place = text === NONE ? '' : text.slice(0, 80)
      return ok({ ...plan, devices: plan.devices.map((d) => (d.id === id ? { ...d, place } : d)) })
    },
  },
  {
    key: 'home',
    head: 'Network',
    read: ({ homeNetworkId }, plan) => plan.networks.find(({ id }) => id === homeNetworkId)?.name ?? NONE,
    choices: (row, plan) => (hasHome(row) ? networkNames(plan) : []),
    step: toHome,
  },
  {
    key: 'count',
    head: 'How many',
    num: true,
    read: ({ kind, count }) => (kind === 'hosts' ? String(count) : NONE),
    step: (plan, { id, kind, name }, text) => {
      if (kind !== 'hosts') return refuse(problem('is-one', '', { text: name }))
      const count = judged(Number(text), checkNumber(text, 1, MOST_HOSTS))
      return count.ok ? setCount(plan, id, count.value) : count
    },
  },
  {
    key: 'wifi',
    head: 'Wi-Fi',
    wraps: true,
    read: (row, plan) => {
      if (row.kind === 'access-point') return ssidsSent(row, plan) || NONE
      return plan.ssids.find(({ id }) => id === ssidOf(plan, row.id))?.name ?? NONE
    },
    choices: ({ kind }, plan) => (kind === 'hosts' ? ssidNames(plan) : []),
    step: toWifi,
  },
]

const KIND: Column<Device> = {
  key: 'kind',
  head: 'Kind',
  width: '110px',
  get: ({ kind }) => KIND_WORDS[kind],
}

/** The columns of the devices; each cell that is typed is one step to undo. */
export function useDeviceColumns(): readonly Column<Device>[] {
  const plan = usePlan()
  const after = (step: Step, row: Device, text: string): Result<Plan> =>
    plan.draft ? step(plan.draft, row, text) : refuse(problem('no-plan', ''))
  const columns = SPECS.map(({ read, choices, step, ...look }): Column<Device> => ({
    ...look,
    get: (row) => (plan.draft ? read(row, plan.draft) : ''),
    ...(choices ? { choices: (row: Device) => (plan.draft ? choices(row, plan.draft) : []) } : {}),
    check: (row, text) => reasons(after(step, row, text)),
    commit: (row, text, session) =>
      plan.change(`${row.name}: ${look.head.toLowerCase()} ${text}`, session, (before) => {
        const made = step(before, row, text)
        return made.ok ? made.value : before
      }),
  }))
  return columns.toSpliced(1, 0, KIND)
}
