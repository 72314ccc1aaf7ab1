import type { DeviceId } from '#core/schema'
import type {
  LabDevice,
  News,
  Proof,
  RadioLevel,
  Roster,
  RosterRow,
  RunLine,
  StepRecord,
  Tick,
} from '#contracts/api'
import { adoptionState } from '#core/adopt'
import type { Problem } from '#core/util'
import { api, type Answer } from './api'
import { useOutbox, type QueuedWrite } from './outbox'
import { usePlan } from './plan'
import { useSession } from './session'

/** A result as a person writes it down. */
interface HandResult extends Readonly<Record<string, string | boolean>> {
  readonly testId: string
  readonly passed: boolean
  readonly vantage: string
  readonly value: string
  readonly note: string
}

interface ShownStep extends StepRecord {
  /** The server has not heard of it yet. */
  readonly isWaiting?: boolean
}

interface ShownTick extends Tick {
  /** The server has not heard of it yet. */
  readonly isWaiting?: boolean
}

// What lives beside the plan: roster, lab and proof, read anew whenever the server says that they changed.

export const useSite = defineStore('site', () => {
  const plan = usePlan()
  const session = useSession()
  const outbox = useOutbox()
  const roster = shallowRef<Roster | null>(null)
  const lab = shallowRef<readonly LabDevice[] | null>(null)
  const proof = shallowRef<Proof | null>(null)
  const knownTicks = shallowRef<readonly Tick[]>([])
  const knownSteps = shallowRef<readonly StepRecord[]>([])
  /** What the ends of radio links read last. */
  const levels = shallowRef<readonly RadioLevel[]>([])
  /** What-if runs on the server; read when first asked for, and then at each news of them. */
  const runs = shallowRef<readonly RunLine[] | null>(null)
  const live = ref(false)
  const problems = shallowRef<readonly Problem[]>([])
  /** Server time minus this machine's, so that both judge waiting alike. */
  const clockOffsetMs = ref(0)
  let source: EventSource | undefined

  /** Takes an answer for the site that is still open; a late one for another is dropped. */
  function taken<T>(slug: string, answer: Answer<T>, keep: (value: T) => void): boolean {
    if (slug !== plan.slug) return false
    if (!answer.ok) {
      problems.value = answer.refusal.problems
      return false
    }
    keep(answer.value)
    return true
  }

  const keepRoster = (value: Roster) => {
    roster.value = value
    clockOffsetMs.value = value.nowMs - Date.now()
  }
  const keepLab = (value: readonly LabDevice[]) => void (lab.value = value)
  const keepProof = (value: Proof) => void (proof.value = value)

  const keepLevels = (value: readonly RadioLevel[]) => void (levels.value = value)
  const keepSteps = (value: readonly StepRecord[]) => void (knownSteps.value = value)
  const keepTicks = (value: readonly Tick[]) => void (knownTicks.value = value)

  async function read(topic: News['topic']): Promise<void> {
    const { slug } = plan
    if (topic === 'plan') {
      await plan.refresh()
      await Promise.all([read('proof'), read('roster')])
    }
    if (topic === 'roster') taken(slug, await api<Roster>('GET', `sites/${slug}/roster`), keepRoster)
    if (topic === 'lab' && session.works)
      taken(slug, await api<LabDevice[]>('GET', `sites/${slug}/lab`), keepLab)
    if (topic === 'proof') taken(slug, await api<Proof>('GET', `sites/${slug}/proof`), keepProof)
    if (topic === 'runs' && runs.value) await readRuns()
    if (topic === 'levels') taken(slug, await api<RadioLevel[]>('GET', `sites/${slug}/levels`), keepLevels)
    if (topic === 'steps') taken(slug, await api<StepRecord[]>('GET', `sites/${slug}/steps`), keepSteps)
    if (topic === 'ticks') taken(slug, await api<Tick[]>('GET', `sites/${slug}/ticks`), keepTicks)
  }

  async function readRuns(): Promise<void> {
    taken(plan.slug, await api<RunLine[]>('GET', `sites/${plan.slug}/runs`), (value) => (runs.value = value))
  }

  /** Topics to read again, each at most once at a time. */
  const pending = new Map<News['topic'], boolean>()
  async function hear(topic: News['topic']): Promise<void> {
    if (pending.has(topic)) {
      pending.set(topic, true)
      return
    }
    pending.set(topic, false)
    await read(topic)
    const again = pending.get(topic)
    pending.delete(topic)
    if (again) await hear(topic)
  }

  function watchSite(slug: string): void {
    source?.close()
    roster.value = lab.value = proof.value = null
    runs.value = null
    knownTicks.value = []
    knownSteps.value = []
    levels.value = []
    void outbox.drain()
    source = new EventSource(`/api/sites/${slug}/news`)
    source.onopen = () => {
      live.value = true
      for (const topic of ['plan', 'roster', 'lab', 'proof', 'ticks', 'steps', 'levels'] as const)
        void hear(topic)
    }
    source.onerror = () => (live.value = false)
    source.onmessage = (event: MessageEvent<string>) => {
      const news = JSON.parse(event.data) as News
      if (news.site === slug) void hear(news.topic)
    }
  }

  function leave(): void {
    source?.close()
    source = undefined
    live.value = false
  }

  async function send<T>(answer: Promise<Answer<T>>, keep: (value: T) => void): Promise<boolean> {
    problems.value = []
    return taken(plan.slug, await answer, keep)
  }

  /** What takes the answer to a write of each kind. */
  const deliveries: Readonly<Record<QueuedWrite['topic'], (answer: never) => void>> = {
    roster: keepRoster,
    proof: keepProof,
    ticks: keepTicks,
    steps: keepSteps,
  }
  watch(
    () => outbox.delivered,
    (delivered) => {
      if (delivered?.write.slug === plan.slug) deliveries[delivered.write.topic](delivered.answer as never)
    },
    { flush: 'sync' },
  )

  /** Writes something down for the server; false where it refuses. While it does not answer, what is written waits. */
  async function enqueue(
    topic: QueuedWrite['topic'],
    path: string,
    body: QueuedWrite['body'],
  ): Promise<boolean> {
    problems.value = []
    const { slug } = plan
    const outcome = await outbox.enqueue({ slug, topic, path: `sites/${slug}/${path}`, body })
    if (outcome.kind === 'refused') problems.value = outcome.problems
    return outcome.kind !== 'refused'
  }
  const waiting = (topic: QueuedWrite['topic']): readonly QueuedWrite[] =>
    outbox.waiting.filter((queued) => queued.slug === plan.slug && queued.topic === topic)

  const claim = (serial: string, deviceId: DeviceId) => enqueue('roster', 'claims', { serial, deviceId })
  const claimList = (csv: string) =>
    send(api<Roster>('POST', `sites/${plan.slug}/claim-list`, { csv }), keepRoster)
  const release = (serial: string) =>
    send(api<Roster>('DELETE', `sites/${plan.slug}/claims/${serial}`), keepRoster)
  const replace = (serial: string, next: string) =>
    send(api<Roster>('POST', `sites/${plan.slug}/claims/${serial}/replace`, { serial: next }), keepRoster)
  const fillShelf = () => send(api<LabDevice[]>('POST', `sites/${plan.slug}/lab/shelf`, {}), keepLab)
  const power = (serial: string, action: string) =>
    send(api<LabDevice[]>('POST', `sites/${plan.slug}/lab/power`, { serial, action }), keepLab)

  /** A reading of somebody in front of a radio. */
  const reportLevel = (link: string, end: RadioLevel['end'], reading: string) =>
    send(api<RadioLevel[]>('POST', `sites/${plan.slug}/levels`, { link, end, reading }), keepLevels)
  /** Turns a simulated antenna of the lab; degrees from true north, and above the horizon. */
  const turnSimulated = (link: string, end: RadioLevel['end'], azimuthDeg: number, tiltDeg: number) =>
    send(
      api<RadioLevel[]>('POST', `sites/${plan.slug}/lab/aim`, { link, end, azimuthDeg, tiltDeg }),
      keepLevels,
    )

  async function askLab(): Promise<boolean> {
    await plan.flush()
    return send(
      api<Proof>('POST', `sites/${plan.slug}/proof/ask-lab`, { revision: plan.saved?.revision ?? 0 }),
      keepProof,
    )
  }
  const record = (result: HandResult) =>
    enqueue('proof', 'proof/results', { ...result, revision: plan.saved?.revision ?? 0 })
  /** Results that the server has not heard of yet, by test. */
  const waitingResults = computed(
    () => new Map(waiting('proof').map((queued) => [String(queued.body['testId']), queued])),
  )

  /** Serials whose claim the server has not heard of yet, by device. */
  const waitingClaims = computed(
    () => new Map(waiting('roster').map(({ body }) => [String(body['deviceId']), String(body['serial'])])),
  )

  /** What became of a step, now. */
  const recordStep = (told: Omit<StepRecord, 'id' | 'at' | 'who'>) =>
    enqueue('steps', 'steps', { ...told, at: new Date().toISOString() })
  /** Records of steps in their order, with what the server has not heard of yet. */
  const steps = computed((): readonly ShownStep[] => [
    ...knownSteps.value,
    ...waiting('steps').map(({ body, at }, i) => ({
      id: -1 - i,
      activityId: String(body['activityId']),
      state: body['state'] as StepRecord['state'],
      at,
      who: session.me?.name ?? '',
      reading: String(body['reading']),
      note: String(body['note']),
      person: String(body['person']),
      isWaiting: true,
    })),
  ])
  const tick = (item: string, done: boolean) => enqueue('ticks', 'ticks', { item, done })
  /** What is ticked, with what the server has not heard of yet. */
  const ticks = computed(() =>
    waiting('ticks').reduce<readonly ShownTick[]>((shown, { body, at }) => {
      const item = String(body['item'])
      const others = shown.filter((tick) => tick.item !== item)
      const mine = { item, who: session.me?.name ?? '', at, isWaiting: true }
      return body['done'] ? [...others, mine] : others
    }, knownTicks.value),
  )

  /** What the newest result of each test says. */
  const passed = computed(() => new Map((proof.value?.results ?? []).map((r) => [r.testId, r.passed])))
  /** How far a device is at this machine's time. */
  const stateOf = (row: RosterRow, nowMs: number) =>
    adoptionState(row.claim, row.events, nowMs + clockOffsetMs.value, roster.value?.silenceLimitMs)

  return {
    passed,
    waitingResults,
    waitingClaims,
    stateOf,
    ticks,
    tick,
    steps,
    recordStep,
    levels,
    reportLevel,
    turnSimulated,
    runs,
    readRuns,
    roster,
    lab,
    proof,
    live,
    problems,
    clockOffsetMs,
    watchSite,
    leave,
    claim,
    claimList,
    release,
    replace,
    fillShelf,
    power,
    askLab,
    record,
  }
})
