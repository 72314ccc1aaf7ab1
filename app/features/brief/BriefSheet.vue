<script setup lang="ts">
import { beforeUnplug, missingFacts, type MissingFact } from '#core/brief'
import { freshId } from '#core/edit'
import AroundTables from './AroundTables.vue'
import UplinkFacts from './UplinkFacts.vue'
import PlaceTables from './PlaceTables.vue'
import { useBriefList, useNeedColumns } from './columns'
import { useActions } from '~/shell/actions'
import { usePointer } from '~/shell/finding-navigation'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import { useSite } from '~/stores/site'
import ListTable from '~/ui/ListTable.vue'
import TabBar from '~/ui/TabBar.vue'
import UndoRedo from '~/ui/UndoRedo.vue'
import { dateText } from '~/wording/adoption'
import { BLOCKED, CHECKS, FACTS } from '~/wording/brief'
import { sentenceOf } from '~/wording/problems'

/** What has to be known before anything is unplugged. */
const plan = usePlan()
const site = useSite()
const session = useSession()
const { place } = usePointer()

const brief = computed(() => plan.draft?.brief)
const missing = computed(() => (plan.draft ? missingFacts(plan.draft) : []))
const items = computed(() => (plan.draft ? beforeUnplug(plan.draft) : []))
const ticked = computed(() => new Map(site.ticks.map((t) => [t.item, t])))
const doneCount = computed(() => items.value.filter((i) => ticked.value.has(i.id)).length)

const shown = ref('missing')
const parts = computed(() => [
  { key: 'missing', name: 'Missing facts', tally: String(missing.value.length) },
  { key: 'unplug', name: 'Before you unplug', tally: `${doneCount.value} of ${items.value.length}` },
  { key: 'uplinks', name: 'Uplinks', tally: String(plan.draft?.uplinks.length ?? 0) },
  { key: 'places', name: 'Site and places' },
  { key: 'needs', name: 'Needs', tally: String(brief.value?.needs.length ?? 0) },
  { key: 'around', name: 'Around' },
])

const uplinks = useTemplateRef<InstanceType<typeof UplinkFacts>>('uplinks')
useActions({
  'add-uplink': async () => {
    shown.value = 'uplinks'
    await nextTick()
    uplinks.value?.newUplink()
  },
})
const needs = useBriefList('needs')
const needColumns = useNeedColumns()

const addNeed = () =>
  brief.value &&
  needs.add('need added', {
    id: freshId(brief.value.needs, 'need'),
    name: 'New need',
    count: 10,
    growthPct: 20,
    vlan: null,
    networkId: null,
  })
const otherWay = computed({
  get: () => brief.value?.otherWay ?? '',
  set: (text: string) =>
    plan.edit('another way out', 'other way', (draft) => void (draft.brief.otherWay = text.slice(0, 200))),
})
/** The part of this sheet, or the other sheet, on which a fact is typed. */
function wayTo(fact: MissingFact): void {
  const [root, , list] = fact.place
  const base = `/sites/${plan.slug}`
  if (root === 'uplinks') shown.value = 'uplinks'
  else if (root === 'brief')
    shown.value =
      list === undefined || fact.key === 'distance' || fact.key === 'headcount' ? 'places' : 'around'
  else if (root === 'site') shown.value = 'places'
  else void navigateTo(`${base}/${root === 'devices' ? 'equipment' : 'addresses'}`)
  if (fact.key === 'other-way') shown.value = 'unplug'
}

watch(
  place,
  ([list, field]) => {
    if (list === 'site' && field === 'country') shown.value = 'places'
    if (list === 'uplinks') shown.value = 'uplinks'
  },
  { immediate: true },
)
</script>

