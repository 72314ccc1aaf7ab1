<script setup lang="ts">
import { connect, disconnect, freshId, radioBetween } from '#core/edit'
import { clearances, freeRadioPorts, geometryOf, K_USUAL, radioLinks, wiresBehind } from '#core/radio'
import type { Problem } from '#core/util'
import BalanceTable from './BalanceTable.vue'
import ProfilePicture from './ProfilePicture.vue'
import {
  useThroughputColumns,
  useLinkColumns,
  usePointColumns,
  usePointEdits,
  type PointRow,
} from './bridge-columns'
import {
  useAimColumns,
  useAsSetColumns,
  useEndColumns,
  useFieldColumns,
  useSupplyColumns,
  useSurveyColumns,
  useWindColumns,
  type EndRow,
} from './end-columns'
import { useBearings } from './bearings'
import { verdictsOf } from './verdict-words'
import { aimWords, distanceWords, percentWords, unsaidWords } from './words'
import { usePointer } from '~/shell/finding-navigation'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import { useOpened } from '~/ui/opened'
import ListTable from '~/ui/ListTable.vue'
import RemovableTable from '~/ui/RemovableTable.vue'
import SheetTable from '~/ui/SheetTable.vue'
import UndoRedo from '~/ui/UndoRedo.vue'
import { reasonOf } from '~/wording/problems'

const ImportProfile = defineAsyncComponent(() => import('./ImportProfile.vue'))
const importing = ref(false)
const wasImporting = useOpened(importing)

/** Radio links between buildings: what stands in the way, what arrives, and how the antennas are aimed. */
const plan = usePlan()
const session = useSession()
const columns = {
  links: useLinkColumns(),
  ends: useEndColumns(),
  aims: useAimColumns(),
  asSet: useAsSetColumns(),
  fields: useFieldColumns(),
  surveys: useSurveyColumns(),
  wind: useWindColumns(),
  supplies: useSupplyColumns(),
  throughput: useThroughputColumns(),
  points: usePointColumns(),
}
const points = usePointEdits()

const links = computed(() => (plan.index ? radioLinks(plan.index) : []))
const chosen = ref('')
const link = computed(() => links.value.find(({ id }) => id === chosen.value) ?? links.value[0] ?? null)
const { place } = usePointer()
watch(
  place,
  ([root, id = '']) => {
    if (root === 'links') chosen.value = id
  },
  { immediate: true },
)
const focusAt = computed(() =>
  place.value[0] === 'links' ? { row: place.value[1] ?? '', column: 'distance' } : null,
)
const path = computed(() => link.value?.path ?? null)
const ends = computed((): EndRow[] => {
  const one = link.value
  return one ? (['a', 'b'] as const).map((id, i) => ({ id, name: one.names[i] ?? '', link: one })) : []
})
const surveyed = computed((): PointRow[] => {
  const one = link.value
  if (!one) return []
  const free = one.path ? clearances(one.path, K_USUAL) : []
  return one.settings.profile.map((point) => {
    const share = free.find((clearance) => clearance.point === point)?.share
    return { ...point, link: one, freeText: share === undefined ? '—' : percentWords(share) }
  })
})
const verdicts = computed(() => {
  if (!link.value || !path.value || !plan.index) return []
  return verdictsOf(link.value, path.value, plan.index.plan.site.country, wiresBehind(plan.index, link.value))
})
const geometry = computed(() => path.value && geometryOf(path.value))
const { bearings, unknown } = useBearings(() => link.value)
const apart = computed(() =>
  link.value && bearings.value ? distanceWords(link.value.lengthM, bearings.value.lengthM) : '',
)
function takeDistance(): void {
  const lengthM = Math.round(bearings.value?.lengthM ?? 0)
  const id = link.value?.id
  plan.edit(`radio link ${lengthM} m`, '', ({ links }) => {
    const medium = links.find((one) => one.id === id)?.medium
    if (medium?.kind === 'radio') medium.lengthM = lengthM
  })
}

