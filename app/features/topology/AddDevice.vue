<script setup lang="ts">
import { ok, problem, refuse, type Problem, type Result } from '#core/util'
import { addDevice, connect, joinSsid, portNamed, setSent, usualHome } from '#core/edit'
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
  /** SSID that hosts join; empty for none. */
  joins: '',
  /** SSIDs that an access point sends. */
  sends: [] as string[],
})
const problems = shallowRef<readonly Problem[]>([])
watch(open, () => (problems.value = []))
const models = computed(() => [...(plan.draft?.models ?? []), ...MODELS].filter((m) => m.kind === form.kind))
watch(
  () => [form.kind, open.value] as const,
  () => {
    // Hosts are anything at all until somebody says what.
    form.model = form.kind === 'hosts' ? '' : (models.value[0]?.name ?? '')
    form.homeNetworkId = (plan.draft && usualHome(plan.draft, form.kind)) ?? ''
    form.sends = (plan.draft?.ssids ?? []).map(({ id }) => id)
  },
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

const isOnAir = computed(() => form.kind === 'hosts' && form.joins !== '')
/** Hosts join their SSID, an access point sends those that are chosen. */
function onAir(now: Plan, id: string): Result<Plan> {
  if (isOnAir.value) return joinSsid(now, id, form.joins)
  return form.kind === 'access-point' ? setSent(now, id, form.sends) : ok(now)
}

/** The first cable of a new device, where one is named. */
function cabled(now: Plan, id: string): Result<Plan> {
  if (form.far.trim() === '' || isOnAir.value) return ok(now)
  const far = portNamed(now, form.far)
  if (!far.ok) return far
  const device = now.devices.find((d) => d.id === id)
  const own = device?.ports.find((port) => port.name === form.own.trim()) ?? device?.ports[0]
  const kind = CABLES[cableNames.indexOf(form.cable)]
  if (!own || !kind) return refuse(problem('no-such-port', '', { text: `${form.name} ${form.own}` }))
  const medium = { ...kind, lengthM: Number(form.lengthM) || 0 } as Medium
  return connect(now, far.value, { deviceId: id, portId: own.id }, medium)
}

function make(now: Plan): Result<{ readonly plan: Plan; readonly id: string }> {
  const added = addDevice(now, {
    name: form.name,
    kind: form.kind,
    model: form.model,
    place: form.place,
    homeNetworkId: form.homeNetworkId || null,
    count: form.kind === 'hosts' ? Number(form.count) || 1 : 1,
  })
  if (!added.ok) return added
  const { id } = added.value
  const aired = onAir(added.value.plan, id)
  const laid = aired.ok ? cabled(aired.value, id) : aired
  return laid.ok ? ok({ plan: laid.value, id }) : laid
}
function add(): void {
  if (!plan.draft) return
  const made = make(plan.draft)
  problems.value = made.ok ? [] : made.problems
  if (!made.ok) return
  plan.change(`${form.name.trim()} added`, '', () => made.value.plan)
  emit('made', made.value.id)
  open.value = false
  Object.assign(form, { name: '', own: '', far: '', joins: '' })
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
          <label v-if="!isOnAir"
            ><span class="label">{{ form.kind === 'hosts' ? 'Network' : 'Management network' }}</span
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
        <label v-if="form.kind === 'hosts' && (plan.draft?.ssids.length ?? 0) > 0"
          ><span class="label">Joins Wi-Fi</span
          ><select v-model="form.joins" class="field">
            <option value="">no, by cable</option>
            <option v-for="s in plan.draft?.ssids ?? []" :key="s.id" :value="s.id">{{ s.name }}</option>
          </select></label
        >
        <fieldset v-if="form.kind === 'access-point' && (plan.draft?.ssids.length ?? 0) > 0" class="sends">
          <legend class="label">Sends</legend>
          <label v-for="s in plan.draft?.ssids ?? []" :key="s.id"
            ><input v-model="form.sends" type="checkbox" :value="s.id" /> {{ s.name }}</label
          >
        </fieldset>
        <h2 v-if="!isOnAir">Its first cable</h2>
        <div v-if="!isOnAir" class="fields">
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
          <button type="submit" class="press main" :disabled="form.name.trim() === ''">Add device</button
          ><button type="button" class="press" @click="open = false">Cancel</button>
        </div>
      </form>
    </VCard>
  </VDialog>
</template>

<style scoped>
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