<template>
  <section v-if="plan.draft && brief" class="sheet">
    <header>
      <h1>Brief</h1>
      <span class="tools"><UndoRedo /></span>
      <p>Everything that has to be known before a cable is touched. What is missing says what it blocks.</p>
    </header>
    <TabBar v-model="shown" :parts="parts" label="Parts of the brief" />

    <div v-if="shown === 'missing'" role="tabpanel" aria-labelledby="tab-missing">
      <p v-if="missing.length === 0" class="soft">Nothing is missing.</p>
      <ul v-else class="facts">
        <li v-for="fact in missing" :key="fact.place.join('/')">
          <span class="what"
            ><VBtn variant="text" class="fact" @click="wayTo(fact)">
              <b>{{ fact.about }}: {{ FACTS[fact.key].name }}</b></VBtn
            ><br /><span class="small soft">{{ FACTS[fact.key].ask }}</span></span
          >
          <span class="blocks small"
            >blocks <b>{{ fact.blocks.map((b) => BLOCKED[b]).join(', ') }}</b></span
          >
        </li>
      </ul>
    </div>

    <div v-else-if="shown === 'unplug'" role="tabpanel" aria-labelledby="tab-unplug">
      <VTextField
        v-model="otherWay"
        label="Another way onto the internet while the uplinks are down"
        persistent-placeholder
        maxlength="200"
        :readonly="!session.edits"
        placeholder="for example a telephone as hotspot, charged and tried"
      />
      <p class="caution small">
        Mains and lightning: leave fixed wiring, outdoor cable bonding and anything on a mast to people
        licensed for it; local codes decide.
      </p>
      <p v-if="site.problems.length > 0" class="wrong-words" role="alert">
        {{ site.problems.map(sentenceOf).join('; ') }}
      </p>
      <ul class="checks">
        <li v-for="item in items" :key="item.id" :class="{ done: ticked.has(item.id) }">
          <VCheckbox
            :model-value="ticked.has(item.id)"
            :disabled="!session.works"
            @update:model-value="site.tick(item.id, !ticked.has(item.id))"
          >
            <template #label
              ><span
                ><b v-if="item.about">{{ item.about }}: </b>{{ CHECKS[item.code] }}<br />
                <span class="small soft"
                  ><template v-if="item.known"
                    >known: <span class="mono">{{ item.known }}</span></template
                  ><template v-else-if="item.about || item.code === 'other-way'">not known yet</template>
                  <template v-if="ticked.get(item.id)">
                    · done by {{ ticked.get(item.id)?.who }}, {{ dateText(ticked.get(item.id)?.at ?? '')
                    }}{{ ticked.get(item.id)?.isWaiting ? ', not sent yet' : '' }}</template
                  ></span
                ></span
              ></template
            >
          </VCheckbox>
        </li>
      </ul>
    </div>

    <div v-else-if="shown === 'uplinks'" role="tabpanel" aria-labelledby="tab-uplinks">
      <UplinkFacts ref="uplinks" />
    </div>

    <div v-else-if="shown === 'places'" role="tabpanel" aria-labelledby="tab-places"><PlaceTables /></div>

    <div v-else-if="shown === 'needs'" role="tabpanel" aria-labelledby="tab-needs">
      <ListTable
        title="Who and what must be connected"
        :columns="needColumns"
        :rows="brief.needs"
        :name-of="(n) => n.name"
        add-words="Add a need"
        empty="No need yet."
        @add="addNeed"
        @remove="(n) => needs.remove(n.id, `need ${n.name} removed`)"
      />
      <p class="small soft">
        Subnets for needs without a network are given on
        <NuxtLink :to="`/sites/${plan.slug}/addresses`">Addresses</NuxtLink>, from these counts and their
        growth.
      </p>
    </div>

    <div v-else role="tabpanel" aria-labelledby="tab-around"><AroundTables /></div>
  </section>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
  border-top: 1px solid var(--line);
  background: var(--panel);
}
li {
  border-bottom: 1px solid var(--hair);
  padding: 5px 8px;
}
.facts li {
  display: flex;
  gap: 12px;
  justify-content: space-between;
  align-items: baseline;
}
.facts button:hover {
  text-decoration: underline;
}
.blocks {
  flex: none;
  color: var(--magenta);
}
.checks label {
  display: flex;
  gap: 10px;
  align-items: start;
  cursor: pointer;
}
.checks input {
  width: 18px;
  height: 18px;
  margin-top: 1px;
  accent-color: var(--kelp);
  flex: none;
}
.checks li.done {
  background: none;
}
.caution {
  border-left: 3px solid var(--ochre);
  padding-left: 8px;
  margin: 8px 0;
}
@media (max-width: 899px) {
  .facts li,
  .facts .blocks {
    display: block;
  }
  .checks li {
    padding: 10px 8px;
  }
  .checks input {
    width: 26px;
    height: 26px;
  }
}
</style>
