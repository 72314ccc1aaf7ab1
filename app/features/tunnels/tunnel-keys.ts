import type { Ref } from 'vue'
import type { TunnelKey } from '#contracts/api'
import type { Peer, Tunnel } from '#core/schema'
import type { Problem } from '#core/util'
import { checkKey } from './columns'
import { api } from '~/stores/api'
import { usePlan } from '~/stores/plan'
import { codeOf } from '~/ui/qr-code'
import { dayText } from '~/wording/adoption'
import { useTimestamp } from '@vueuse/core'

// A peer that changes its key has two for a while: addresses follow the one that was heard last.
export const OVERLAP_DAYS = 14
const DAY_MS = 86_400_000

/** Reads a file that holds a private key, when it is asked for: the server notes that. */
function useShownFile(ownerId: () => string, isPeer: () => boolean, after: () => Promise<void>) {
  const plan = usePlan()
  const shown = ref('')
  const picture = ref('')
  async function show(next: boolean): Promise<readonly Problem[]> {
    await plan.flush()
    const answer = await api<{ text: string }>('POST', `sites/${plan.slug}/keys/show`, {
      owner: ownerId(),
      next,
    })
    shown.value = answer.ok ? answer.value.text : ''
    picture.value = answer.ok && isPeer() ? await codeOf(answer.value.text) : ''
    await after()
    return answer.ok ? [] : answer.refusal.problems
  }
  const hide = () => void (shown.value = picture.value = '')
  return { shown, picture, show, hide }
}

/** What a button does to a peer whose key changes, each as one step to undo. */
function useKeyChange(peer: Readonly<Ref<Peer | undefined>>, nowMs: Readonly<Ref<number>>) {
  const plan = usePlan()
  const editPeer = (
    words: string,
    session: string,
    recipe: (p: { publicKey: string | null; next: { publicKey: string; until: string } | null }) => void,
  ) => {
    const mine = peer.value
    if (mine)
      plan.edit(`${mine.name}: ${words}`, session, (draft) =>
        draft.tunnels.forEach((t) => t.peers.forEach((p) => p.id === mine.id && recipe(p))),
      )
  }
  const begins = (publicKey: string) =>
    editPeer(
      'changes its key',
      '',
      (peer) =>
        void (peer.next = {
          publicKey,
          until: dayText(new Date(nowMs.value + OVERLAP_DAYS * DAY_MS)),
        }),
    )
  function setUntil(until: string): void {
    if (until === '') return
    editPeer(`both keys until ${until}`, 'until', (p) => void (p.next && (p.next.until = until)))
  }
  const finish = () =>
    editPeer('the old key goes', '', (peer) => {
      if (peer.next) Object.assign(peer, { publicKey: peer.next.publicKey, next: null })
    })
  const giveUp = () => editPeer('the new key goes', '', (p) => void (p.next = null))
  return { begins, setUntil, finish, giveUp }
}

/** The keys that the server holds for a plan, and what it refused last. */
function useKeyStore() {
  const plan = usePlan()
  const keys = shallowRef<readonly TunnelKey[]>([])
  const problems = shallowRef<readonly Problem[]>([])
  const keyNamed = (publicKey: string | null | undefined) => keys.value.find((k) => k.publicKey === publicKey)
  async function readKeys(): Promise<void> {
    const answer = await api<TunnelKey[]>('GET', `sites/${plan.slug}/keys`)
    if (answer.ok) keys.value = answer.value
  }
  /** A new pair; its public key is handed to `take`. */
  async function newPair(ownerId: string, take: (publicKey: string) => void): Promise<void> {
    await plan.flush()
    const answer = await api<{ publicKey: string }>('POST', `sites/${plan.slug}/keys`, { owner: ownerId })
    problems.value = answer.ok ? [] : answer.refusal.problems
    if (!answer.ok) return
    take(answer.value.publicKey)
    await plan.flush()
    await readKeys()
  }
  onMounted(readKeys)
  return { problems, keyNamed, readKeys, newPair }
}

/** The keys of one end of a tunnel: made here, shown only when asked for, changed with an overlap. */
export function useTunnelKeys(
  peer: Readonly<Ref<Peer | undefined>>,
  owner: Readonly<Ref<Peer | Tunnel | undefined>>,
) {
  const plan = usePlan()
  const nowMs = useTimestamp({ interval: 1000 })
  const { problems, keyNamed, readKeys, newPair } = useKeyStore()
  const typedKey = ref('')
  const key = computed(() => keyNamed(owner.value?.publicKey))
  const nextKey = computed(() => keyNamed(peer.value?.next?.publicKey))
  const daysLeft = computed(() =>
    peer.value?.next ? Math.ceil((Date.parse(peer.value.next.until) + DAY_MS - nowMs.value) / DAY_MS) - 1 : 0,
  )
  const { shown, picture, hide, ...file } = useShownFile(
    () => owner.value?.id ?? '',
    () => peer.value !== undefined,
    readKeys,
  )
  const { begins, ...change } = useKeyChange(peer, nowMs)
  watch(
    () => owner.value?.id,
    () => {
      hide()
      problems.value = []
    },
  )
  async function makeKeys(): Promise<void> {
    const end = owner.value
    if (!end) return
    await newPair(end.id, (publicKey) =>
      plan.edit(`${end.name}: new keys`, '', (draft) => {
        const holders = draft.tunnels.flatMap((tunnel) => [tunnel, ...tunnel.peers])
        for (const holder of holders) if (holder.id === end.id) holder.publicKey = publicKey
      }),
    )
  }
  async function changeKey(): Promise<void> {
    const end = peer.value
    if (!end) return
    const typed = typedKey.value.trim()
    if (typed === '') return newPair(end.id, begins)
    problems.value = checkKey(plan.draft, '', typed)
    if (problems.value.length > 0) return
    typedKey.value = ''
    begins(typed)
  }
  const show = async (next: boolean): Promise<void> => {
    problems.value = await file.show(next)
  }
  const state = { problems, typedKey, key, nextKey, daysLeft, shown, picture }
  return { ...state, readKeys, makeKeys, changeKey, show, ...change }
}
