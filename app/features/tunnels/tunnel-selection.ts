import { addPeer, addTunnel } from '#core/edit'
import type { Problem } from '#core/util'
import { usePointer } from '~/shell/finding-navigation'
import { usePlan } from '~/stores/plan'

export type Side = 'inside' | 'outside'
/** Columns of how the ends find each other; the others say who has which address. */
const OUTSIDE = ['publicName', 'nameEveryS', 'nameTtlS', 'mapped', 'endpoint', 'downMbps', 'keepaliveS']
/** A table shows one side of the matter at a time, and the name always. */
export const isOnSide = (key: string, side: Side): boolean =>
  key === 'name' || OUTSIDE.includes(key) === (side === 'outside')

/** Which tunnel and peer are looked at, and from which side: chosen by hand, or by what a finding is about. */
export function useTunnelSelection() {
  const plan = usePlan()
  const { place } = usePointer()
  const tunnels = computed(() => plan.draft?.tunnels ?? [])
  const chosen = ref('')
  const tunnel = computed(() => tunnels.value.find(({ id }) => id === chosen.value) ?? tunnels.value[0])
  const chosenPeer = ref('')
  const peer = computed(() => tunnel.value?.peers.find(({ id }) => id === chosenPeer.value))
  const part = ref<'wireguard' | 'ipsec'>('wireguard')
  const side = ref<Side>('inside')
  watch(
    place,
    (path) => {
      const [kind, tunnelId = '', list, peerId] = path
      if (kind === 'ipsec') part.value = 'ipsec'
      if (kind !== 'tunnels') return
      part.value = 'wireguard'
      side.value = OUTSIDE.includes(path.at(-1) ?? '') ? 'outside' : 'inside'
      chosen.value = tunnelId
      if (list === 'peers' && peerId) chosenPeer.value = peerId
    },
    { immediate: true },
  )
  const focusAt = computed(() => {
    const [kind, row = '', column = ''] = place.value
    return kind === 'tunnels' && column !== 'peers' ? { row, column } : null
  })
  const peerAt = computed(() => {
    const [, , list, row, column = 'name'] = place.value
    return list === 'peers' && row ? { row, column } : null
  })
  return { tunnels, chosen, tunnel, chosenPeer, peer, part, side, focusAt, peerAt }
}

type Selection = ReturnType<typeof useTunnelSelection>

/** Tunnels and peers, added and removed. */
export function useTunnelEdits(
  { tunnel, chosen, peer, chosenPeer }: Selection,
  refused: (problems: readonly Problem[]) => void,
) {
  const plan = usePlan()
  function begin(): void {
    const made = plan.draft && addTunnel(plan.draft)
    if (!made) return
    plan.change('tunnel added', '', () => made.plan)
    chosen.value = made.id
  }
  function join(): void {
    const made = plan.draft && tunnel.value && addPeer(plan.draft, tunnel.value.id)
    if (!made) return
    if (!made.ok) {
      refused(made.problems)
      return
    }
    plan.change('peer added', '', () => made.value.plan)
    chosenPeer.value = made.value.id
  }
  /** The chosen peer, or where none is chosen the tunnel. */
  function remove(): void {
    const [home, gone] = [tunnel.value, peer.value]
    if (!home) return
    plan.edit(`${(gone ?? home).name} removed`, '', (draft) => {
      if (!gone) draft.tunnels = draft.tunnels.filter(({ id }) => id !== home.id)
      const inDraft = draft.tunnels.find(({ id }) => id === home.id)
      if (inDraft) inDraft.peers = inDraft.peers.filter(({ id }) => id !== gone?.id)
    })
    chosenPeer.value = ''
  }
  return { begin, join, remove }
}
