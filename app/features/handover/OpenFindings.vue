<script setup lang="ts">
import { lacksOf } from '#core/brief'
import { acceptanceOf } from '#core/findings'
import SeverityIcon from '~/ui/SeverityIcon.vue'
import { useAnalysis } from '~/stores/analysis'
import { useSession } from '~/stores/session'
import { useSite } from '~/stores/site'
import { dateText } from '~/wording/adoption'
import { usePlan } from '~/stores/plan'
import { wordsOf } from '~/wording/findings'
import { quietWords } from '~/wording/lacks'

/** What is still to be said against the plan, and who hands it over all the same. */
const { paper = false } = defineProps<{
  /** To print: nothing can be ticked. */
  paper?: boolean
}>()
const plan = usePlan()
const analysis = useAnalysis()
const lacks = computed(() => (plan.draft ? lacksOf(plan.draft) : []))
const session = useSession()
const site = useSite()
const accepted = computed(() => new Map(site.ticks.map((tick) => [tick.item, tick])))
const entries = computed(() =>
  (analysis.analysis?.findings ?? []).map((finding) => ({
    item: acceptanceOf(finding),
    finding,
    words: wordsOf(finding),
    tick: accepted.value.get(acceptanceOf(finding)),
  })),
)
</script>

<template>
  <h2>Open findings</h2>
  <p v-if="!analysis.analysis" class="soft">Computing</p>
  <p v-else-if="entries.length === 0">{{ quietWords(lacks) }}</p>
  <ul v-else>
    <li v-for="{ item, finding, words, tick } in entries" :key="item">
      <SeverityIcon :severity="finding.severity" />
      <span>
        <b>{{ words.title }}</b> <span class="code mono">{{ finding.code }}</span><br /><span class="small">{{
          words.what
        }}</span>
      </span>
      <span class="small who">
        <VCheckbox
          v-if="!paper && session.works"
          :model-value="tick !== undefined"
          :aria-label="`Accepted: ${words.title}`"
          label="accepted"
          @update:model-value="site.tick(item, tick === undefined)"
        />
        <template v-if="tick"
          >{{ paper ? 'accepted by ' : '' }}{{ tick.who }}, {{ dateText(tick.at)
          }}{{ tick.isWaiting ? ', not sent yet' : '' }}</template
        >
        <template v-else-if="paper || !session.works">accepted by nobody</template>
      </span>
    </li>
  </ul>
</template>

<style scoped>
h2 {
  margin: 18px 0 6px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  border: 1px solid var(--line);
  background: var(--panel);
}
li {
  display: grid;
  grid-template-columns: 20px 1fr minmax(130px, auto);
  gap: 4px 10px;
  padding: 6px 10px;
  border-bottom: 1px solid var(--hair);
  align-items: start;
  break-inside: avoid;
}
li:last-child {
  border-bottom: 0;
}
.code {
  font-size: 12px;
  color: var(--soft);
}
.who {
  text-align: right;
}
@media (max-width: 599px) {
  li {
    grid-template-columns: 20px 1fr;
  }
  .who {
    grid-column: 2;
    text-align: left;
  }
}
</style>
