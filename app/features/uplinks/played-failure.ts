import { playFailure, type Played } from '#core/failover'
import type { Uplink } from '#core/schema'
import { usePlan } from '~/stores/plan'
import { useSite } from '~/stores/site'
import { secondsWords } from './words'

/** One failure of an uplink, played as fast as one likes, and kept as a record when it is asked for. */
export function usePlayedFailure(pair: Readonly<{ uplink: Uplink; backup: Uplink }>) {
  const plan = usePlan()
  const site = useSite()
  const played = shallowRef<readonly Played[]>([])
  /** Where the play is, s; null while it is not running. */
  const nowS = ref<number | null>(null)
  const speed = ref(20)
  const recorded = ref('')
  let seed = 1
  let frame = 0

  function stop(): void {
    cancelAnimationFrame(frame)
    nowS.value = null
  }
  /** Plays a failure that is mended after so long. */
  function play(mendS: number): void {
    const { uplink, backup } = pair
    if (!uplink.probe) return
    stop()
    recorded.value = ''
    played.value = playFailure(uplink.probe, uplink, backup, mendS, seed++)
    const endS = played.value.at(-1)?.atS ?? 0
    let lastMs = performance.now()
    nowS.value = 0
    const tick = (nowMs: number) => {
      nowS.value = (nowS.value ?? 0) + ((nowMs - lastMs) / 1000) * speed.value
      lastMs = nowMs
      if (nowS.value < endS) frame = requestAnimationFrame(tick)
      else nowS.value = null
    }
    frame = requestAnimationFrame(tick)
  }
  onBeforeUnmount(stop)
  watch(
    () => [pair.uplink.id, pair.uplink.probe, pair.backup.id],
    () => {
      stop()
      played.value = []
    },
  )

  const atS = (what: Played['what']) => played.value.find((event) => event.what === what)?.atS
  const backS = computed(() => (atS('back') ?? 0) - (atS('mended') ?? 0))
  const test = computed(() =>
    site.proof?.tests.find(({ kind, under }) => kind === 'failover' && under === pair.uplink.id),
  )
  /** What was played is kept as a record of its own: from the lab, and said so. */
  async function record(planned: string): Promise<void> {
    const ontoS = atS('carried')
    if (!test.value || ontoS === undefined) return
    await plan.flush()
    const kept = await site.record({
      testId: test.value.id,
      passed: ontoS <= (test.value.withinS ?? 0),
      vantage: 'played in the lab',
      value:
        `on ${pair.backup.name} after ${secondsWords(ontoS)}, ` +
        `back ${secondsWords(backS.value)} after it was well`,
      note: planned,
    })
    recorded.value = kept ? 'Kept with the acceptance tests.' : 'It could not be kept.'
  }
  return { played, nowS, speed, recorded, test, atS, backS, play, record }
}
