// The end of a radio link that is aimed: what it is to read, where it looks, and what it reads.
import type { RadioLevel } from '#contracts/api'
import { expectedDbm, geometryOf, radioLinks, UNKNOWN_BEARINGS_DEG, type RadioLink } from '#core/radio'
import { useBearings } from '~/features/bridges/bearings'
import { usePlan } from '~/stores/plan'
import { useSite } from '~/stores/site'

type EndKey = RadioLevel['end']

export interface AimedLink {
  /** `link/end`, as it is chosen. */
  readonly value: string
  readonly title: string
  readonly link: RadioLink
  readonly end: EndKey
  readonly deviceName: string
}

/** Where an antenna has to look; null where it is not known. */
interface Wanted {
  readonly compassDeg: number | null
  readonly trueDeg: number | null
  /** Where the lab’s simulated antenna has to look, which stands somewhere in any case. */
  readonly labDeg: number
  readonly tiltDeg: number | null
  /** Nearest that people may stay in front of it. */
  readonly exposureM: number | null
  readonly gainDbi: number
  /** What is seen in that direction; empty where nobody has said. */
  readonly seen: string
}

const indexOf = (end: EndKey) => (end === 'a' ? 0 : 1)

export function useAimedLink() {
  const plan = usePlan()
  const site = useSite()
  const all = computed((): AimedLink[] =>
    (plan.index ? radioLinks(plan.index) : []).flatMap((link) =>
      (['a', 'b'] as const).map((end) => {
        const deviceName = link.names[indexOf(end)] ?? ''
        const far = link.names[1 - indexOf(end)] ?? ''
        return { value: `${link.id}/${end}`, title: `${deviceName}, at ${far}`, link, end, deviceName }
      }),
    ),
  )
  const chosen = ref<string | null>(null)
  const aimed = computed(() => all.value.find(({ value }) => value === chosen.value) ?? all.value[0] ?? null)
  const { bearings } = useBearings(() => aimed.value?.link ?? null)

  const expected = computed(() => aimed.value && expectedDbm(aimed.value.link, aimed.value.end))
  const geometry = computed(() => aimed.value?.link.path && geometryOf(aimed.value.link.path))
  const place = computed(() => (aimed.value ? indexOf(aimed.value.end) : 0))
  /** Of a pair, what is of the end that is aimed. */
  const own = <T>(pair: readonly [T, T] | null | undefined): T | null => pair?.[place.value] ?? null
  const labDegs = computed(() => bearings.value?.trueDeg ?? UNKNOWN_BEARINGS_DEG)
  const wanted = computed((): Wanted => {
    const { path, settings } = aimed.value?.link ?? {}
    return {
      compassDeg: own(bearings.value?.compassDeg),
      trueDeg: own(bearings.value?.trueDeg),
      labDeg: labDegs.value[place.value],
      tiltDeg: own(geometry.value?.tiltsDeg),
      exposureM: own(geometry.value?.exposuresM),
      gainDbi: own(path?.ends)?.gainDbi ?? 0,
      seen: settings ? (own([settings.ends.a, settings.ends.b])?.seen ?? '') : '',
    }
  })

  const levelOf = (end: EndKey) =>
    site.levels.find((level) => level.linkId === aimed.value?.link.id && level.end === end) ?? null
  /** Of this visit: what was read before somebody came here says nothing of where it looks now. */
  const cameAt = ref(new Date().toISOString())
  const fresh = (level: RadioLevel | null) => (level && level.at > cameAt.value ? level : null)
  const level = computed(() => aimed.value && fresh(levelOf(aimed.value.end)))
  const farLevel = computed(() => aimed.value && fresh(levelOf(aimed.value.end === 'a' ? 'b' : 'a')))
  const highestDbm = ref<number | null>(null)
  watch(level, (now) => {
    if (now) highestDbm.value = Math.max(highestDbm.value ?? now.dBm, now.dBm)
  })
  function begin(): void {
    highestDbm.value = null
    cameAt.value = new Date(Date.now() + site.clockOffsetMs).toISOString()
  }
  watch(() => aimed.value?.value, begin)
  onMounted(begin)

  const test = computed(
    () =>
      site.proof?.tests.find(
        (one) => one.level?.linkId === aimed.value?.link.id && one.level?.end === aimed.value?.end,
      ) ?? null,
  )
  return { all, chosen, aimed, expected, wanted, level, farLevel, highestDbm, begin, test }
}
