<script setup lang="ts">
import {
  useCrewEdits,
  useJourneyColumns,
  useKindColumns,
  useKindRows,
  useRecordedTimes,
  usePersonColumns,
} from './crew-columns'
import { kindWords } from '~/wording/activities'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import { checkNumber } from '~/ui/columns'
import DayField from '~/ui/DayField.vue'
import ListTable from '~/ui/ListTable.vue'
import SheetTable from '~/ui/SheetTable.vue'
import TimeField from '~/ui/TimeField.vue'
import TypedFields from '~/ui/TypedFields.vue'
import { count } from '~/wording/count'
import { numberBetween, type TypedField } from '~/ui/typed-fields'

/** Who works, from when on, where the bench is, and how long things take here. */
const plan = usePlan()
const session = useSession()
const work = computed(() => plan.draft?.work)
const edits = useCrewEdits()
const places = computed(() => [
  ...new Set([
    ...(plan.draft?.brief.buildings ?? []).map(({ name }) => name),
    ...(plan.draft?.devices ?? []).map(({ place }) => place).filter((place) => place !== ''),
  ]),
])
const [people, journeys, kinds] = [
  usePersonColumns(),
  useJourneyColumns(() => places.value),
  useKindColumns(),
]
const kindRows = useKindRows()
const { often, take } = useRecordedTimes(() => kindRows.value)
const zones = Intl.supportedValuesOf('timeZone')
const ownZone = Intl.DateTimeFormat().resolvedOptions().timeZone

const setStart = (date: string) =>
  plan.edit('first day', 'first day', ({ work: now }) => {
    now.startDate = date === '' ? null : date
    if (date !== '' && now.timeZone === '') now.timeZone = ownZone
  })
const setZone = (zone: string | null) =>
  plan.edit('time zone', '', ({ work: now }) => void (now.timeZone = zone ?? ''))
const setBenchPlace = (place: string | null) =>
  plan.edit('place of the bench', '', ({ work: now }) => void (now.benchPlace = (place ?? '').slice(0, 80)))
const setWindow = (words: string, part: Partial<{ date: string; from: string; to: string }>) =>
  plan.edit(words, words, ({ work: now }) => {
    const date = part.date ?? now.cutOver?.date ?? now.startDate
    now.cutOver = date
      ? { from: now.cutOver?.from ?? '08:00', to: now.cutOver?.to ?? '17:00', ...part, date }
      : null
  })
const dropWindow = () =>
  plan.edit('no window', '', ({ work: now }) => {
    now.cutOver = null
  })

const fields = computed((): TypedField[] => [
  {
    key: 'bench-ports',
    name: 'Devices on the bench at once',
    read: () => String(work.value?.benchPorts ?? ''),
    check: (text) => checkNumber(text, 1, 64),
    write: (text) =>
      plan.edit('bench', 'bench ports', ({ work: now }) => void (now.benchPorts = Number(text))),
    mono: true,
  },
  {
    key: 'wind',
    name: 'Wind limit outdoors, m/s',
    read: () => String(work.value?.windLimitMps ?? ''),
    check: numberBetween(0, 60, true),
    write: (text) =>
      plan.edit(
        'wind limit',
        'wind limit',
        ({ work: now }) => void (now.windLimitMps = text === '' ? null : Number(text)),
      ),
    mono: true,
  },
])
</script>

<template>
  <template v-if="work">
    <div class="fields">
      <DayField
        label="First day"
        :value="work.startDate ?? ''"
        :readonly="!session.edits"
        clearable
        @set="setStart"
      />
      <VAutocomplete
        label="Time zone"
        :items="zones"
        :model-value="work.timeZone || null"
        :readonly="!session.edits"
        clearable
        @update:model-value="setZone"
      />
      <VCombobox
        label="Place of the bench"
        :items="places"
        :model-value="work.benchPlace"
        :readonly="!session.edits"
        @update:model-value="setBenchPlace"
      />
      <TypedFields :fields="fields" :owner="plan.slug" />
    </div>
    <div class="fields">
      <DayField
        label="Cut-over on"
        :value="work.cutOver?.date ?? ''"
        :readonly="!session.edits"
        @set="(date) => (date === '' ? dropWindow() : setWindow('day of the cut-over', { date }))"
      />
      <template v-if="work.cutOver">
        <TimeField
          label="Not before"
          :value="work.cutOver.from"
          :readonly="!session.edits"
          @set="(from) => setWindow('window of the cut-over', { from })"
        />
        <TimeField
          label="Over by"
          :value="work.cutOver.to"
          :readonly="!session.edits"
          @set="(to) => setWindow('window of the cut-over', { to })"
        />
      </template>
      <VBtn v-if="session.edits && work.cutOver" @click="dropWindow">No window</VBtn>
    </div>
    <ListTable
      title="People"
      :columns="people"
      :rows="work.people"
      :name-of="(person) => person.name"
      add-words="Add a person"
      empty="Nobody yet: one person is assumed who may do everything, Monday to Friday, 08:00 to 17:00."
      @add="edits.addPerson"
      @remove="(person) => edits.dropPerson(person.id)"
    />
    <p class="small soft">
      A role rather than a name. Mains, height and lightning protection are for people who are trained and
      licensed for it; local codes decide who that is.
    </p>
    <ListTable
      title="Travel times"
      :columns="journeys"
      :rows="work.journeys"
      :name-of="(journey) => `${journey.a} to ${journey.b}`"
      add-words="Add a travel time"
      empty="No travel times between places: travel counts for nothing."
      @add="edits.addJourney(places[0] ?? '', places[1] ?? '')"
      @remove="(journey) => edits.dropJourney(journey.id)"
    />
    <div class="durations">
      <h2>How long things take</h2>
      <VBtn v-if="session.edits && often.length > 0" @click="take">
        Take {{ count(often.length, 'recorded time') }}
      </VBtn>
    </div>
    <SheetTable
      label="How long things take"
      :columns="kinds"
      :rows="kindRows"
      :name-of="(row) => kindWords(row.id)"
      :readonly="!session.edits"
      ordered
    >
      <template #empty>Nothing to do yet.</template>
    </SheetTable>
    <p class="small soft">
      Practice until you type yours; an emptied cell is practice again. What a model says of its start and its
      adoption is taken for each device. Recorded: least, median and worst of what field cards say, and how
      often.
    </p>
  </template>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(190px, 1fr));
  gap: 12px;
  align-items: start;
  padding-bottom: 12px;
}
.durations {
  display: flex;
  gap: 10px;
  align-items: center;
  justify-content: space-between;
  margin: 12px 0 6px;
}
</style>
