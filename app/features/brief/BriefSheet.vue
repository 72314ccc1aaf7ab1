<script setup lang="ts">
import {
  addressesOf,
  beforeUnplug,
  fleetOverlaps,
  missingFacts,
  type FleetSite,
  type MissingFact,
} from '#core/brief'
import { groupBy } from '#core/util'
import { addUplink, freshId, removeUplink } from '#core/model'
import ListTable from '~/ui/ListTable.vue'
import TabBar from '~/ui/TabBar.vue'
import UndoRedo from '~/ui/UndoRedo.vue'
import {
  useBriefList,
  useBuildingColumns,
  useExistingColumns,
  useFarColumns,
  useNeedColumns,
  useRoomColumns,
  useSpanColumns,
} from './columns'
import { useCellularColumns, useLineColumns, useLineMoreColumns } from '~/features/uplinks/line-columns'
import { usePointer } from '~/shell/finding-navigation'
import { useAnalysis } from '~/stores/analysis'
import { api } from '~/stores/api'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import { useSite } from '~/stores/site'
import { dateText } from '~/wording/adoption'
import { BLOCKED, CHECKS, FACTS } from '~/wording/brief'
import { sentenceOf } from '~/wording/problems'

/** What has to be known before anything is unplugged. */
const plan = usePlan()
const site = useSite()
const session = useSession()
const analysis = useAnalysis()
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
  { key: 'lines', name: 'Lines', tally: String(plan.draft?.uplinks.length ?? 0) },
  { key: 'places', name: 'Places' },
  { key: 'needs', name: 'Needs', tally: String(brief.value?.needs.length ?? 0) },
  { key: 'around', name: 'Around' },
])

const lineColumns = useLineColumns()
const lineMore = useLineMoreColumns()
const cellular = useCellularColumns()
const cellularLines = computed(() => (plan.draft?.uplinks ?? []).filter((u) => u.facts.cellular))
const buildings = useBriefList('buildings')
const spans = useBriefList('spans')
const rooms = useBriefList('rooms')
const needs = useBriefList('needs')
const far = useBriefList('far')
const existing = useBriefList('existing')
const columns = {
  buildings: useBuildingColumns(),
  spans: useSpanColumns(),
  rooms: useRoomColumns(),
  needs: useNeedColumns(),
  far: useFarColumns(),
  existing: useExistingColumns(),
}

const addBuilding = () =>
  brief.value &&
  buildings.add('building added', { id: freshId(brief.value.buildings, 'building'), name: 'New building' })
function addSpan(): void {
  const [first, second] = brief.value?.buildings ?? []
  if (brief.value && first && second)
    spans.add('distance added', {
      id: freshId(brief.value.spans, 'span'),
      a: first.id,
      b: second.id,
      distanceM: 0,
      crosses: 'nothing',
    })
}
function addRoom(): void {
  const home = brief.value?.buildings[0]
  if (brief.value && home)
    rooms.add('room added', {
      id: freshId(brief.value.rooms, 'room'),
      name: 'New room',
      buildingId: home.id,
      people: null,
    })
}
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
const addFar = () =>
  brief.value &&
  far.add('far site added', {
    id: freshId(brief.value.far, 'far'),
    name: 'New site',
    subnets: [],
    tunnel: null,
  })
const addExisting = () =>
  brief.value &&
  existing.add('existing thing added', {
    id: freshId(brief.value.existing, 'existing'),
    what: 'New entry',
    fate: 'unknown',
  })

const lineProblems = ref('')
function newLine(): void {
  if (!plan.draft) return
  const result = addUplink(plan.draft, `Line ${plan.draft.uplinks.length + 1}`)
  lineProblems.value = result.ok ? '' : `No line was added: ${result.problems.map(sentenceOf).join('; ')}.`
  if (result.ok) plan.change('line added', '', () => result.value)
}
const fleet = shallowRef<readonly FleetSite[]>([])
onMounted(async () => {
  const answer = await api<FleetSite[]>('GET', 'fleet')
  if (answer.ok) fleet.value = answer.value
})
const bySite = computed(() => [...groupBy(overlaps.value, (o) => o.site)])
const overlaps = computed(() =>
  plan.draft ? fleetOverlaps(addressesOf(plan.slug, plan.draft), fleet.value) : [],
)

