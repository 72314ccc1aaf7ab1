import type { DeviceId } from '#core/schema'
import type { LabDevice, News, Proof, Roster, RosterRow, RunLine, Tick } from '#contracts/api'
import { adoptionState } from '#core/adopt'
import type { Problem } from '#core/util'
import { api, type Answer } from './api'
import { usePlan } from './plan'
import { useSession } from './session'

// What lives beside the plan: roster, lab and proof, read anew whenever the server says that they changed.

export const useSite = defineStore('site', () => {
  const plan = usePlan()
  const session = useSession()
  const roster = shallowRef<Roster | null>(null)
  const lab = shallowRef<readonly LabDevice[] | null>(null)
  const proof = shallowRef<Proof | null>(null)
  const ticks = shallowRef<readonly Tick[]>([])
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

  const keepTicks = (value: readonly Tick[]) => void (ticks.value = value)

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
    ticks.value = []
    source = new EventSource(`/api/sites/${slug}/news`)
    source.onopen = () => {
      live.value = true
      for (const topic of ['plan', 'roster', 'lab', 'proof', 'ticks'] as const) void hear(topic)
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

  const claim = (serial: string, deviceId: DeviceId) =>
    send(api<Roster>('POST', `sites/${plan.slug}/claims`, { serial, deviceId }), keepRoster)
  const claimList = (csv: string) =>
    send(api<Roster>('POST', `sites/${plan.slug}/claim-list`, { csv }), keepRoster)
  const release = (serial: string) =>
    send(api<Roster>('DELETE', `sites/${plan.slug}/claims/${serial}`), keepRoster)
  const power = (serial: string, action: string) =>
    send(api<LabDevice[]>('POST', `sites/${plan.slug}/lab/power`, { serial, action }), keepLab)

  async function askLab(): Promise<boolean> {
    await plan.flush()
    return send(
      api<Proof>('POST', `sites/${plan.slug}/proof/ask-lab`, { revision: plan.saved?.revision ?? 0 }),
      keepProof,
    )
  }
  const record = (result: {
    testId: string
    passed: boolean
    vantage: string
    value: string
    note: string
  }) =>
    send(
      api<Proof>('POST', `sites/${plan.slug}/proof/results`, {
        ...result,
        revision: plan.saved?.revision ?? 0,
      }),
      keepProof,
    )

  const tick = (item: string, done: boolean) =>
    send(api<Tick[]>('POST', `sites/${plan.slug}/ticks`, { item, done }), keepTicks)

  /** What the newest result of each test says. */
  const passed = computed(() => new Map((proof.value?.results ?? []).map((r) => [r.testId, r.passed])))
  /** How far a device is at this machine's time. */
  const stateOf = (row: RosterRow, nowMs: number) =>
    adoptionState(row.claim, row.events, nowMs + clockOffsetMs.value, roster.value?.silenceLimitMs)

  return {
    passed,
    stateOf,
    ticks,
    tick,
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
    power,
    askLab,
    record,
  }
})
