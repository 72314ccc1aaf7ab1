<script setup lang="ts">
import { mdiDownload } from '@mdi/js'
import { benchLines } from '#core/adopt'
import { freshId } from '#core/edit'
import { MODELS, hasTrait } from '#core/queries'
import type { DeviceId, Model } from '#core/schema'
import ListTable from '~/ui/ListTable.vue'
import { useOpened } from '~/ui/opened'
import TabBar from '~/ui/TabBar.vue'
import UndoRedo from '~/ui/UndoRedo.vue'
import { useBriefList } from '~/features/brief/columns'
import { useEquipmentColumns } from './columns'
import { useScan } from './scan'
import { CREDENTIAL_WORDS, laptopWords, openWords, portWords, powerWords } from './words'
import { useActions } from '~/shell/actions'
import { usePointer } from '~/shell/finding-navigation'
import { useAnalysis } from '~/stores/analysis'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'

const ImportEquipment = defineAsyncComponent(() => import('./ImportEquipment.vue'))
const CustomModelDialog = defineAsyncComponent(() => import('./CustomModelDialog.vue'))

/** The boxes and their labels, what to do with them on the bench, and the models they are of. */
const plan = usePlan()
const session = useSession()
const analysis = useAnalysis()
const { place } = usePointer()
const shown = ref('boxes')
const importing = ref(false)
const wasImporting = useOpened(importing)

useActions({ 'import-equipment': () => (importing.value = true) })

const models = computed((): readonly Model[] => [
  ...(plan.draft?.models ?? []),
  ...MODELS.filter((m) => !plan.draft?.models.some((own) => own.name === m.name)),
])
const boxes = computed(() => plan.draft?.brief.equipment ?? [])
const { add, remove } = useBriefList('equipment')
const columns = useEquipmentColumns(() => models.value.map((m) => m.name))
const withoutBox = computed(() =>
  (plan.draft?.devices ?? []).filter(
    (device) =>
      device.kind !== 'hosts' &&
      device.kind !== 'cloud' &&
      device.model !== '' &&
      device.kind !== 'unmanaged' &&
      device.kind !== 'injector' &&
      !boxes.value.some((b) => b.deviceId === device.id),
  ),
)
const nameOf = (id: string) => plan.draft?.devices.find((d) => d.id === id)?.name ?? id

const findings = computed(() => (analysis.analysis?.findings ?? []).filter((f) => f.code === 'D04'))
const trouble = (row: { id: string }, key: string) =>
  findings.value.some((f) => f.place[2] === row.id && f.place[3] === key)
const focusAt = shallowRef<{ row: string; column: string } | null>(null)
watch(
  place,
  (path) => {
    if (path[0] !== 'brief' || path[1] !== 'equipment') return
    shown.value = 'boxes'
    focusAt.value = { row: path[2] ?? '', column: path[3] ?? 'serial' }
  },
  { immediate: true },
)

const addBox = () =>
  add('box added', {
    id: freshId(boxes.value, 'box'),
    model: withoutBox.value[0]?.model ?? '',
    serial: '',
    mac: null,
    deviceId: withoutBox.value[0]?.id ?? null,
  })

const scan = reactive(useScan())

const bench = computed(() => (plan.index ? benchLines(plan.index, (d) => hasTrait(d, 'configured')) : []))
const modelOf = (deviceId: DeviceId) =>
  models.value.find((m) => m.name === plan.draft?.devices.find((d) => d.id === deviceId)?.model)

const model = ref('')
const editing = ref(false)
const wasEditing = useOpened(editing)
function openModel(name: string): void {
  model.value = name
  editing.value = true
}
const removeModel = (name: string) =>
  plan.edit(
    `model ${name} removed`,
    '',
    (draft) => void (draft.models = draft.models.filter((m) => m.name !== name)),
  )
const parts = computed(() => [
  { key: 'boxes', name: 'Boxes', tally: String(boxes.value.length) },
  { key: 'bench', name: 'On the bench', tally: String(bench.value.length) },
  { key: 'models', name: 'Models', tally: String(models.value.length) },
])
</script>

