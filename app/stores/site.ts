import { useEventListener, useLocalStorage, useTimeoutFn } from '@vueuse/core'
import type { DeviceId } from '#core/schema'
import type {
  LabDevice,
  News,
  Proof,
  RadioLevel,
  Roster,
  RosterRow,
  RunLine,
  StepPhoto,
  StepRecord,
  Tick,
} from '#contracts/api'
import { adoptionState } from '#core/adopt'
import type { Problem } from '#core/util'
import { api, serverAnswers, type Answer } from './api'
import { keepAnswer, readOrRemember, recall } from './kept-answers'
import { useOutbox, type QueuedWrite } from './outbox'
import { usePlan } from './plan'
import { useSession } from './session'
import { shownPhotos, shownSteps, shownTicks } from './shown-records'

/** A result as a person writes it down. */
interface HandResult extends Readonly<Record<string, string | boolean>> {
  readonly testId: string
  readonly passed: boolean
  readonly vantage: string
  readonly value: string
  readonly note: string
}

/** What is read beside the plan; steps first, since they say which card comes next. */
const PARTS = ['steps', 'roster', 'lab', 'proof', 'ticks', 'photos', 'levels'] as const
type Part = (typeof PARTS)[number]

/** A moment of silence is none. */
const SILENT_MS = 3000
/** Pause before news that were refused are asked for again. */
const REOPEN_MS = 5000

// What lives beside the plan: roster, lab and proof, read anew whenever the server says that they changed.

