<script setup lang="ts">
import AppDialog from '~/ui/AppDialog.vue'
import { ok, problem, refuse, type Problem, type Result } from '#core/util'
import { addDevice, connect, joinSsid, portNamed, setSent, usualHome } from '#core/edit'
import { lacksOf } from '#core/brief'
import { fitPorts } from '#core/layer2'
import { powerOf, roomForMore, standardLoad } from '#core/power'
import { MODELS, kindsWith } from '#core/queries'
import type { Device, Medium, Plan } from '#core/schema'
import { CABLES, cableNames } from './port-columns'
import { kindItems } from '~/wording/kinds'
import { roomWords } from '~/wording/power'
import { usePlan } from '~/stores/plan'
import { reasonOf } from '~/wording/problems'

/** A device more, and where its first cable goes. Both are laid, or neither is. */
const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ made: [id: string] }>()
const plan = usePlan()

const MOST_SOURCES = 4
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
watch(open, (isOpen) => {
  problems.value = []
  // What was chosen last time stays, as long as it is there.
  if (!plan.draft?.ssids.some(({ id }) => id === form.joins)) form.joins = ''
  // Nothing works before there is a gateway.
  if (isOpen && plan.draft && lacksOf(plan.draft).includes('gateway')) form.kind = 'gateway'
})
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
const first = useTemplateRef<{ focus: () => void }>('first')
watch(first, (field) => field?.focus())
const freePorts = computed(() => {
  const taken = new Set(
    (plan.draft?.links ?? []).flatMap((l) => [l.a, l.b]).map((r) => `${r.deviceId}/${r.portId}`),
  )
  return (plan.draft?.devices ?? [])
    .flatMap((d) => d.ports.filter((p) => !taken.has(`${d.id}/${p.id}`)).map((p) => `${d.name} ${p.name}`))
    .slice(0, 2000)
})

/** How many more of it the source takes that its cable is to come from; where none is named, every source. */
const rooms = computed((): readonly string[] => {
  const [index, model] = [plan.index, models.value.find(({ name }) => name === form.model)]
  const load = model && standardLoad(model)
  if (!index || !load) return []
  const all = powerOf(index).sources.map((source) => {
    const name = index.devices.get(source.deviceId)?.name ?? source.deviceId
    const room = roomForMore(index, source, load, index.plan.site.poeHeadroomPct)
    return { name, words: `${name}: ${roomWords(form.model, room)}` }
  })
  const chosen = all.filter(({ name }) => form.far.startsWith(`${name} `))
  return (chosen.length > 0 ? chosen : all).slice(0, MOST_SOURCES).map(({ words }) => words)
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
  return laid.ok ? ok({ plan: fitPorts(laid.value, id), id }) : laid
}
function add(): void {
  if (!plan.draft) return
  const made = make(plan.draft)
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
      v-if="form.kind === 'hosts' && (plan.draft?.ssids.length ?? 0) > 0"
      label="Joins Wi-Fi"
      v-model="form.joins"
      :items="[
        { value: '', title: 'no, by cable' },
        ...(plan.draft?.ssids ?? []).map((s) => ({ value: s.id, title: s.name })),
      ]"
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
