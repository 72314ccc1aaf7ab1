<script setup lang="ts">
import { freshId } from '#core/edit'
import { MOST_HEARD, readIwScan } from '#core/ingest'
import { problem } from '#core/util'
import { usePlan } from '~/stores/plan'
import AppDialog from '~/ui/AppDialog.vue'
import ImportProblems from '~/ui/ImportProblems.vue'
import ListInput from '~/ui/ListInput.vue'
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
  open.value = false
  text.value = ''
}
</script>

<template>
  <AppDialog v-model="open" title="Import a scan" @submit="lay">
    <p class="soft">
      What <span class="mono">iw dev wlan0 scan</span> prints on a Linux laptop beside the access point. What
      was heard there before is replaced; SSIDs of this plan are left out.
    </p>
    <VSelect v-model="hearer" label="Heard at" :items="hearers" />
    <ListInput v-model="text" placeholder="BSS 02:00:5e:10:00:01(on wlan0)" />
    <ImportProblems :problems="problems" />
    <p v-if="heard.length > foreign.length" role="status" class="small soft">
      {{ count(heard.length - foreign.length, 'network') }} of this plan left out.
    </p>
    <template #actions>
      <VBtn variant="flat" :disabled="!isReady" @click="lay">
        {{ isReady ? `Import ${count(foreign.length, 'network')}` : 'Nothing to apply' }}
      </VBtn>
      <VBtn @click="open = false">Cancel</VBtn>
    </template>
  </AppDialog>
</template>
