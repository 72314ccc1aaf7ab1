<script setup lang="ts">
import { mdiChevronDown, mdiChevronUp } from '@mdi/js'
import { scenarioText, type FailureScenario } from '#core/queries'
import { formatServices } from '#core/filter'
import type { IntentLoss } from '#core/reachability'
import type { Plan } from '#core/schema'
import StatusFlag from '~/ui/StatusFlag.vue'

/** Failures down, intents across: a mark where one is lost. A row opens into sentences. */
interface Impact {
  readonly failed: FailureScenario
  readonly name: string
  readonly kind: string
  readonly lost: readonly IntentLoss[]
}
const props = defineProps<{
  rows: readonly Impact[]
  intents: Plan['intents']
  /** Heading of the failures. */
  head: string
  label: string
  mustSurvive: (intentId: string, failed: FailureScenario) => boolean
}>()
const emit = defineEmits<{ look: [failed: FailureScenario] }>()
const opened = ref('')

/** Rows drawn at once: pairs of a large site are tens of thousands. */
const PAGE_ROWS = 200
const drawn = ref(PAGE_ROWS)
const left = computed(() => Math.max(0, props.rows.length - drawn.value))

const lines = computed(() =>
  props.rows.slice(0, drawn.value).map((row) => {
    const byIntent = new Map(row.lost.map((loss) => [loss.intentId, loss]))
    const cells = props.intents.map((intent) => {
      const loss = byIntent.get(intent.id)
      return { intent, loss, isRequired: loss !== undefined && props.mustSurvive(intent.id, row.failed) }
    })
    return { ...row, key: scenarioText(row.failed), cells }
  }),
)
</script>

<template>
  <VTable class="ruled impact" :aria-label="label">
    <thead>
      <tr>
        <th scope="col" class="corner">{{ head }}</th>
        <th scope="col" class="num corner">Lost</th>
        <th v-for="intent in intents" :key="intent.id" scope="col" class="intent" :title="intent.note">
          <span>{{ intent.note || intent.id }}</span>
        </th>
      </tr>
    </thead>
    <tbody>
      <template v-for="line in lines" :key="line.key">
        <tr>
          <th scope="row">
            <VBtn variant="text" @click="emit('look', line.failed)">{{ line.name }}</VBtn>
            <span class="small soft kind">{{ line.kind }}</span>
          </th>
          <td class="num">
            <VBtn
              variant="text"
              class="mono"
              :append-icon="opened === line.key ? mdiChevronUp : mdiChevronDown"
              :aria-expanded="opened === line.key"
              :aria-label="`${line.lost.length} lost by ${line.name}: in words`"
              @click="opened = opened === line.key ? '' : line.key"
              >{{ line.lost.length }}</VBtn
            >
          </td>
          <td v-for="cell in line.cells" :key="cell.intent.id" class="mark" :class="{ lost: cell.loss }">
            <StatusFlag v-if="cell.isRequired" state="cut" says="lost, and must survive this" />
            <template v-else-if="cell.loss"
              ><span aria-hidden="true">×</span><span class="sr">lost</span></template
            >
          </td>
        </tr>
        <tr v-if="opened === line.key">
          <td :colspan="intents.length + 2" class="words">
            <p v-if="line.lost.length === 0" class="soft">Nothing is lost.</p>
            <ul v-else>
              <template v-for="{ intent, loss, isRequired } in line.cells" :key="intent.id"
                ><li v-if="loss">
                  <b v-if="isRequired">Must survive this: </b>{{ intent.note || intent.id }}
                  <span class="small soft">{{ formatServices(loss.services) }}</span>
                </li></template
              >
            </ul>
          </td>
        </tr>
      </template>
      <tr v-if="rows.length === 0">
        <td :colspan="intents.length + 2" class="soft"><slot name="empty" /></td>
      </tr>
    </tbody>
  </VTable>
  <p v-if="left > 0" class="more">
    <VBtn @click="drawn += PAGE_ROWS">Show {{ Math.min(left, PAGE_ROWS) }} of {{ left }} more</VBtn>
  </p>
</template>

<style scoped>
.more {
  margin-top: 8px;
}
.impact :deep(table) {
  width: auto;
  min-width: 100%;
}
.impact thead th.corner {
  vertical-align: bottom;
}
.impact thead th.intent {
  height: 176px;
  width: 30px;
  padding: 4px 0;
  vertical-align: bottom;
}
.intent span {
  writing-mode: vertical-rl;
  transform: rotate(180deg);
  max-height: 168px;
  overflow: hidden;
  text-overflow: ellipsis;
  font-size: 12px;
  font-weight: 400;
  margin: 0 auto;
  display: block;
}
.impact tbody th {
  text-align: left;
  white-space: nowrap;
}
.impact td.num {
  white-space: nowrap;
}
.kind {
  margin-left: 6px;
  font-weight: 400;
}
.impact td.mark {
  border-left: 1px solid var(--hair);
  padding: 0;
  text-align: center;
  color: var(--brick);
  font-weight: 700;
}
.mark.lost {
  background: var(--trouble);
}
ul {
  margin: 2px 0 6px;
  padding-left: 18px;
  columns: 2;
}
@media (max-width: 899px) {
  ul {
    columns: 1;
  }
}
</style>