<template>
  <section v-if="plan.draft" class="sheet">
    <header>
      <h1>Equipment</h1>
      <span class="tools">
        <UndoRedo />
        <VBtn :href="`/api/sites/${plan.slug}/export/equipment.csv`" download :prepend-icon="mdiDownload"
          >Export CSV</VBtn
        >
        <VBtn v-if="session.edits" @click="importing = true">Import CSV</VBtn>
      </span>
      <p>What is on the labels, and which device of the plan each box becomes.</p>
    </header>
    <TabBar v-model="shown" :parts="parts" label="Parts of the equipment" />

    <div v-if="shown === 'boxes'" role="tabpanel" aria-labelledby="tab-boxes">
      <form v-if="session.edits" class="scan" @submit.prevent="scan.take()">
        <VTextField
          v-model="scan.text"
          class="mono"
          label="Scan or type a label"
          autocomplete="off"
          spellcheck="false"
          placeholder="serial, MAC, or the text of a QR code"
        />
        <VBtn type="submit">Add box</VBtn>
        <span class="small" aria-live="polite"
          ><span v-if="scan.wrong" class="wrong-words">{{ scan.wrong }}</span
          ><span v-else class="soft">{{ scan.said }}</span></span
        >
      </form>
      <ListTable
        title="Boxes"
        :columns="columns"
        :rows="boxes"
        :name-of="(b) => b.serial || b.model || 'box'"
        add-words="Add a box"
        empty="No box yet. Scan one, or read a list."
        :focus-at="focusAt"
        :trouble="trouble"
        @add="addBox"
        @remove="(b) => remove(b.id, `box ${b.serial} removed`)"
      />
      <p v-if="withoutBox.length > 0" class="small soft">
        Without a box: {{ withoutBox.map((d) => `${d.name} (${d.model})`).join(', ') }}.
      </p>
    </div>

    <div v-else-if="shown === 'bench'" role="tabpanel" aria-labelledby="tab-bench">
      <p class="small soft lead">
        First access, one device at a time. Put the laptop back on automatic afterwards; 169.254.x.x on it
        means that no DHCP server answered. A certificate warning on a device's own page is expected.
      </p>
      <VTable class="ruled">
        <thead>
          <tr>
            <th>Device</th>
            <th>Laptop</th>
            <th>Open</th>
            <th>First sign-in</th>
            <th>Boot</th>
            <th>Not together with</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="line in bench" :key="line.deviceId">
            <td>
              <b>{{ nameOf(line.deviceId) }}</b> <span class="soft">{{ modelOf(line.deviceId)?.name }}</span>
            </td>
            <td :class="{ mono: line.laptop }">{{ laptopWords(line) }}</td>
            <td :class="{ mono: line.open }">{{ openWords(line) }}</td>
            <td class="small">{{ CREDENTIAL_WORDS[modelOf(line.deviceId)?.credentials ?? 'none'] }}</td>
            <td class="num nowrap">{{ modelOf(line.deviceId)?.bootS }} s</td>
            <td class="small">
              <b v-if="line.notWith.length > 0" class="warn">{{ line.notWith.map(nameOf).join(', ') }}</b>
              <b v-if="line.isGateway" class="warn">the live site: its factory address is a gateway's</b>
              <b v-else-if="line.notInto.length > 0" class="warn"
                >the live
                {{
                  line.notInto.map((n) => plan.draft?.networks.find((x) => x.id === n)?.name).join(', ')
                }}</b
              >
              <span v-if="line.notWith.length === 0 && line.notInto.length === 0" class="soft">—</span>
            </td>
          </tr>
          <tr v-if="bench.length === 0">
            <td colspan="6" class="soft">No device of a known model.</td>
          </tr>
        </tbody>
      </VTable>
      <template v-if="bench.length > 0">
        <h2 class="lights">Lights</h2>
        <p class="small">
          <span
            v-for="light in modelOf(bench[0]?.deviceId ?? '')?.lights ?? []"
            :key="light.shows"
            class="light"
            ><b>{{ light.shows }}</b
            >: {{ light.means }}</span
          >
        </p>
      </template>
    </div>

    <div v-else role="tabpanel" aria-labelledby="tab-models">
      <div class="under">
        <h2>Models</h2>
        <VBtn v-if="session.edits" @click="openModel('')">Add a model</VBtn>
      </div>
      <VTable class="ruled">
        <thead>
          <tr>
            <th>Model</th>
            <th>What it is</th>
            <th>Ports</th>
            <th>Power</th>
            <th>From the factory</th>
            <th>Boot, adoption</th>
            <th />
          </tr>
        </thead>
        <tbody>
          <tr v-for="m in models" :key="m.name">
            <td class="mono">
              <b>{{ m.name }}</b>
            </td>
            <td class="small">
              {{ m.label }}<span v-if="m.minFirmware" class="soft">, from {{ m.minFirmware }}</span>
            </td>
            <td class="small">{{ m.ports.map(portWords).join('; ') }}</td>
            <td class="small">{{ powerWords(m) }}</td>
            <td class="small">
              {{ 'address' in m.factory ? `${m.factory.kind} ${m.factory.address}` : 'takes a lease' }}
            </td>
            <td class="small nowrap">{{ m.bootS }} s{{ m.adoptS > 0 ? `, ${m.adoptS} s` : '' }}</td>
            <td class="num small">
              <template v-if="session.edits && plan.draft.models.some((x) => x.name === m.name)"
                ><VBtn variant="text" @click="openModel(m.name)">
                  Change<span class="sr"> {{ m.name }}</span>
                </VBtn>
                <VBtn variant="text" @click="removeModel(m.name)">
                  Remove<span class="sr"> {{ m.name }}</span>
                </VBtn></template
              >
            </td>
          </tr>
        </tbody>
      </VTable>
    </div>
    <ImportEquipment v-if="session.edits && wasImporting" v-model="importing" />
    <CustomModelDialog v-if="session.edits && wasEditing" v-model="editing" :name="model" />
  </section>
</template>

<style scoped>
.scan {
  display: grid;
  grid-template-columns: minmax(200px, 420px) auto 1fr;
  gap: 8px;
  align-items: center;
}
.lead {
  margin-bottom: 8px;
}
.warn {
  color: var(--magenta);
}
.under {
  display: flex;
  justify-content: space-between;
  align-items: center;
  margin: 4px 0 6px;
}
.lights {
  margin: 12px 0 4px;
}
.light {
  margin-right: 18px;
}
.ruled td {
  white-space: normal;
}
.ruled td.nowrap {
  white-space: nowrap;
}
@media (max-width: 899px) {
  .scan {
    grid-template-columns: 1fr auto;
  }
}
</style>
