import { servicesOf } from '#core/filter'
import { conditionText, type FailureScenario } from '#core/queries'
import {
  asSecondFamily,
  cellsOf,
  flowsChanged,
  isAgainstIntent,
  keptGroups,
  restrictTo,
  singleFailures,
  speaksIpv6,
  type CellAt,
  type MatrixCell,
  type ReachabilityMatrix,
  type RowGroup,
} from '#core/reachability'
import type { Plan } from '#core/schema'
import { useAnalysis } from '~/stores/analysis'
import { usePlan } from '~/stores/plan'
import { conditionWords, namesIn } from '~/wording/names'

export type Shown = 'all' | 'wrong' | 'changed'

/** A grid that the worker is asked for; an answer that came too late is dropped. */
function useAskedGrid(
  asked: () => { scenario: FailureScenario; ipv6: boolean } | null,
  after: () => unknown,
) {
  const analysis = useAnalysis()
  const grid = shallowRef<ReachabilityMatrix | null>(null)
  let round = 0
  watch([asked, after], async ([wanted]) => {
    const mine = ++round
    const found = wanted && (await analysis.gridUnder(wanted.scenario, wanted.ipv6))
    if (mine === round) grid.value = found
  })
  return grid
}

/** The grid of the family that is looked at; of IPv6 there is one of its own, asked for when it is wanted. */
export function useFamily() {
  const plan = usePlan()
  const analysis = useAnalysis()
  const wanted = ref(false)
  const hasIpv6 = computed(() => plan.draft?.networks.some(speaksIpv6) ?? false)
  const ipv6 = computed({
    get: () => wanted.value && hasIpv6.value,
    set: (on) => (wanted.value = on),
  })
  const ipv6Grid = useAskedGrid(
    () => (ipv6.value ? { scenario: analysis.scenario, ipv6: true } : null),
    () => analysis.analysis?.grid,
  )
  const grid = computed(() => (ipv6.value ? ipv6Grid.value : (analysis.analysis?.grid ?? null)))
  return { hasIpv6, ipv6, grid }
}

/** Another scenario beside the one that is computed, and what differs. */
export function useComparison(grid: () => ReachabilityMatrix | null, ipv6: () => boolean) {
  const plan = usePlan()
  const names = computed(() => plan.draft && namesIn(plan.draft))
  const singles = computed(() => (plan.draft ? singleFailures(plan.draft) : []))
  /** Text of the condition; `well` for none, empty for no comparison. */
  const other = ref('')
  const others = computed(() => [
    { value: '', title: 'nothing' },
    { value: 'well', title: 'everything well' },
    ...singles.value.map((condition) => ({
      value: conditionText(condition),
      title: names.value ? conditionWords(condition, names.value) : '',
    })),
  ])
  const scenario = computed((): FailureScenario | null => {
    if (other.value === '') return null
    return singles.value.filter((condition) => conditionText(condition) === other.value)
  })
  const otherGrid = useAskedGrid(() => scenario.value && { scenario: scenario.value, ipv6: ipv6() }, grid)
  const flows = computed(() => {
    const now = grid()
    return now && scenario.value && otherGrid.value ? flowsChanged(now, otherGrid.value) : null
  })
  return { other, others, scenario, otherGrid, flows }
}

/** The first cell against the intent. */
export const firstWrong = (grid: ReachabilityMatrix): MatrixCell | undefined =>
  grid.cells.find(isAgainstIntent)

/** Cells of a grid, of one service alone where one is chosen. */
export function cellsShown(grid: ReachabilityMatrix, plan: Plan, serviceId: string, ipv6: boolean): CellAt {
  const service = plan.services.find(({ id }) => id === serviceId)
  const only = service && servicesOf([service.id], new Map([[service.id, service]]))
  const at = cellsOf(grid)
  return (from, to) => {
    const found = at(from, to)
    const cell = found && ipv6 ? asSecondFamily(found) : found
    return cell && only ? restrictTo(cell, only) : cell
  }
}

interface Groups {
  readonly rows: readonly RowGroup[]
  readonly columns: readonly RowGroup[]
}

/** The rows and columns that hold what is asked for. */
export function groupsShown(
  groups: readonly RowGroup[],
  at: CellAt,
  show: Shown,
  changed: ReadonlySet<string>,
): Groups {
  if (show === 'all') return { rows: groups, columns: groups }
  return keptGroups(groups, at, (cell) =>
    show === 'wrong' ? isAgainstIntent(cell) : changed.has(`${cell.from}>${cell.to}`),
  )
}

/** Those rows whose name holds the words; where none does, those columns. */
export function groupsNamed(groups: Groups, words: string, nameOf: (key: string) => string): Groups {
  if (words === '') return groups
  const isNamed = ({ keys }: RowGroup) => keys.some((key) => nameOf(key).toLowerCase().includes(words))
  return groups.rows.some(isNamed)
    ? { rows: groups.rows.filter(isNamed), columns: groups.columns }
    : { rows: groups.rows, columns: groups.columns.filter(isNamed) }
}