// A new link joins two bridges that have none yet.
const free = computed(() => (plan.index ? freeRadioPorts(plan.index) : []))
const offers = computed(() =>
  free.value.map((port) => ({
    title: plan.index?.devices.get(port.deviceId)?.name ?? port.deviceId,
    value: `${port.deviceId}/${port.portId}`,
    port,
  })),
)
const joined = reactive({ first: null as string | null, second: null as string | null })
const refused = shallowRef<readonly Problem[]>([])
function join(): void {
  const portOf = (value: string | null) => offers.value.find((offer) => offer.value === value)?.port
  const [first, second] = [portOf(joined.first), portOf(joined.second)]
  if (!first || !second || !plan.draft) return
  const radio = radioBetween(plan.draft, first.deviceId, second.deviceId)
  const made = connect(plan.draft, first, second, { kind: 'radio', lengthM: 0, radio })
  refused.value = made.ok ? [] : made.problems
  if (!made.ok) return
  plan.change('radio link added', '', () => made.value)
  joined.first = joined.second = null
  chosen.value = made.value.links.at(-1)?.id ?? ''
}
const remove = (id: string) => plan.change('radio link removed', '', (now) => disconnect(now, id))
const addPoint = () => link.value && points.add(link.value, freshId(link.value.settings.profile, 'point'))
</script>

