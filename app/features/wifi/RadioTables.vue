<script setup lang="ts">
import { freshId } from '#core/edit'
import { bestChannels, USUAL_RADIOS, wifiSceneOf, withoutRadios } from '#core/wifi'
import { count } from '~/wording/count'
import { channelsByBand, radioRows } from './channel-view'
import { useForeignColumns } from './foreign-columns'
import { radioIn, useRadioColumns, type RadioRow } from './radio-columns'
import { outcomeWords, rulesWords } from './words'
import { usePointer } from '~/shell/finding-navigation'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import ListTable from '~/ui/ListTable.vue'
import { useOpened } from '~/ui/opened'
import RemovableTable from '~/ui/RemovableTable.vue'

const ImportScan = defineAsyncComponent(() => import('./ImportScan.vue'))
const StationsDialog = defineAsyncComponent(() => import('./StationsDialog.vue'))

/** The radios, their channels, and the networks of others that are heard. */
const plan = usePlan()
const session = useSession()
const { place } = usePointer()
const columns = { radios: useRadioColumns(), foreign: useForeignColumns() }
const scene = computed(() => (plan.draft ? wifiSceneOf(plan.draft) : null))
const bands = computed(() => (scene.value ? channelsByBand(scene.value) : []))
const rows = computed(() =>
  scene.value ? radioRows(scene.value, bands.value, plan.draft?.devices ?? []) : [],
)
const trouble = (row: RadioRow, key: string): boolean => key === 'permitted' && row.isTrouble

const focusAt = computed(() => {
  const [root, list, id = '', field = 'channel'] = place.value
  if (root === 'wifi' && list === 'radios') return { row: id, column: field }
  const own = root === 'devices' ? rows.value.find(({ deviceId }) => deviceId === list) : undefined
  return own ? { row: own.id, column: 'channel' } : null
})
const unknown = computed(() => (plan.draft ? withoutRadios(plan.draft) : []))
function addUsual(): void {
  const devices = unknown.value
  plan.edit('usual radios added', '', ({ wifi }) => {
    for (const { id } of devices)
      for (const radio of USUAL_RADIOS)
        wifi.radios.push({ id: freshId(wifi.radios, 'radio'), deviceId: id, ...radio })
  })
}

const importing = ref(false)
const wasImporting = useOpened(importing)
const seesStations = ref(false)
const sawStations = useOpened(seesStations)

const outcome = shallowRef<readonly string[]>([])
function planChannels(): void {
  const chosen = bands.value.map((channels) => ({ ...channels, plan: bestChannels(channels) }))
  plan.edit('channels planned', '', (draft) => {
    for (const { radios, plan: best } of chosen)
      radios.forEach((row, i) => {
        const radio = radioIn(draft, row)
        if (radio) radio.channel = best.channels[i] ?? radio.channel
      })
  })
  outcome.value = chosen.map((channels) =>
    outcomeWords({ ...channels, band: channels.radios[0]?.band ?? '5' }),
  )
}

const nameOf = ({ deviceName, band }: RadioRow): string => `${deviceName}, ${band} GHz`
function addRadio(): void {
  const owner = plan.draft?.devices.find(({ kind }) => kind === 'access-point')
  const [usual] = USUAL_RADIOS
  if (!owner) return
  plan.edit('radio added', '', ({ wifi }) => {
    wifi.radios.push({ id: freshId(wifi.radios, 'radio'), deviceId: owner.id, ...usual })
  })
}
/** What was typed of a radio goes; one that its model is shipped with is as shipped again. */
const removeRadio = (id: string) =>
  plan.edit('radio removed', '', ({ wifi }) => {
    wifi.radios = wifi.radios.filter((radio) => radio.id !== id)
  })

function addForeign(): void {
  const hearer = plan.draft?.devices.find(({ kind }) => kind === 'access-point')
  if (!hearer) return
  plan.edit('foreign network added', '', ({ wifi }) => {
    wifi.foreign.push({
      id: freshId(wifi.foreign, 'foreign'),
      name: '',
      band: '2.4',
      channel: 6,
      widthMhz: 20,
      levelDbm: -70,
      deviceId: hearer.id,
    })
  })
}
const removeForeign = ({ id }: { readonly id: string }) =>
  plan.edit('foreign network removed', '', ({ wifi }) => {
    wifi.foreign = wifi.foreign.filter((one) => one.id !== id)
  })
</script>

<template>
  <div class="under">
    <h2>Radios</h2>
    <VBtn v-if="session.edits && rows.length > 0" @click="planChannels">Plan channels</VBtn>
    <VBtn v-if="session.edits && (rows.length > 0 || unknown.length > 0)" @click="addRadio">Add a radio</VBtn>
    <VBtn v-if="rows.length > 0" @click="seesStations = true">Airtime by station</VBtn>
    <VBtn v-if="session.edits && unknown.length > 0" @click="addUsual">
      Add usual radios to {{ count(unknown.length, 'access point') }} of unknown models
    </VBtn>
  </div>
  <div role="status">
    <p v-for="words in outcome" :key="words">{{ words }}</p>
  </div>
  <RemovableTable
    label="Radios"
    :columns="columns.radios"
    :rows="rows"
    :name-of="nameOf"
    :can-remove="({ isTyped }) => isTyped"
    :trouble="trouble"
    :focus-at="focusAt"
    @remove="removeRadio"
  >
    <template #empty>
      No radio yet. <NuxtLink :to="`/sites/${plan.slug}/loom`">Add an access point on the Loom</NuxtLink>.
    </template>
  </RemovableTable>
  <p class="small soft">{{ rulesWords(plan.draft?.site.country ?? '') }}</p>
  <p class="small soft">
    Let a device choose its channel only on site and at night, never on the bench: it hears other neighbours
    there.
  </p>
  <ListTable
    title="Networks of others"
    :columns="columns.foreign"
    :rows="plan.draft?.wifi.foreign ?? []"
    :name-of="(one) => one.name || 'a network without a name'"
    :add-words="rows.length > 0 ? 'Add a network heard' : undefined"
    empty="Nobody else was written down: channels are planned as if there were nobody."
    @add="addForeign"
    @remove="removeForeign"
  >
    <template #tools>
      <VBtn v-if="session.edits && rows.length > 0" @click="importing = true">Import a scan</VBtn>
    </template>
  </ListTable>
  <StationsDialog v-if="sawStations" v-model="seesStations" />
  <ImportScan v-if="session.edits && wasImporting" v-model="importing" />
</template>

<style scoped>
.under {
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 10px 0 6px;
}
</style>
