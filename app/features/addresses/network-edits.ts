import { BLANK_FIXED, firstFreeAddress, freshId, proposeNetwork, takenAddresses } from '#core/edit'
import type { Network, Plan, StaticAssignment } from '#core/schema'
import { problem } from '#core/util'
import { useTimestamp } from '@vueuse/core'
import { usePointer } from '~/shell/finding-navigation'
import { usePlan } from '~/stores/plan'
import { useSite } from '~/stores/site'
import { useChosen } from '~/ui/selection'
import { count } from '~/wording/count'

/** Networks and fixed addresses, added and removed; what was added has the focus. */
export function useNetworkEdits() {
  const plan = usePlan()
  const chosen = useChosen()
  const { goToPlace } = usePointer()

  function addNetwork(): void {
    const made = plan.draft && proposeNetwork(plan.draft)
    if (!made) {
      plan.problems = [problem('no-room', '', { block: plan.draft?.site.supernet ?? '' })]
      return
    }
    plan.change(`network ${made.vlan} added`, '', (now) => ({ ...now, networks: [...now.networks, made] }))
    chosen.network = made.id
    void goToPlace('addresses', ['networks', made.id, 'name'])
  }
  const removeNetwork = (gone: Network): void =>
    plan.edit(`${gone.name} removed`, '', (draft) => {
      draft.networks = draft.networks.filter(({ id }) => id !== gone.id)
    })
  function addFixed(home: Network): void {
    const ip = plan.draft && firstFreeAddress(home, takenAddresses(plan.draft))
    if (ip === null) {
      plan.problems = [problem('no-room', home.name, { block: home.subnet })]
      return
    }
    const id = freshId(home.fixed, `fixed-${ip.replaceAll('.', '-')}`)
    plan.edit(`${home.name}: ${ip} fixed`, '', (draft) => {
      const network = draft.networks.find((n) => n.id === home.id)
      network?.fixed.push({ id, ip, name: 'New address', deviceId: null, how: 'reserved', ...BLANK_FIXED })
    })
    void goToPlace('addresses', ['networks', home.id, 'fixed', id])
  }
  const removeFixed = (home: Network, gone: StaticAssignment): void =>
    plan.edit(`${home.name}: ${gone.ip} freed`, '', (draft) => {
      const network = draft.networks.find((n) => n.id === home.id)
      if (network) network.fixed = network.fixed.filter(({ id }) => id !== gone.id)
    })
  return { addNetwork, removeNetwork, addFixed, removeFixed }
}

/** Lays a plan whose networks moved, and says which devices under management must hear of it. */
export function useMove() {
  const plan = usePlan()
  const site = useSite()
  const nowMs = useTimestamp({ interval: 1000 })
  const movedWords = ref('')
  function move(after: Plan, words: string): void {
    const known = new Set(plan.draft?.networks)
    const movedId = after.networks.find((network) => !known.has(network))?.id
    const homes = new Map(plan.draft?.devices.map((device) => [device.id, device.homeNetworkId]))
    const adopted = (site.roster?.rows ?? []).filter(
      (row) => site.stateOf(row, nowMs.value) === 'in-sync' && homes.get(row.deviceId) === movedId,
    )
    movedWords.value =
      adopted.length > 0
        ? `${words}. ${count(adopted.length, 'device')} adopted there keep the old address ` +
          'until they are brought up to date.'
        : ''
    plan.change(words, '', () => after)
  }
  return { movedWords, move }
}
