<script setup lang="ts">
import AppDialog from '~/ui/AppDialog.vue'
import type { Problem } from '#core/util'
import { usualHome } from '#core/edit'
import { lacksOf } from '#core/brief'
import { MODELS, kindsWith } from '#core/queries'
import {
  blankDevice,
  freePortNames,
  joinChoices,
  joinsAir,
  makeDevice,
  placesOf,
  roomsLeft,
  type NewDevice,
} from './new-device'
import { cableNames } from './port-columns'
import { kindItems } from '~/wording/kinds'
import { usePlan } from '~/stores/plan'
import { reasonOf } from '~/wording/problems'

/** A device more, and where its first cable goes. Both are laid, or neither is. */
const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ made: [id: string] }>()
const plan = usePlan()

const form = reactive<NewDevice>(blankDevice())
const problems = shallowRef<readonly Problem[]>([])
const joins = computed(() => (plan.draft ? joinChoices(plan.draft, form.kind) : []))
watch(
  open,
  (isOpen) => {
    problems.value = []
    // Nothing works before there is a gateway.
    if (isOpen && plan.draft && lacksOf(plan.draft).includes('gateway')) form.kind = 'gateway'
  },
  { immediate: true },
)
const models = computed(() => [...(plan.draft?.models ?? []), ...MODELS].filter((m) => m.kind === form.kind))
watch(
  () => [form.kind, open.value] as const,
  () => {
    // Hosts are anything at all until somebody says what.
    form.model = form.kind === 'hosts' ? '' : (models.value[0]?.name ?? '')
    form.homeNetworkId = (plan.draft && usualHome(plan.draft, form.kind)) ?? ''
    // An extender is there to join something; a cable is usual for all others.
    const usual = form.kind === 'extender' ? (joins.value[0]?.value ?? '') : ''
    if (!joins.value.some(({ value }) => value === form.joins)) form.joins = usual
    form.sends = (plan.draft?.ssids ?? []).map(({ id }) => id)
  },
  { immediate: true },
)
const first = useTemplateRef<{ focus: () => void }>('first')
watch(first, (field) => field?.focus())
const places = computed(() => (plan.draft ? placesOf(plan.draft) : []))
const freePorts = computed(() => (plan.draft ? freePortNames(plan.draft) : []))
const rooms = computed(() => (plan.index ? roomsLeft(plan.index, form, models.value) : []))
const isOnAir = computed(() => joinsAir(form))
function add(): void {
  if (!plan.draft) return
  const made = makeDevice(plan.draft, form)
  problems.value = made.ok ? [] : made.problems
  if (!made.ok) return
  plan.change(`${form.name.trim()} added`, '', () => made.value.plan)
  emit('made', made.value.id)
  open.value = false
  Object.assign(form, { name: '', own: '', far: '' })
}
</script>

<template>
  <AppDialog v-model="open" :width="760" title="Add a device" @submit="add">
    <div class="fields">
      <VTextField ref="first" label="Name" v-model="form.name" maxlength="60" />
      <VSelect label="Kind" v-model="form.kind" :items="kindItems(kindsWith('placed'))" />
      <VSelect
        label="Model"
        v-model="form.model"
        :items="[
          { value: '', title: 'not known' },
          ...models.map((m) => ({ value: m.name, title: `${m.name}, ${m.label}` })),
        ]"
      />
      <VCombobox v-model="form.place" label="Place" maxlength="80" :items="places" />
      <VSelect
        v-if="!isOnAir"
        :label="form.kind === 'hosts' ? 'Network' : 'Management network'"
        v-model="form.homeNetworkId"
        :items="[
          { value: '', title: 'none' },
          ...(plan.draft?.networks ?? []).map((n) => ({ value: n.id, title: `${n.name} ${n.vlan}` })),
        ]"
      />
      <VTextField
        v-if="form.kind === 'hosts'"
        label="How many"
        v-model="form.count"
        inputmode="numeric"
        class="num"
      />
    </div>
    <VSelect
      v-if="joins.length > 0"
      label="Joins Wi-Fi"
      v-model="form.joins"
      :items="[{ value: '', title: 'no, by cable' }, ...joins]"
    />
    <VSelect
      v-if="form.kind === 'access-point' && (plan.draft?.ssids.length ?? 0) > 0"
      v-model="form.sends"
      label="Sends"
      multiple
      chips
      :items="plan.draft?.ssids ?? []"
      item-value="id"
      item-title="name"
    />
    <h2 v-if="!isOnAir">Its first cable</h2>
    <div v-if="!isOnAir" class="fields">
      <VCombobox
        v-model="form.far"
        label="To"
        :items="freePorts"
        placeholder="device and port; empty for none"
      />
      <VTextField label="From its port" v-model="form.own" placeholder="the first" class="mono" />
      <VSelect label="Cable" v-model="form.cable" :items="cableNames" />
      <VTextField label="Length, m" v-model="form.lengthM" inputmode="decimal" class="num" />
    </div>
    <ul v-if="rooms.length > 0" class="rooms small soft" aria-label="Room for more">
      <li v-for="words in rooms" :key="words">{{ words }}</li>
    </ul>
    <p v-if="problems.length > 0" class="wrong-words" role="alert">
      Nothing was added: {{ problems.map(reasonOf).join('; ') }}.
    </p>
    <template #actions>
      <VBtn type="submit" variant="flat" :disabled="form.name.trim() === ''">Add device</VBtn
      ><VBtn @click="open = false">Cancel</VBtn>
    </template></AppDialog
  >
</template>

<style scoped>
.rooms {
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
}
.sends {
  border: 0;
  margin: 0;
  padding: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
}
.fields {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 8px 12px;
  align-items: end;
}
@media (max-width: 899px) {
  .fields {
    grid-template-columns: 1fr;
  }
}
</style>
