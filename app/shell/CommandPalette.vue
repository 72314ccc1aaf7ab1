<script setup lang="ts">
import { askFor } from './actions'
import { ACTIONS, search, entriesOf, type SearchEntry } from './search'
import { SHEETS } from './sheets'
import { useAnalysis } from '~/stores/analysis'
import { usePreferences } from '~/stores/preferences'
import { useSession } from '~/stores/session'
import { usePlan } from '~/stores/plan'
import { usePointer } from './finding-navigation'
import { wordsOf } from '~/wording/findings'
import { useChosen } from '~/ui/selection'
import { useFocusReturn } from '~/ui/focus-return'

/** Find or do: sheets, everything of the plan, findings and commands, by a few letters. */
const plan = usePlan()
const analysis = useAnalysis()
const preferences = usePreferences()
const session = useSession()
useFocusReturn(computed(() => preferences.dialog === 'find'))
const { goTo, goToPlace } = usePointer()
const chosen = useChosen()
const sought = ref('')
// At once: what is typed next is meant for it.
const field = useTemplateRef<HTMLInputElement>('field')
watch(field, (now) => now?.focus())
const at = ref(0)

interface Entry extends SearchEntry {
  readonly act: () => unknown
}
const to = (sheet: string) => navigateTo(`/sites/${plan.slug}/${sheet}`)

function goToEntry(place: SearchEntry): unknown {
  if (place.network) chosen.network = place.network
  if (place.device) chosen.device = place.device
  return to(place.sheet)
}
const commands = computed((): Entry[] => [
  ...SHEETS.map((s) => ({ name: s.name, kind: 'sheet', sheet: s.key, act: () => to(s.key) })),
  { name: 'Undo', kind: 'command', sheet: '', act: plan.undo },
  { name: 'Redo', kind: 'command', sheet: '', act: plan.redo },
  { name: 'Weather: all well', kind: 'command', sheet: '', act: () => (analysis.scenario = []) },
  {
    name: 'Weather: choose a failure',
    kind: 'command',
    sheet: '',
    act: () => void setTimeout(() => (preferences.dialog = 'weather')),
  },
  {
    name: preferences.night ? 'Day' : 'Night watch',
    kind: 'command',
    words: 'dark light theme',
    sheet: '',
    act: () => (preferences.night = !preferences.night),
  },
  { name: 'Sites', kind: 'command', sheet: '', act: () => navigateTo('/') },
])
const planEntries = computed((): Entry[] =>
  (plan.draft ? entriesOf(plan.draft) : []).map((place) => ({ ...place, act: () => goToEntry(place) })),
)
const actions = computed((): Entry[] =>
  ACTIONS.filter(({ who }) => who === 'all' || session[who]).map((entry) => ({
    ...entry,
    act: () => {
      if (entry.action) askFor(entry.action)
      const first =
        entry.list && plan.draft?.[entry.list].find((row) => !('kind' in row) || row.kind !== 'cloud')
      return first ? goToPlace(entry.sheet, [entry.list ?? '', first.id]) : to(entry.sheet)
    },
  })),
)
const findings = computed((): Entry[] =>
  (analysis.analysis?.findings ?? []).map((finding) => ({
    name: wordsOf(finding).title,
    kind: finding.code,
    sheet: '',
    act: () => goTo(finding),
  })),
)
const MOST_SHOWN = 12
const met = computed(() =>
  search([...commands.value, ...actions.value, ...planEntries.value, ...findings.value], sought.value).slice(
    0,
    MOST_SHOWN,
  ),
)
watch(sought, () => (at.value = 0))

function take(entry: Entry | undefined): void {
  if (!entry) return
  preferences.dialog = 'none'
  sought.value = ''
  void entry.act()
}
function move(by: number): void {
  at.value = (at.value + by + met.value.length) % Math.max(1, met.value.length)
}
</script>

<template>
  <VDialog
    aria-label="Find or do"
    :model-value="preferences.dialog === 'find'"
    width="560"
    @update:model-value="preferences.dialog = 'none'"
  >
    <VCard>
      <div class="pad">
        <input
          ref="field"
          v-model="sought"
          class="field"
          type="text"
          role="combobox"
          aria-label="Find or do"
          aria-expanded="true"
          aria-controls="found"
          :aria-activedescendant="`found-${at}`"
          placeholder="Name, address, VLAN, serial, MAC, finding or command"
          @keydown.down.prevent="move(1)"
          @keydown.up.prevent="move(-1)"
          @keydown.enter.prevent="take(met[at])"
        />
        <ul id="found" role="listbox" aria-label="Found">
          <li
            v-for="(entry, i) in met"
            :id="`found-${i}`"
            :key="`${i} ${entry.kind} ${entry.name}`"
            role="option"
            :aria-selected="i === at"
            @click="take(entry)"
            @mousemove="at = i"
          >
            <span>{{ entry.name }}</span><span class="soft small">{{ entry.kind }}</span>
          </li>
        </ul>
        <p v-if="met.length === 0" class="soft">Nothing of that name.</p>
      </div>
    </VCard>
  </VDialog>
</template>

<style scoped>
.pad {
  padding: 12px;
}
.field {
  width: 100%;
  padding: 6px 10px;
  border: 1px solid var(--line);
  border-radius: 2px;
}
ul {
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
}
li {
  display: flex;
  justify-content: space-between;
  padding: 4px 8px;
  cursor: pointer;
}
li[aria-selected='true'] {
  background: var(--shallow);
}
</style>
