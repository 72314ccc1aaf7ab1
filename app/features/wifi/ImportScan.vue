<script setup lang="ts">
import { freshId } from '#core/edit'
import { MOST_HEARD, readIwScan } from '#core/ingest'
import { problem } from '#core/util'
import { usePlan } from '~/stores/plan'
import ImportDialog from '~/ui/ImportDialog.vue'
import { count } from '~/wording/count'

/** Networks of others as a scan lists them; they take the place of what was heard at the same access point. */
const open = defineModel<boolean>({ required: true })
const plan = usePlan()
const text = ref('')
const hearers = computed(() =>
  (plan.draft?.devices ?? [])
    .filter(({ kind }) => kind === 'access-point')
    .map(({ id, name }) => ({ value: id, title: name })),
)
const chosen = ref('')
const hearer = computed({
  get: () => (hearers.value.find(({ value }) => value === chosen.value) ?? hearers.value[0])?.value ?? null,
  set: (id) => (chosen.value = id ?? ''),
})
const read = computed(() => (text.value.trim() === '' ? null : readIwScan(text.value)))
const elsewhere = computed(
  () => plan.draft?.wifi.foreign.filter(({ deviceId }) => deviceId !== hearer.value) ?? [],
)
const problems = computed(() => {
  if (read.value && !read.value.ok) return read.value.problems
  const isTooMany = elsewhere.value.length + foreign.value.length > MOST_HEARD
  return isTooMany ? [problem('too-many-rows', '', { most: MOST_HEARD })] : []
})
const heard = computed(() => (read.value?.ok ? read.value.value : []))
const own = computed(() => new Set(plan.draft?.ssids.map(({ name }) => name)))
const foreign = computed(() => heard.value.filter(({ name }) => !own.value.has(name)))
const isReady = computed(
  () => foreign.value.length > 0 && hearer.value !== null && problems.value.length === 0,
)
function lay(): void {
  const deviceId = hearer.value
  if (!isReady.value || deviceId === null) return
  plan.edit('scan imported', '', ({ wifi }) => {
    wifi.foreign = wifi.foreign.filter((one) => one.deviceId !== deviceId)
    for (const one of foreign.value)
      wifi.foreign.push({ id: freshId(wifi.foreign, 'foreign'), ...one, deviceId })
  })
}
</script>

<template>
  <ImportDialog
    v-model="open"
    v-model:text="text"
    title="Import a scan"
    placeholder="BSS 02:00:5e:10:00:01(on wlan0)"
    :problems="problems"
    :offer="isReady ? `Import ${count(foreign.length, 'network')}` : ''"
    @lay="lay"
  >
    What <span class="mono">iw dev wlan0 scan</span> prints on a Linux laptop beside the access point. What
    was heard there before is replaced; SSIDs of this plan are left out.
    <template #fields><VSelect v-model="hearer" label="Heard at" :items="hearers" /></template>
    <template #found
      ><p v-if="heard.length > foreign.length" role="status" class="small soft">
        {{ count(heard.length - foreign.length, 'network') }} of this plan left out.
      </p></template
    >
  </ImportDialog>
</template>