export const useSite = defineStore('site', () => {
  const plan = usePlan()
  const session = useSession()
  const outbox = useOutbox()
  /** Who is signed in; empty where nobody is. */
  const me = () => session.me?.name ?? ''
  const roster = shallowRef<Roster | null>(null)
  const lab = shallowRef<readonly LabDevice[] | null>(null)
  const proof = shallowRef<Proof | null>(null)
  const knownTicks = shallowRef<readonly Tick[]>([])
  const knownSteps = shallowRef<readonly StepRecord[]>([])
  /** What was told of steps has been asked for, of the server or of what this browser kept. */
  const hasAskedSteps = ref(false)
  const knownPhotos = shallowRef<readonly StepPhoto[]>([])
  /** What the ends of radio links read last. */
  const levels = shallowRef<readonly RadioLevel[]>([])
  /** What-if runs on the server; read when first asked for, and then at each news of them. */
  const runs = shallowRef<readonly RunLine[] | null>(null)
  const live = ref(false)
  /** When the server was last heard of on this device, ms; 0 before it ever was. */
  const heardMs = useLocalStorage('server-heard', 0)
  /** Nobody has answered for more than a moment, while a site is open. */
  const isSilent = ref(false)
  const silence = useTimeoutFn(() => (isSilent.value = true), SILENT_MS, { immediate: false })
  function endSilence(): void {
    silence.stop()
    isSilent.value = false
  }
  const problems = shallowRef<readonly Problem[]>([])
  /** Server time minus this machine's, so that both judge waiting alike. */
  const clockOffsetMs = ref(0)
  let source: EventSource | undefined
  /** Id of the newest record of a step that was read with all before it; 0 before any was. */
  let stepsReadTo = 0

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

  const keepRoster = (value: Roster, isKept = false) => {
    roster.value = value
    if (!isKept) clockOffsetMs.value = value.nowMs - Date.now()
  }
  const keepLab = (value: readonly LabDevice[]) => void (lab.value = value)
  const keepProof = (value: Proof) => void (proof.value = value)

  const keepLevels = (value: readonly RadioLevel[]) => void (levels.value = value)
  /** Records are only added: what comes joins what is known, in the order of their ids. */
  const keepSteps = (value: readonly StepRecord[]) => {
    const all = new Map([...knownSteps.value, ...value].map((record) => [record.id, record]))
    knownSteps.value = [...all.values()].sort((one, other) => one.id - other.id)
  }
  const keepPhotos = (value: readonly StepPhoto[]) => void (knownPhotos.value = value)
  const keepTicks = (value: readonly Tick[]) => void (knownTicks.value = value)

  function readUpTo(records: readonly StepRecord[], isKept = false): void {
    keepSteps(records)
    if (!isKept) stepsReadTo = Math.max(stepsReadTo, ...records.map(({ id }) => id))
  }
  /** What takes each part of the site that is read. */
  const takers: Readonly<Record<Part, (value: never, isKept: boolean) => void>> = {
    steps: readUpTo,
    roster: keepRoster,
    lab: keepLab,
    proof: keepProof,
    ticks: keepTicks,
    photos: keepPhotos,
    levels: keepLevels,
  }
  const partsToRead = () => PARTS.filter((part) => part !== 'lab' || session.works)

  /** Reads a part of the site; what nobody answers, this browser may know from before. */
  async function readPart(part: Part): Promise<void> {
    const { slug } = plan
    const answer = await readOrRemember<never>(me(), `sites/${slug}/${part}`)
    taken(slug, answer, (value) => takers[part](value, answer.isKept === true))
  }

  /** Takes a part as this browser knows it from before, while the server has told nothing newer. */
  async function recallPart(part: Part): Promise<void> {
    const { slug } = plan
    const kept = await recall<never>(me(), `sites/${slug}/${part}`)
    if (kept !== undefined && slug === plan.slug && !live.value) takers[part](kept, true)
    if (part === 'steps') hasAskedSteps.value = true
  }

  /** Reads the records since those that were read last; the first time all of them. */
  async function readSteps(): Promise<void> {
    const [{ slug }, person] = [plan, me()]
    if (stepsReadTo === 0) {
      await readPart('steps')
      hasAskedSteps.value = true
      return
    }
    const answer = await api<StepRecord[]>('GET', `sites/${slug}/steps?after=${stepsReadTo}`)
    if (!taken(slug, answer, readUpTo)) return
    await keepAnswer(person, `sites/${slug}/steps`, knownSteps.value)
  }

  async function read(topic: News['topic']): Promise<void> {
    if (topic === 'plan') {
      await plan.refresh()
      await Promise.all([read('proof'), read('roster')])
    } else if (topic === 'runs') {
      if (runs.value) await readRuns()
    } else if (topic === 'steps') await readSteps()
    else if (topic !== 'lab' || session.works) await readPart(topic)
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
    hasAskedSteps.value = false
    stepsReadTo = 0
    knownPhotos.value = []
    levels.value = []
    void outbox.drain()
    endSilence()
    silence.start()
    if (plan.isFromBefore) for (const part of partsToRead()) void recallPart(part)
    listen(slug, plan.isFromBefore)
  }

  /** Hears the site's news; what nobody tells, this browser may know from before. */
  function listen(slug: string, isAgain = false): void {
    const stream = new EventSource(`/api/sites/${slug}/news`)
    source = stream
    let hasAsked = isAgain
    const hearAll = () => {
      hasAsked = true
      for (const topic of ['plan', ...partsToRead()] as const) void hear(topic)
    }
    stream.onopen = () => {
      live.value = true
      endSilence()
      heardMs.value = Date.now()
      hearAll()
    }
    stream.onerror = async () => {
      if (live.value) heardMs.value = Date.now()
      live.value = false
      if (!silence.isPending.value && !isSilent.value) silence.start()
      if (!hasAsked) hearAll()
      if (stream.readyState !== EventSource.CLOSED) return
      // It was refused, to whoever's session has ended for one, and is not opened again by the browser.
      if (await serverAnswers()) endSilence()
      setTimeout(() => source === stream && listen(slug, true), REOPEN_MS)
    }
    stream.onmessage = (event: MessageEvent<string>) => {
      const news = JSON.parse(event.data) as News
      if (news.site === slug) void hear(news.topic)
    }
  }

  // A stream that nothing comes through any more may look open for minutes: it is opened anew.
  useEventListener('offline', () => {
    if (!source) return
    source.close()
    if (live.value) heardMs.value = Date.now()
    live.value = false
    silence.start()
    listen(plan.slug, true)
  })

  function leave(): void {
    source?.close()
    source = undefined
    live.value = false
    endSilence()
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
    photos: keepPhotos,
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

  /** Tells of an end of a radio link, of which the server has to know first. */
  async function sendLevel(path: string, told: object): Promise<boolean> {
    await plan.flush()
    return send(api<RadioLevel[]>('POST', `sites/${plan.slug}/${path}`, told), keepLevels)
  }
  /** A reading of somebody in front of a radio. */
  const reportLevel = (link: string, end: RadioLevel['end'], reading: string) =>
    sendLevel('levels', { link, end, reading })
  /** Turns a simulated antenna of the lab; degrees from true north, and above the horizon. */
  const turnSimulated = (link: string, end: RadioLevel['end'], azimuthDeg: number, tiltDeg: number) =>
    sendLevel('lab/aim', { link, end, azimuthDeg, tiltDeg })

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

  /** What became of a step, now or at a time, with the newest record of it that is known here. */
  const recordStep = (told: Omit<StepRecord, 'id' | 'at' | 'who' | 'knows'>, at = new Date().toISOString()) =>
    enqueue('steps', 'steps', {
      ...told,
      at,
      knows: knownSteps.value.findLast(({ activityId }) => activityId === told.activityId)?.id ?? 0,
    })
  /** Records of steps in their order, with what the server has not heard of yet. */
  const steps = computed(() => shownSteps(knownSteps.value, waiting('steps'), me()))

  /** @param jpeg in base64 */
  const addPhoto = (activityId: string, jpeg: string) =>
    enqueue('photos', 'photos', { activityId, jpeg, at: new Date().toISOString() })
  const dropPhoto = (id: number) =>
    send(api<StepPhoto[]>('DELETE', `sites/${plan.slug}/photos/${id}`), keepPhotos)
  /** Photographs of steps in their order, with what the server has not got yet. */
  const photos = computed(() => shownPhotos(plan.slug, knownPhotos.value, waiting('photos'), me()))
  const tick = (item: string, done: boolean) => enqueue('ticks', 'ticks', { item, done })
  /** What is ticked, with what the server has not heard of yet. */
  const ticks = computed(() => shownTicks(knownTicks.value, waiting('ticks'), me()))

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
    hasAskedSteps,
    recordStep,
    photos,
    addPhoto,
    dropPhoto,
    levels,
    reportLevel,
    turnSimulated,
    runs,
    readRuns,
    roster,
    lab,
    proof,
    live,
    isSilent,
    heardMs,
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
