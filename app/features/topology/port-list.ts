import { tags, vidsOf } from '#core/queries'
import type { Walk } from '#core/reachability'
import { portRowsOf, type LinkBundle, type PortRow } from './topology-graph'
import { useAnalysis } from '~/stores/analysis'
import { usePlan } from '~/stores/plan'
import { useChosen } from '~/ui/selection'

function carries({ device, portId }: PortRow, vlan: number): boolean {
  const mode = device.ports.find(({ id }) => id === portId)?.mode
  return mode !== undefined && (vidsOf(mode).includes(vlan) || tags(mode, vlan))
}
/** True for the device's own ports, and for those that a cable leads to from it. */
const isAt = ({ device, link }: PortRow, deviceId: string): boolean =>
  device.id === deviceId || [link?.a, link?.b].some((end) => end?.deviceId === deviceId)

/** The ports of what is chosen: of a device, of the cables between two, or those that carry a VLAN. */
export function usePortList() {
  const plan = usePlan()
  const chosen = useChosen()
  const bundle = shallowRef<LinkBundle | null>(null)
  const all = computed(() => (plan.draft ? portRowsOf(plan.draft, chosen.device) : []))
  const rows = computed(() => {
    const links = new Set(bundle.value?.links.map(({ id }) => id))
    if (bundle.value) return all.value.filter(({ link }) => link && links.has(link.id))
    if (chosen.device !== '') return all.value.filter((row) => isAt(row, chosen.device))
    return all.value.filter((row) => chosen.vlan === 0 || carries(row, chosen.vlan))
  })
  /** Chooses one thing alone; what was chosen already is let go. */
  function choose(next: { device?: string; bundle?: LinkBundle; vlan?: number }): void {
    const { device = '', vlan = 0 } = next
    const isSame = {
      device: chosen.device === device,
      bundle: bundle.value?.id === next.bundle?.id,
      vlan: chosen.vlan === vlan,
    }
    bundle.value = next.bundle && !isSame.bundle ? next.bundle : null
    chosen.device = isSame.device ? '' : device
    if (next.vlan !== undefined) chosen.vlan = isSame.vlan ? 0 : vlan
  }
  return { all, rows, bundle, choose }
}

/** The way of the chosen flow, walked anew after each edit. */
export function useChosenWalk() {
  const analysis = useAnalysis()
  const chosen = useChosen()
  const walk = shallowRef<Walk | null>(null)
  let round = 0
  watch(
    [() => chosen.walk, () => analysis.analysis],
    async ([flow]) => {
      const mine = ++round
      const found = flow && (await analysis.walk(flow))
      if (mine === round) walk.value = found
    },
    { immediate: true },
  )
  return walk
}
