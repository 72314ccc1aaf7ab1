<script setup lang="ts">
import { poeClass, type Feed, type Powered } from '#core/power'
import type { DeviceId } from '#core/schema'
import { cableWords, demandWords, TROUBLE_WORDS, wattsText } from './words'
import type { Column } from '~/ui/columns'
import DataTable from '~/ui/DataTable.vue'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import { namesIn } from '~/wording/names'

/** Who is fed over which cable, what that takes, and who is fed by nobody. */
const { power } = defineProps<{ power: Powered }>()
const emit = defineEmits<{ ownSupply: [id: DeviceId] }>()
const plan = usePlan()
const session = useSession()
const names = computed(() => plan.draft && namesIn(plan.draft))

interface Row {
  readonly id: string
  readonly to: DeviceId
  /** Null where it takes power over a cable and none is there. */
  readonly feed: Feed | null
}
/** What every source feeds, then what is fed by something that has no budget, then what is not fed. */
const rows = computed((): readonly Row[] => {
  const { sources, feeds, unpowered } = power
  const others = feeds.filter(({ from }) => !sources.some((s) => s.deviceId === from.deviceId))
  const fed = [...sources.flatMap((source) => source.feeds), ...others]
  return [
    ...fed.map((feed) => ({ id: `${feed.linkId} ${feed.from.portId}`, to: feed.to.deviceId, feed })),
    ...unpowered.map((id) => ({ id, to: id, feed: null })),
  ]
})
const of = (words: (feed: Feed) => string) => ({
  get: ({ feed }: Row) => (feed ? words(feed) : '—'),
})
function asksWords({ feed }: Row): string {
  if (!feed) return 'takes power over its cable, and none is there'
  return feed.trouble ? `${demandWords(feed)}: ${TROUBLE_WORDS[feed.trouble]}` : demandWords(feed)
}
const watts = { num: true, mono: true } as const
const columns: readonly Column<Row>[] = [
  {
    key: 'from',
    head: 'From',
    mono: true,
    ...of((f) => `${names.value?.device(f.from.deviceId)} ${names.value?.port(f.from)}`),
  },
  { key: 'to', head: 'To', strong: true, get: ({ to }) => names.value?.device(to) ?? '' },
  { key: 'asks', head: 'Asks', get: asksWords },
  { key: 'draw', head: 'Draw, W', ...watts, ...of((f) => wattsText(f.drawW)) },
  {
    key: 'reserved',
    head: 'Class, W',
    ...watts,
    ...of(({ load }) => (load.standard === 'ieee' ? String(poeClass(load.class).sourceW) : '—')),
  },
  { key: 'run', head: 'Run', ...of((f) => (plan.draft ? cableWords(plan.draft, f) : '')) },
  { key: 'loss', head: 'Loss, W', ...watts, ...of((f) => f.drop?.lossW.toFixed(2) ?? '—') },
  { key: 'volts', head: 'Arrives, V', ...watts, ...of((f) => f.drop?.deviceV.toFixed(1) ?? '—') },
]
</script>

<template>
  <DataTable
    label="Who feeds whom"
    :columns="columns"
    :rows="rows"
    :trouble="({ feed }) => feed === null || feed.trouble !== null"
    empty="Nothing is fed over a cable."
  >
    <template #from="{ row: { feed } }">
      <template v-if="feed"
        ><span class="name">{{ names?.device(feed.from.deviceId) }}</span>
        {{ names?.port(feed.from) }}</template
      ><template v-else>—</template>
    </template>
    <template #asks="{ row }">
      <span :class="{ bad: row.feed?.trouble }">{{ asksWords(row) }}</span>
      <VBtn v-if="!row.feed && session.edits" @click="emit('ownSupply', row.to)"
        >It has a supply of its own</VBtn
      >
    </template>
  </DataTable>
</template>

<style scoped>
.name {
  font-family: var(--v-font-body);
  font-weight: 700;
}
.bad {
  font-weight: 700;
  color: var(--brick);
}
</style>
