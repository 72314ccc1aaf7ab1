<script setup lang="ts">
import type { Problem } from '#core/util'
import { addDevice, connect, portNamed } from '#core/edit'
import { MODELS, kindsWith } from '#core/queries'
import type { Device, Medium, Plan } from '#core/schema'
import { CABLES, cableNames } from './port-columns'
import { usePlan } from '~/stores/plan'
import { reasonOf } from '~/wording/problems'

/** A device more, and where its first cable goes. Both are laid, or neither is. */
const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ made: [id: string] }>()
const plan = usePlan()

const form = reactive({
  name: '',
  kind: 'switch' as Device['kind'],
  model: '',
  place: '',
  homeNetworkId: '',
  count: '1',
  own: '',
  far: '',
  cable: 'Cat6',
  lengthM: '5',
})
const problems = shallowRef<readonly Problem[]>([])
watch(open, () => (problems.value = []))
const models = computed(() => [...(plan.draft?.models ?? []), ...MODELS].filter((m) => m.kind === form.kind))
watch(
  () => form.kind,
  () => (form.model = models.value[0]?.name ?? ''),
  { immediate: true },
)
const places = computed(() =>
  [
    ...new Set([
      ...(plan.draft?.devices ?? []).map((d) => d.place),
      ...(plan.draft?.brief.rooms ?? []).map((r) => r.name),
      ...(plan.draft?.brief.buildings ?? []).map((b) => b.name),
    ]),
  ].filter((p) => p !== '' && p !== 'outside'),
)
const freePorts = computed(() => {
  const taken = new Set(
    (plan.draft?.links ?? []).flatMap((l) => [l.a, l.b]).map((r) => `${r.deviceId}/${r.portId}`),
  )
  return (plan.draft?.devices ?? [])
    .flatMap((d) => d.ports.filter((p) => !taken.has(`${d.id}/${p.id}`)).map((p) => `${d.name} ${p.name}`))
    .slice(0, 2000)
})

function make(now: Plan): Plan | null {
  const added = addDevice(now, {
    name: form.name,
    kind: form.kind,
    model: form.model,
    place: form.place,
    homeNetworkId: form.homeNetworkId || null,
    count: form.kind === 'hosts' ? Number(form.count) || 1 : 1,
  })
  if (!added.ok) {
    problems.value = added.problems
    return null
  }
  if (form.far.trim() === '') return (emit('made', added.value.id), added.value.plan)
  const far = portNamed(added.value.plan, form.far)
  const device = added.value.plan.devices.find((d) => d.id === added.value.id)
  const own = device?.ports.find((p) => p.name === form.own.trim()) ?? device?.ports[0]
  const kind = CABLES[cableNames.indexOf(form.cable)]
  if (!far.ok || !own || !kind) {
    problems.value = far.ok ? [] : far.problems
    return null
  }
  const laid = connect(added.value.plan, far.value, { deviceId: added.value.id, portId: own.id }, {
    ...kind,
    lengthM: Number(form.lengthM) || 0,
  } as Medium)
  if (!laid.ok) {
    problems.value = laid.problems
    return null
  }
  emit('made', added.value.id)
  return laid.value
}
function add(): void {
  if (!plan.draft) return
  const after = make(plan.draft)
  if (!after) return
  plan.change(`${form.name.trim()} added`, '', () => after)
  open.value = false
  Object.assign(form, { name: '', own: '', far: '' })
}
</script>

<template>
  <VDialog v-model="open" aria-label="Add a device" width="760">
    <VCard>
      <form class="box" @submit.prevent="add">
        <h1>Add a device</h1>
        <div class="fields">
          <label
            ><span class="label">Name</span><input v-model="form.name" class="field" maxlength="60"
          /></label>
          <label
            ><span class="label">Kind</span
            ><select v-model="form.kind" class="field">
              <option v-for="k in kindsWith('placed')" :key="k" :value="k">{{ k }}</option>
            </select></label
          >
          <label
            ><span class="label">Model</span
            ><select v-model="form.model" class="field">
              <option value="">not known</option>
              <option v-for="m in models" :key="m.name" :value="m.name">{{ m.name }}, {{ m.label }}</option>
            </select></label
          >
          <label
            ><span class="label">Place</span
            ><input v-model="form.place" class="field" list="places" maxlength="80"
          /></label>
          <label
            ><span class="label">{{ form.kind === 'hosts' ? 'Its network' : 'Managed in' }}</span
            ><select v-model="form.homeNetworkId" class="field">
              <option value="">none</option>
              <option v-for="n in plan.draft?.networks ?? []" :key="n.id" :value="n.id">
                {{ n.name }} {{ n.vlan }}
              </option>
            </select></label
          >
          <label v-if="form.kind === 'hosts'"
            ><span class="label">How many</span
            ><input v-model="form.count" class="field num" inputmode="numeric"
          /></label>
        </div>
        <h2>Its first cable</h2>
        <div class="fields">
          <label
            ><span class="label">To</span
            ><input
              v-model="form.far"
              class="field"
              list="free-ports"
              placeholder="device and port; empty for none"
          /></label>
          <label
            ><span class="label">From its port</span
            ><input v-model="form.own" class="field mono" placeholder="the first"
          /></label>
          <label
            ><span class="label">Cable</span
            ><select v-model="form.cable" class="field">
              <option v-for="c in cableNames" :key="c">{{ c }}</option>
            </select></label
          >
          <label
            ><span class="label">Length, m</span
            ><input v-model="form.lengthM" class="field num" inputmode="decimal"
          /></label>
        </div>
        <datalist id="places"><option v-for="p in places" :key="p" :value="p" /></datalist>
        <datalist id="free-ports"><option v-for="p in freePorts" :key="p" :value="p" /></datalist>
        <p v-if="problems.length > 0" class="wrong-words" role="alert">
          Nothing was added: {{ problems.map(reasonOf).join('; ') }}.
        </p>
        <div class="acts">
          <button type="submit" class="press main" :disabled="form.name.trim() === ''">Add it</button
          ><button type="button" class="press" @click="open = false">Leave</button>
        </div>
      </form>
    </VCard>
  </VDialog>
</template>

<style scoped>
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
