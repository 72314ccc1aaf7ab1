<script setup lang="ts">
import Papa from 'papaparse'
import { isManaged } from '#core/adopt'
import { readSerialList } from '#core/ingest'
import { parseSerial } from '#core/queries'
import { usePlan } from '~/stores/plan'
import { useSite } from '~/stores/site'
import { count } from '~/wording/findings'
import { reasonOf, sentenceOf } from '~/wording/problems'

/**
 * Claiming by serial: one typed, or a pasted list.
 * Each keystroke is checked; a list is taken whole or not at all.
 */
const plan = usePlan()
const site = useSite()
const deviceId = defineModel<string>('device', { required: true })
const serial = defineModel<string>('serial', { required: true })
const list = ref('')
const asList = ref(false)
const busy = ref(false)

const open = computed(() => {
  const held = new Set((site.roster?.rows ?? []).filter((r) => r.serial !== null).map((r) => r.deviceId))
  return (plan.draft?.devices ?? []).filter((d) => isManaged(d) && !held.has(d.id))
})
const checked = computed(() => (serial.value.trim() === '' ? null : parseSerial(serial.value)))
const typed = computed(() => Papa.parse<string[]>(list.value.trim()).data)
const read = computed(() =>
  list.value.trim() === ''
    ? null
    : readSerialList(typed.value, (plan.draft?.devices ?? []).filter(isManaged)),
)
const good = computed(() => read.value?.claims ?? [])
const wrong = computed(() => read.value?.wrongRows ?? [])
const isAllGood = computed(() => good.value.length > 0 && read.value?.problems.length === 0)
const nameOf = (id: string) => plan.draft?.devices.find((device) => device.id === id)?.name ?? id
const kind = computed(() => (checked.value?.ok ? checked.value.value.kind : null))

async function claim(): Promise<void> {
  const sent = [serial.value, list.value]
  busy.value = true
  const done = asList.value
    ? await site.claimList(list.value)
    : await site.claim(serial.value, deviceId.value)
  busy.value = false
  // What was typed while the answer was on its way stays.
  if (done && serial.value === sent[0]) serial.value = ''
  if (done && list.value === sent[1]) list.value = ''
}
/** Claims what can be right; the other rows stay to be put right. */
async function claimGood(): Promise<void> {
  busy.value = true
  const sent = list.value
  const left = wrong.value.map((row) => typed.value[row - 1] ?? [])
  const done = await site.claimList(Papa.unparse(good.value.map((row) => [row.serial, row.deviceId])))
  busy.value = false
  if (done && list.value === sent) list.value = Papa.unparse(left)
}
</script>

<template>
  <form class="claim" @submit.prevent="claim">
    <div class="head">
      <h2>Claim a device</h2>
      <VSwitch v-model="asList" label="Paste a list" />
    </div>
    <template v-if="!asList">
      <div class="row">
        <VTextField
          label="Serial"
          v-model="serial"
          :error="checked !== null && !checked.ok"
          placeholder="GH-xxxx-xxxx"
          autocapitalize="characters"
          autocomplete="off"
          spellcheck="false"
          class="mono"
        />
        <VAutocomplete
          v-model="deviceId"
          label="For"
          :items="open"
          item-value="id"
          item-title="name"
          placeholder="a device of the plan"
        />
        <VBtn type="submit" variant="flat" :disabled="busy || !checked?.ok || deviceId === ''"> Claim </VBtn>
      </div>
      <p v-if="checked && !checked.ok" class="wrong-words" role="alert">
        {{ checked.problems.map(reasonOf).join('; ') }}
      </p>
      <p v-else-if="kind && kind !== 'product'" class="small warn">
        This is a {{ kind }} number. Adoption needs the product serial, which starts with GH.
      </p>
      <p v-else-if="open.length === 0" class="small soft">Every managed device of the plan has a serial.</p>
    </template>
    <template v-else>
      <VTextarea
        label="Serial, device: one a line"
        v-model="list"
        rows="4"
        spellcheck="false"
        placeholder="serial,device"
        class="mono"
      />
      <p v-if="good.length > 0" class="small">
        {{ count(good.length, 'device') }}:
        {{
          good
            .slice(0, 12)
            .map((row) => `${row.serial} for ${nameOf(row.deviceId)}`)
            .join(', ')
        }}{{ good.length > 12 ? ` and ${good.length - 12} more` : '' }}
      </p>
      <div v-if="read && read.problems.length > 0" role="alert">
        <p v-for="(p, i) in read.problems.slice(0, 6)" :key="i" class="wrong-words">{{ sentenceOf(p) }}</p>
        <p v-if="read.problems.length > 6" class="small">and {{ read.problems.length - 6 }} more</p>
      </div>
      <div class="choices">
        <VBtn type="submit" variant="flat" :disabled="busy || !isAllGood">
          {{ isAllGood ? `Claim ${count(good.length, 'device')}` : 'Claim all' }}
        </VBtn>
        <VBtn v-if="wrong.length > 0 && good.length > 0" :disabled="busy" @click="claimGood">
          Claim {{ count(good.length, 'good row') }}, keep {{ wrong.length }} here
        </VBtn>
      </div>
    </template>
    <div v-if="site.problems.length > 0" role="alert">
      <p v-for="(p, i) in site.problems" :key="i" class="wrong-words">Not claimed: {{ reasonOf(p) }}.</p>
    </div>
  </form>
</template>

<style scoped>
.claim {
  border: 1px solid var(--line);
  background: var(--panel);
  padding: 10px 12px;
  display: grid;
  gap: 6px;
}
.head {
  display: flex;
  justify-content: space-between;
}
.row {
  display: grid;
  grid-template-columns: minmax(150px, 1fr) minmax(150px, 1fr) auto;
  gap: 10px;
  align-items: center;
}
.choices {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.warn {
  color: var(--ochre-text);
  font-weight: 700;
}
.v-btn {
  justify-self: start;
}
@media (max-width: 899px) {
  .row {
    grid-template-columns: 1fr;
  }
  .row .v-btn {
    justify-self: stretch;
  }
}
</style>
