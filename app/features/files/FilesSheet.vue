<script setup lang="ts">
import { useClipboard } from '@vueuse/core'
import { mdiPaperclip } from '@mdi/js'
import type { Problem } from '#core/util'
import { deviceFiles, devicesWithFiles } from '#core/export'
import { readRunning, type Running } from '#core/ingest'
import CodeEditor from '~/ui/CodeEditor.vue'
import type { Column } from '~/ui/columns'
import DataTable from '~/ui/DataTable.vue'
import TabBar from '~/ui/TabBar.vue'
import { saveFile } from '~/ui/save-file'
import { usePlan } from '~/stores/plan'
import { count } from '~/wording/findings'
import { driftWords, FILE_WORDS, KIND_WORDS } from '~/wording/files'
import { sentenceOf } from '~/wording/problems'

/** What each device is to be told, file by file, and whether what a gateway runs is the same. */
const plan = usePlan()
const part = ref<'load' | 'compare'>('load')
const PARTS = [
  { key: 'load', name: 'To load' },
  { key: 'compare', name: 'Compare with what runs' },
]

const devices = computed(() => (plan.draft ? devicesWithFiles(plan.draft) : []))
const gateways = computed(() => devices.value.filter((d) => d.kind === 'gateway'))
const chosen = ref('')
const device = computed(
  () =>
    (part.value === 'compare' ? gateways.value : devices.value).find((d) => d.id === chosen.value) ??
    devices.value[0],
)
const choose = (id: string | null) => void (chosen.value = id ?? '')
const files = computed(() =>
  plan.draft && device.value ? deviceFiles(plan.draft, device.value.id, plan.saved?.revision ?? 1) : [],
)
const chosenFile = ref('')
const file = computed(() => files.value.find((f) => f.name === chosenFile.value) ?? files.value[0])
const words = computed(() => file.value && FILE_WORDS[file.value.code])

const { copied, copy } = useClipboard({ source: () => file.value?.text ?? '', legacy: true })
function save(): void {
  if (file.value) saveFile(file.value.name, file.value.text)
}

const grammarOf = (text: string) => (/^\s*[{[]\s*[{["\n]/.test(text) ? 'json' : 'settings')
const printed = ref('')
const running = shallowRef<Running | null>(null)
const drifts = computed(() => (running.value?.drifts ?? []).map((drift, nth) => ({ id: String(nth), drift })))
const driftColumns: readonly Column<(typeof drifts.value)[number]>[] = [
  { key: 'what', head: 'What differs', strong: true, get: ({ drift }) => driftWords(drift) },
  { key: 'planned', head: 'Planned', mono: true, wraps: true, get: ({ drift }) => drift.planned || '–' },
  { key: 'runs', head: 'Runs', mono: true, wraps: true, get: ({ drift }) => drift.running || '–' },
]
const problems = shallowRef<readonly Problem[]>([])
function compare(): void {
  if (!plan.draft || !device.value) return
  const read = readRunning(plan.draft, device.value.id, printed.value)
  running.value = read.ok ? read.value : null
  problems.value = read.ok ? [] : read.problems
}
async function take(event: Event): Promise<void> {
  const [given] = (event.target as HTMLInputElement).files ?? []
  if (!given) return
  printed.value = await given.text()
  compare()
}
watch([() => plan.draft, device, printed], () => (running.value = null))
const SOURCES = [
  'nft -j list ruleset',
  'ip -j address',
  'ip -j route',
  'ip -j rule',
  'wg show all dump',
  'the leases file of dnsmasq',
]
</script>

<template>
  <section v-if="plan.draft" class="sheet">
    <header>
      <h1>Device files</h1>
      <span class="tools"
        ><VSelect
          label="Device"
          class="which"
          :model-value="device?.id"
          :items="part === 'compare' ? gateways : devices"
          item-value="id"
          item-title="name"
          @update:model-value="choose"
      /></span>
      <p>
        Made from revision {{ plan.saved?.revision
        }}{{ plan.state === 'saved' ? '' : ' and what is not saved yet' }}. No secret is in any of them.
      </p>
    </header>
    <TabBar v-model="part" :parts="PARTS" label="Device files" />
    <template v-if="part === 'load'">
      <p v-if="files.length === 0" class="soft">No device of this plan has files.</p>
      <div v-else class="two">
        <VList
          aria-label="Files"
          class="files"
          selectable
          mandatory
          :selected="[file?.name ?? '']"
          @update:selected="(names) => (chosenFile = String(names[0] ?? ''))"
        >
          <VListItem
            v-for="f in files"
            :key="f.name"
            :value="f.name"
            :title="FILE_WORDS[f.code].title"
            :subtitle="f.name"
          />
        </VList>
        <div v-if="file && words" class="one">
          <p>{{ words.what }}</p>
          <p class="small soft acts">
            <span
              ><template v-if="words.load"
                >Checked and loaded by <span class="mono">{{ words.load }}</span></template
              ></span
            >
            <span class="tools"
              ><VBtn @click="copy()">{{ copied ? 'Copied' : 'Copy' }}</VBtn
              ><VBtn @click="save">Save</VBtn></span
            >
          </p>
          <CodeEditor
            :model-value="file.text"
            :label="file.name"
            :grammar="grammarOf(file.text)"
            placeholder="Nothing to say."
            readonly
          />
        </div>
      </div>
    </template>
    <template v-else>
      <p class="small soft">
        Paste what the gateway prints, or choose it as a file:
        <template v-for="(s, i) in SOURCES" :key="s"
          ><span class="mono">{{ s }}</span
          >{{ i < SOURCES.length - 1 ? ', ' : '.' }}</template
        >
        It stays in this browser; private keys in it are not read.
      </p>
      <CodeEditor v-model="printed" label="What the gateway prints" :grammar="grammarOf(printed)" />
      <p class="acts">
        <VBtn variant="flat" :disabled="printed.trim() === ''" @click="compare"> Compare </VBtn>
        <VFileInput
          label="Choose a file"
          density="compact"
          hide-details
          :prepend-icon="''"
          :prepend-inner-icon="mdiPaperclip"
          @change="take"
        />
      </p>
      <p v-for="(p, i) in problems" :key="i" class="wrong-words" role="alert">{{ sentenceOf(p) }}</p>
      <template v-if="running">
        <p class="result" role="status">
          <b>{{
            running.drifts.length === 0
              ? `As planned: ${KIND_WORDS[running.kind]}, ${count(running.entries, 'entry', 'entries')} read.`
              : `${count(running.drifts.length, 'difference')} in ${KIND_WORDS[running.kind]}.`
          }}</b>
        </p>
        <DataTable
          v-if="drifts.length > 0"
          label="Differences"
          :columns="driftColumns"
          :rows="drifts"
          empty="No difference."
        />
      </template>
    </template>
  </section>
</template>

<style scoped>
.files :deep(.v-list-item-subtitle) {
  font-family: var(--mono);
  font-size: 12px;
  -webkit-line-clamp: unset;
  overflow-wrap: anywhere;
}
.two {
  display: grid;
  grid-template-columns: 210px minmax(0, 1fr);
  gap: 14px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
.acts {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  align-items: center;
  margin: 6px 0;
}
.acts .tools {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  flex: none;
}
.result {
  margin: 8px 0;
}
@media (max-width: 899px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