const otherWay = computed({
  get: () => brief.value?.otherWay ?? '',
  set: (text: string) =>
    plan.edit('another way out', 'other way', (draft) => void (draft.brief.otherWay = text.slice(0, 200))),
})
const country = computed({
  get: () => plan.draft?.site.country ?? '',
  set: (text: string) => {
    const code = text.trim().toUpperCase()
    if (/^([A-Z]{2})?$/.test(code))
      plan.edit(`country ${code || 'not set'}`, 'country', (draft) => void (draft.site.country = code))
  },
})

/** The part of this sheet, or the other sheet, on which a fact is typed. */
function wayTo(fact: MissingFact): void {
  const [root, , list] = fact.place
  const base = `/sites/${plan.slug}`
  if (root === 'uplinks') shown.value = 'lines'
  else if (root === 'brief')
    shown.value =
      list === undefined || fact.key === 'distance' || fact.key === 'headcount' ? 'places' : 'around'
  else if (root === 'site') shown.value = 'places'
  else void navigateTo(`${base}/${root === 'devices' ? 'equipment' : 'addresses'}`)
  if (fact.key === 'other-way') shown.value = 'unplug'
}

const LINE_FIELDS: Readonly<Record<string, string>> = {
  tagKnown: 'tag',
  pcp: 'pcp',
  macLock: 'macLock',
  linkSpeed: 'linkSpeed',
  downMbps: 'downMbps',
  capGb: 'capGb',
  outsideKnown: 'outsideKnown',
  modem: 'modem',
}
const lineAt = shallowRef<{ row: string; column: string } | null>(null)
const cellularAt = shallowRef<{ row: string; column: string } | null>(null)
const moreAt = shallowRef<{ row: string; column: string } | null>(null)
watch(
  place,
  async (path) => {
    if (path[0] === 'site' && path[1] === 'country') shown.value = 'places'
    if (path[0] !== 'uplinks') return
    shown.value = 'lines'
    await nextTick()
    const field = path.at(-1) ?? ''
    const at = { row: path[1] ?? '', column: LINE_FIELDS[field] ?? field }
    if (path[3] === 'cellular') cellularAt.value = at
    else if (['credentialsAt', 'address', 'gateway', 'dns', 'portEnabled'].includes(field)) moreAt.value = at
    else lineAt.value = at
  },
  { immediate: true },
)
const findings = computed(() =>
  (analysis.analysis?.findings ?? []).filter((f) => f.place[0] === 'uplinks' && f.severity !== 'note'),
)
const lineTrouble = (row: { id: string }, key: string) =>
  findings.value.some(
    (f) => f.place[1] === row.id && (LINE_FIELDS[f.place.at(-1) ?? ''] ?? f.place.at(-1)) === key,
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
            ><button type="button" class="plain" @click="wayTo(fact)">
              <b>{{ fact.about }}: {{ FACTS[fact.key].name }}</b></button
            ><br /><span class="small soft">{{ FACTS[fact.key].ask }}</span></span
          >
          <span class="blocks small"
            >blocks <b>{{ fact.blocks.map((b) => BLOCKED[b]).join(', ') }}</b></span
          >
        </li>
      </ul>
    </div>

    <div v-else-if="shown === 'unplug'" role="tabpanel" aria-labelledby="tab-unplug">
      <label class="label" for="other-way">Another way onto the internet while the lines are down</label>
      <input
        id="other-way"
        v-model="otherWay"
        class="field"
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
          <label>
            <input
              type="checkbox"
              :checked="ticked.has(item.id)"
              :disabled="!session.works"
              @change="site.tick(item.id, !ticked.has(item.id))"
            />
            <span
              ><b v-if="item.about">{{ item.about }}: </b>{{ CHECKS[item.code] }}<br />
              <span class="small soft"
                ><template v-if="item.known"
                  >known: <span class="mono">{{ item.known }}</span></template
                ><template v-else-if="item.about || item.code === 'other-way'">not known yet</template>
                <template v-if="ticked.get(item.id)">
                  · done by {{ ticked.get(item.id)?.who }},
                  {{ dateText(ticked.get(item.id)?.at ?? '') }}</template
                ></span
              ></span
            >
          </label>
        </li>
      </ul>
    </div>

    <div v-else-if="shown === 'lines'" role="tabpanel" aria-labelledby="tab-lines">
      <ListTable
        title="Each line as its provider made it"
        :columns="lineColumns"
        :rows="plan.draft.uplinks"
        :name-of="(u) => u.name"
        empty="No line yet."
        :focus-at="lineAt"
        :trouble="lineTrouble"
      >
        <template #tools
          ><button v-if="session.edits" type="button" class="press" @click="newLine">
            Add a line
          </button></template
        >
      </ListTable>
      <p v-if="lineProblems" class="wrong-words" role="alert">{{ lineProblems }}</p>
      <ListTable
        title="Kept and enabled"
        :columns="lineMore"
        :rows="plan.draft.uplinks"
        :name-of="(u) => u.name"
        :add-words="plan.draft.uplinks.length > 0 ? 'Add another line' : undefined"
        empty="No line yet."
        :focus-at="moreAt"
        :trouble="lineTrouble"
        @add="newLine"
        @remove="(u) => plan.change(`line ${u.name} removed`, '', (now) => removeUplink(now, u.id))"
      />
      <template v-if="cellularLines.length > 0">
        <ListTable
          title="Cellular lines"
          :columns="cellular"
          :rows="cellularLines"
          :name-of="(u) => u.name"
          empty=""
          :focus-at="cellularAt"
          :trouble="lineTrouble"
        />
        <p class="caution small">
          Antennas outside: work on roofs and masts is for people trained for heights; earthing and lightning
          protection for licensed people; local codes decide.
        </p>
      </template>
      <p class="small soft">
        A question mark stands for what nobody has found out. Passwords and PINs are never typed here: say
        where they are kept.
      </p>
    </div>

    <div v-else-if="shown === 'places'" role="tabpanel" aria-labelledby="tab-places" class="two">
      <div>
        <ListTable
          title="Buildings"
          :columns="columns.buildings"
          :rows="brief.buildings"
          :name-of="(b) => b.name"
          add-words="Add a building"
          empty="No building yet."
          @add="addBuilding"
          @remove="(b) => buildings.remove(b.id, `building ${b.name} removed`)"
        />
        <label class="label" for="country">Country of the radios (two letters, ISO 3166)</label>
        <input
          id="country"
          v-model.lazy="country"
          class="field short mono"
          maxlength="2"
          :readonly="!session.edits"
        />
      </div>
      <ListTable
        title="Rooms"
        :columns="columns.rooms"
        :rows="brief.rooms"
        :name-of="(r) => r.name"
        add-words="Add a room"
        empty="No room yet."
        @add="addRoom"
        @remove="(r) => rooms.remove(r.id, `room ${r.name} removed`)"
      />
      <ListTable
        class="wide"
        title="Distances between buildings"
        :columns="columns.spans"
        :rows="brief.spans"
        :name-of="(s) => s.id"
        add-words="Add a distance"
        empty="No distance yet."
        @add="addSpan"
        @remove="(s) => spans.remove(s.id, 'distance removed')"
      />
      <p class="caution small wide">
        Crossing a road or burying a cable needs permission and, on poles and roofs, people trained for
        heights; local codes decide.
      </p>
    </div>

    <div v-else-if="shown === 'needs'" role="tabpanel" aria-labelledby="tab-needs">
      <ListTable
        title="Who and what must be connected"
        :columns="columns.needs"
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

    <div v-else role="tabpanel" aria-labelledby="tab-around">
      <ListTable
        title="Other sites"
        :columns="columns.far"
        :rows="brief.far"
        :name-of="(f) => f.name"
        add-words="Add a site"
        empty="No other site."
        @add="addFar"
        @remove="(f) => far.remove(f.id, `far site ${f.name} removed`)"
      />
      <section class="fleet">
        <h2>The fleet</h2>
        <p v-if="overlaps.length === 0" class="small soft">No other site here uses an address of this one.</p>
        <table v-else class="ruled">
          <thead>
            <tr>
              <th>Site</th>
              <th>Uses addresses of</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="[name, list] in bySite.slice(0, 40)" :key="name">
              <td>
                <b>{{ name }}</b>
              </td>
              <td>
                {{
                  list
                    .slice(0, 8)
                    .map((o) => `${o.ours} (${o.theirSubnet})`)
                    .join(', ')
                }}{{ list.length > 8 ? ` and ${list.length - 8} more` : '' }}.
                <span class="soft">No tunnel can join the two as they are.</span>
              </td>
            </tr>
          </tbody>
        </table>
      </section>
      <ListTable
        title="What is there already"
        :columns="columns.existing"
        :rows="brief.existing"
        :name-of="(e) => e.what"
        add-words="Add an entry"
        empty="Nothing noted."
        @add="addExisting"
        @remove="(e) => existing.remove(e.id, `existing: ${e.what} removed`)"
      />
    </div>
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
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0 20px;
}
.wide {
  grid-column: 1 / -1;
}
.fleet {
  margin-top: 12px;
}
.short {
  width: 64px;
}
@media (max-width: 899px) {
  .two {
    grid-template-columns: 1fr;
  }
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