<template>
  <section v-if="plan.draft" class="sheet">
    <header>
      <h1>Bridges</h1>
      <span class="tools"><UndoRedo /></span>
      <p>
        Radio links between buildings, computed for planning. It is an estimate, some 5 dB wide: a reading on
        site replaces it.
      </p>
    </header>
    <form v-if="session.edits && offers.length > 1" class="join" @submit.prevent="join">
      <VSelect v-model="joined.first" label="Radio" :items="offers" />
      <VSelect v-model="joined.second" label="Far radio" :items="offers" />
      <VBtn type="submit" :disabled="!joined.first || !joined.second">Join by radio</VBtn>
    </form>
    <p v-if="refused.length > 0" class="wrong-words" role="alert">
      Not joined: {{ refused.map(reasonOf).join('; ') }}.
    </p>
    <RemovableTable
      label="Radio links"
      :columns="columns.links"
      :rows="links"
      :name-of="(one) => one.names.join(' – ')"
      :focus-at="focusAt"
      @remove="remove"
      @choose="(id) => (chosen = id)"
    >
      <template #empty>
        No radio link yet. <template v-if="offers.length > 1">Choose two radios above.</template>
        <template v-else>
          It joins two wireless bridges:
          <NuxtLink :to="`/sites/${plan.slug}/loom`">add them on the Loom</NuxtLink> first.
        </template>
      </template>
    </RemovableTable>
    <template v-if="link">
      <h2>{{ link.names.join(' – ') }}</h2>
      <SheetTable
        label="Ends of the link"
        :columns="columns.ends"
        :rows="ends"
        :name-of="(end) => end.name"
        :readonly="!session.edits"
      />
      <p class="small soft">
        Heights from the sea, or whatever the ground is measured from. A dish may be typed as 0.65 m.
      </p>
      <h3>What it carries and stands</h3>
      <SheetTable
        label="What it carries and stands"
        :columns="columns.throughput"
        :rows="[link]"
        :name-of="(one) => one.names.join(' – ')"
        :readonly="!session.edits"
      />
      <h3>Set up and aimed</h3>
      <SheetTable
        label="Set up and aimed"
        :columns="columns.aims"
        :rows="ends"
        :name-of="(end) => end.name"
        :readonly="!session.edits"
      />
      <h3>As set on the devices</h3>
      <SheetTable
        label="As set on the devices"
        :columns="columns.asSet"
        :rows="ends"
        :name-of="(end) => end.name"
        :readonly="!session.edits"
      />
      <h3>Addresses as set</h3>
      <SheetTable
        label="Addresses as set"
        :columns="columns.fields"
        :rows="ends"
        :name-of="(end) => end.name"
        :readonly="!session.edits"
      />
      <h3>Survey with another antenna</h3>
      <SheetTable
        label="Survey with another antenna"
        :columns="columns.surveys"
        :rows="ends"
        :name-of="(end) => end.name"
        :readonly="!session.edits"
      />
      <h3>Wind</h3>
      <SheetTable
        label="Wind"
        :columns="columns.wind"
        :rows="ends"
        :name-of="(end) => end.name"
        :readonly="!session.edits"
      />
      <p class="small soft">
        Force of the gust on the dish, its moment at the foot of the mast, and what a stand that is not fixed
        has to weigh. A first figure: whether wall, roof and mast bear it, an engineer decides.
      </p>
      <h3>Protection and supply</h3>
      <SheetTable
        label="Protection and supply"
        :columns="columns.supplies"
        :rows="ends"
        :name-of="(end) => end.name"
        :readonly="!session.edits"
      />
      <p v-if="apart" role="status">
        {{ apart }}
        <VBtn v-if="session.edits" @click="takeDistance"
          >Take {{ Math.round(bearings?.lengthM ?? 0) }} m</VBtn
        >
      </p>
      <p v-if="unknown.length > 0" class="small soft">
        Bearings need the positions of {{ unknown.join(' and ') }}: type them in the
        <NuxtLink :to="`/sites/${plan.slug}/brief`">Brief</NuxtLink>, Site and places.
      </p>
      <p v-if="!path" class="soft" role="status">{{ unsaidWords(link.unsaid, link.names) }}</p>
      <template v-else>
        <ul class="verdicts">
          <li v-for="verdict in verdicts" :key="verdict.key">
            <b :class="verdict.isFine ? 'fine' : 'wrong-words'">{{ verdict.isFine ? 'Fine' : 'Look' }}</b>
            {{ ' ' }}<b>{{ verdict.title }}:</b> {{ verdict.text }}
          </li>
          <li v-if="geometry"><b>Aim:</b> {{ aimWords(link.names, geometry.tiltsDeg, bearings) }}</li>
        </ul>
        <ProfilePicture :path="path" :names="link.names" />
      </template>
      <ListTable
        title="Surveyed between the ends"
        :columns="columns.points"
        :rows="surveyed"
        :name-of="(point) => `point at ${point.atM} m`"
        add-words="Add a point"
        empty="Nothing surveyed: what stands in the way is not judged."
        @add="addPoint"
        @remove="(point) => link && points.remove(link, point.id)"
      >
        <template #tools>
          <VBtn v-if="session.edits" :disabled="link.lengthM === 0" @click="importing = true"
            >Import a survey</VBtn
          >
        </template>
      </ListTable>
      <ImportProfile v-if="session.edits && wasImporting" v-model="importing" :link="link" />
      <BalanceTable v-if="path" :path="path" :names="link.names" />
      <p v-if="geometry" class="caution small">
        Nobody stands in front of an antenna that sends: here nearer than
        {{ Math.max(...geometry.exposuresM).toFixed(1) }} m (ICNIRP 2020, 10 W/m²). What is permitted is
        looked up, not decided here: check the local rule. Masts, roofs and ladders are for people trained for
        heights; wind, earthing and lightning protection for licensed people; local codes decide.
      </p>
    </template>
  </section>
</template>

<style scoped>
.join {
  display: grid;
  grid-template-columns: 1fr 1fr auto;
  gap: 12px;
  align-items: center;
  max-width: 640px;
  padding-bottom: 8px;
}
h3 {
  margin: 12px 0 4px;
  font-size: 14px;
}
.verdicts {
  list-style: none;
  padding: 8px 0;
}
.verdicts li {
  padding: 2px 0;
}
.fine {
  color: var(--kelp);
}
.caution {
  border-left: 3px solid var(--ochre);
  padding-left: 8px;
  margin: 12px 0;
}
h2 {
  margin: 14px 0 6px;
}
@media (max-width: 599px) {
  .join {
    grid-template-columns: 1fr;
  }
}
</style>
