<script setup lang="ts">
import { useDragAndDrop } from '@formkit/drag-and-drop/vue'
import { hoursToCap, monthCost } from '#core/failover'
import { signalOf, uplinkGroup, uplinksInOrder, uplinkShare } from '#core/queries'
import type { Uplink } from '#core/schema'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import { ASSIGNMENT_WORDS } from '~/wording/kinds'

/** The lines in their order: each with its facts, and buttons and a drag to reorder them. */
const chosen = defineModel<string>('chosen', { required: true })
const plan = usePlan()
const session = useSession()
const uplinks = computed(() => (plan.draft ? uplinksInOrder(plan.draft) : []))
const waits = (uplink: Uplink) => uplink.priority !== uplinks.value[0]?.priority
/** What a line takes when it is its group's turn; nothing where it shares with nobody. */
const shareWords = (uplink: Uplink) =>
  uplinkGroup(uplinks.value, uplink).length > 1
    ? `${Math.round(uplinkShare(uplinks.value, uplink))} % of new flows`
    : ''
const SIGNALS = {
  strong: 'strong signal',
  good: 'good signal',
  fair: 'fair signal',
  weak: 'weak signal',
} as const
function cellularWords(uplink: Uplink): string {
  const { cellular } = uplink.facts
  if (!cellular) return ''
  const [signal, currency] = [signalOf(cellular), plan.draft?.site.currency ?? '']
  const aDay = uplink.usualGbPerDay ?? uplinks.value[0]?.usualGbPerDay ?? null
  const month = aDay === null ? null : monthCost(uplink, aDay * DAYS)
  return [
    signal === null
      ? 'signal not known'
      : `${SIGNALS[signal]}${cellular.rsrpDbm === null ? '' : ` (${cellular.rsrpDbm} dBm)`}`,
    cellular.pricePerMonth === null ? '' : `${cellular.pricePerMonth} ${currency} a month`,
    month === null || month === cellular.pricePerMonth
      ? ''
      : `${Math.round(month).toLocaleString('en')} ${currency} if it carried everything for ${DAYS} days`,
  ]
    .filter((t) => t !== '')
    .join('; ')
}
/** A month, for prices. */
const DAYS = 30
const facts = (uplink: Uplink) => {
  const hours = hoursToCap(uplink, uplink.usualGbPerDay ?? uplinks.value[0]?.usualGbPerDay ?? null)
  return [
    ['Kind', ASSIGNMENT_WORDS[uplink.kind]],
    ['Tag, priority', uplink.tag === null ? 'none' : `${uplink.tag}, ${uplink.facts.pcp ?? '?'}`],
    ['Speed', `${uplink.downMbps} / ${uplink.upMbps} Mb/s`],
    [
      'Public address',
      uplink.outside === 'own' ? 'an address of its own' : 'shared by the provider: nobody can dial in',
    ],
    ...(uplink.facts.cellular ? [['Cellular', cellularWords(uplink)]] : []),
    ...(hours === null
      ? []
      : [['Allowance', `${uplink.facts.capGb} GB: ${Math.round(hours)} h at usual use`]]),
  ] as const
}

/** The order of priority, by drag or by its buttons. */
function reorder(id: string, to: number): void {
  const order = uplinks.value.filter((u) => u.id !== id)
  const moved = uplinks.value.find((u) => u.id === id)
  if (!moved) return
  order.splice(to, 0, moved)
  plan.edit(`${moved.name} is now number ${to + 1}`, '', (draft) => {
    for (const uplink of draft.uplinks) uplink.priority = order.findIndex((u) => u.id === uplink.id) + 1
  })
}

/** The cards as a drag has them, which is the plan's order until one is let go elsewhere. */
const [list, cards] = useDragAndDrop<Uplink>([...uplinks.value], {
  draggable: () => session.edits,
  dragHandle: '.head',
  draggingClass: 'dragged',
  onDragend({ draggedNode, values }) {
    const { id } = draggedNode.data.value as Uplink
    const to = (values as Uplink[]).findIndex((uplink) => uplink.id === id)
    if (to !== uplinks.value.findIndex((uplink) => uplink.id === id)) reorder(id, to)
  },
})
watch(uplinks, (now) => (cards.value = [...now]))
</script>

<template>
  <ol ref="list" class="lines" :class="{ movable: session.edits && cards.length > 1 }">
    <li v-for="(u, i) in cards" :key="u.id" :class="{ chosen: u.id === chosen }">
      <div class="head">
        <VBtn variant="text" class="pick" :aria-pressed="u.id === chosen" @click="chosen = u.id">
          {{ i + 1 }} · {{ u.name }}<template v-if="shareWords(u)">, {{ shareWords(u) }}</template
          ><template v-if="waits(u)">, {{ u.standby }} standby</template>
        </VBtn>
        <span v-if="session.edits && uplinks.length > 1">
          <VBtn :disabled="i === 0" :aria-label="`${u.name} earlier`" @click="reorder(u.id, i - 1)">
            earlier
          </VBtn>
          <VBtn
            :disabled="i === uplinks.length - 1"
            :aria-label="`${u.name} later`"
            @click="reorder(u.id, i + 1)"
          >
            later
          </VBtn>
        </span>
      </div>
      <dl class="small">
        <div v-for="[what, value] in facts(u)" :key="what">
          <dt>{{ what }}</dt>
          <dd>{{ value }}</dd>
        </div>
      </dl>
    </li>
  </ol>
</template>

<style scoped>
.lines {
  list-style: none;
  margin: 0 0 12px;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(260px, 1fr));
  gap: 12px;
}
.lines li {
  background: var(--panel);
  border: 1px solid var(--line);
  padding: 8px 12px;
}
.lines li.chosen {
  border-color: var(--deep);
  box-shadow: inset 3px 0 0 var(--deep);
}
.lines li.dragged {
  opacity: 0.5;
}
.head {
  display: flex;
  justify-content: space-between;
  gap: 8px;
  align-items: baseline;
}
.movable .head {
  cursor: grab;
}
.head .v-btn {
  margin-left: 4px;
}
.pick {
  font-weight: 700;
  font-size: 15px;
}
.pick:hover {
  text-decoration: underline;
}
dl {
  margin: 4px 0 0;
}
dl div {
  display: grid;
  grid-template-columns: 118px 1fr;
  gap: 6px;
}
dt {
  color: var(--soft);
}
dd {
  margin: 0;
}
</style>
