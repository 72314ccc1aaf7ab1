<script setup lang="ts">
import AppDialog from '~/ui/AppDialog.vue'
import { MODELS, kindsWith } from '#core/queries'
import type { Factory, Model, PortGroup } from '#core/schema'
import { checkFace } from '~/features/uplinks/line-columns'
import { usePlan, type PlanDraft } from '~/stores/plan'
import { reasonOf } from '~/wording/problems'

/**
 * A model of the planner's own: what its ports are, what it gives and takes, how it comes from the factory.
 */
const props = defineProps<{ name: string }>()
const open = defineModel<boolean>({ required: true })
const plan = usePlan()

const FACTORIES = ['dhcp-client', 'dhcp-server', 'fixed', 'channel'] as const
interface Line {
  names: string
  kind: PortGroup['kind']
  speeds: string
  role: PortGroup['role']
  locked: boolean
  power: string
  watts: string
}
const blank = (): Line => ({
  names: '1-8',
  kind: 'copper',
  speeds: '10 100 1000',
  role: 'any',
  locked: false,
  power: 'none',
  watts: '',
})
const form = reactive({
  name: '',
  label: '',
  kind: 'switch' as Model['kind'],
  budget: '',
  idle: '5',
  factory: 'dhcp-client' as Factory['kind'],
  address: '',
  channel: '0',
  stp: true,
  isolation: 'access-point' as NonNullable<Model['isolation']>,
  boot: '90',
  minFirmware: '',
  plannedFirmware: '',
  aps: '',
  switches: '',
  inspection: '',
  lines: [blank()],
})

/** Power of a group as one choice and one number: `gives 4`, `takes 3`, `gives passive`, `takes passive`. */
const POWER = [
  'none',
  ...[0, 1, 2, 3, 4, 5, 6, 7, 8].map((n) => `gives ${n}`),
  ...[0, 1, 2, 3, 4, 5, 6, 7, 8].map((n) => `takes ${n}`),
  'gives passive',
  'takes passive',
]
const volts = ref('24')

watch(
  open,
  (now) => {
    if (!now) return
    const model = plan.draft?.models.find((x) => x.name === props.name)
    Object.assign(
      form,
      model
        ? {
            name: model.name,
            label: model.label,
            kind: model.kind,
            budget: String(model.poeBudgetW ?? ''),
            idle: String(model.idleW),
            factory: model.factory.kind,
            address: 'address' in model.factory ? model.factory.address : '',
            channel: model.factory.kind === 'channel' ? String(model.factory.channel) : '0',
            stp: model.stp,
            isolation: model.isolation ?? 'access-point',
            boot: String(model.bootS),
            minFirmware: model.minFirmware,
            plannedFirmware: model.plannedFirmware,
            aps: String(model.capacity?.accessPoints ?? ''),
            switches: String(model.capacity?.switches ?? ''),
            inspection: String(model.inspectionMbps ?? ''),
            lines: model.ports.map((group): Line => ({
              names: group.names,
              kind: group.kind,
              speeds: group.speedsMbps.join(' '),
              role: group.role,
              locked: group.locked,
              power: powerText(group),
              watts: String(
                group.source?.standard === 'passive' ? group.source.mostW : (group.load?.typicalW ?? ''),
              ),
            })),
          }
        : { name: '', label: '', lines: [blank()] },
    )
  },
  { immediate: true },
)

/** What a group of ports gives or takes, as the form offers it. */
function powerText({ source, load }: PortGroup): string {
  if (source) return source.standard === 'ieee' ? `gives ${source.class}` : 'gives passive'
  if (load) return load.standard === 'ieee' ? `takes ${load.class}` : 'takes passive'
  return 'none'
}
function sourceOf(power: string, volts: number, mostW: number, level: number): PortGroup['source'] {
  if (power === 'gives passive') return { standard: 'passive', volts, mostW }
  return power.startsWith('gives') ? { standard: 'ieee', class: level } : null
}
function loadOf(power: string, volts: number, typicalW: number, level: number): PortGroup['load'] {
  if (power === 'takes passive')
    return {
      standard: 'passive',
      leastV: Math.round(volts * 0.75),
      mostV: Math.round(volts * 1.1),
      typicalW,
    }
  return power.startsWith('takes') ? { standard: 'ieee', class: level, typicalW } : null
}

const numbers = (text: string) =>
  text
    .split(/[\s,;/]+/)
    .filter((t) => t !== '')
    .map(Number)
const isTaken = (name: string): boolean =>
  name !== props.name && [...MODELS, ...(plan.draft?.models ?? [])].some((m) => m.name === name)
function wrongName(): string {
  if (!/^[A-Za-z0-9][A-Za-z0-9 ._-]{0,39}$/.test(form.name))
    return 'Name: 1 to 40 letters, digits, dots or hyphens.'
  return isTaken(form.name) ? `Name: there is a ${form.name} already.` : ''
}
function wrongNumber(): string {
  const numbers = [
    ['Budget', form.budget],
    ['Own draw', form.idle],
    ['Boot', form.boot],
    ['Access points', form.aps],
    ['Switches', form.switches],
    ['Inspection', form.inspection],
  ] as const
  const [what, text] = numbers.find(([, text]) => text !== '' && !(Number(text) >= 0)) ?? []
  return what ? `${what}: ${text} is not a number.` : ''
}
function wrongFactory(): string {
  const problems = form.factory === 'dhcp-client' ? [] : checkFace(form.address)
  return problems.length > 0 ? `Factory address: ${problems.map(reasonOf).join('; ')}.` : ''
}
function wrongPorts({ names, speeds, power, watts }: Line): string {
  if (names.trim() === '') return 'Ports: a name or span is needed, for example 1-8.'
  if (numbers(speeds).some((n) => !Number.isInteger(n) || n < 1 || n > 1_000_000))
    return `Ports ${names}: ${speeds} are not speeds in Mb/s.`
  return power.startsWith('takes') && !(Number(watts) > 0) ? `Ports ${names}: typical watts are needed.` : ''
}
const wrong = computed(
  (): string =>
    [wrongName(), wrongNumber(), wrongFactory(), ...form.lines.map(wrongPorts)].find((t) => t !== '') ?? '',
)

function groupOf(line: Line): PortGroup {
  const number = Number(line.power.split(' ')[1])
  const watts = Number(line.watts) || 0
  const voltage = Number(volts.value) || 24
  return {
    names: line.names.trim(),
    kind: line.kind,
    speedsMbps: numbers(line.speeds),
    role: line.role,
    locked: line.locked,
    source: sourceOf(line.power, voltage, watts, number),
    load: loadOf(line.power, voltage, watts, number),
  }
}
function factoryOf(): Factory {
  if (form.factory === 'dhcp-client') return { kind: 'dhcp-client' }
  if (form.factory === 'channel')
    return { kind: 'channel', address: form.address, channel: Number(form.channel) || 0 }
  return { kind: form.factory, address: form.address }
}
function keep(): void {
  const factory = factoryOf()
  const made: Model = {
    name: form.name,
    label: form.label || form.name,
    kind: form.kind,
    minFirmware: form.minFirmware,
    plannedFirmware: form.plannedFirmware,
    bootS: Number(form.boot) || 0,
    adoptS: 180,
    ports: form.lines.map(groupOf),
    poeBudgetW: form.budget === '' ? null : Number(form.budget),
    idleW: Number(form.idle) || 0,
    factory,
    credentials: 'label',
    lights: [],
    stp: form.stp,
    isolation: form.kind === 'access-point' ? form.isolation : null,
    capacity:
      form.aps === '' && form.switches === ''
        ? null
        : { accessPoints: Number(form.aps) || 0, switches: Number(form.switches) || 0 },
    inspectionMbps: form.inspection === '' ? null : Number(form.inspection),
  }
  plan.edit(`model ${made.name}`, '', (draft) => {
    const at = draft.models.findIndex((m) => m.name === props.name)
    const entry = made as PlanDraft['models'][number]
    if (at === -1) draft.models.push(entry)
    else draft.models[at] = entry
  })
  open.value = false
}
</script>

<template>
  <AppDialog
    v-model="open"
    :width="920"
    :title="name === '' ? 'A model of your own' : name"
    label="Model of your own"
    @submit="keep"
  >
    <div class="fields">
      <VTextField label="Name" v-model="form.name" maxlength="40" class="mono" />
      <VTextField label="What it is" v-model="form.label" maxlength="80" />
      <VSelect label="Kind" v-model="form.kind" :items="kindsWith('modelled')" />
      <VTextField label="Own draw, W" v-model="form.idle" inputmode="decimal" class="num" />
      <VTextField
        label="PoE budget, W"
        v-model="form.budget"
        inputmode="decimal"
        placeholder="gives none"
        class="num"
      />
      <VTextField label="Boot, s" v-model="form.boot" inputmode="numeric" class="num" />
      <VSelect label="From the factory" v-model="form.factory" :items="FACTORIES" />
      <VTextField
        v-if="form.factory !== 'dhcp-client'"
        label="Factory address"
        v-model="form.address"
        placeholder="192.168.1.20/24"
        class="mono"
      />
      <VTextField v-if="form.factory === 'channel'" label="Channel knob" v-model="form.channel" class="num" />
      <VTextField label="Least firmware" v-model="form.minFirmware" class="mono" />
      <VTextField label="Planned firmware" v-model="form.plannedFirmware" class="mono" />
      <VTextField
        v-if="form.kind === 'controller' || form.kind === 'gateway'"
        label="Manages APs"
        v-model="form.aps"
        class="num"
      />
      <VTextField
        v-if="form.kind === 'controller' || form.kind === 'gateway'"
        label="Manages switches"
        v-model="form.switches"
        class="num"
      />
      <VTextField
        v-if="form.kind === 'gateway'"
        label="With inspection, Mb/s"
        v-model="form.inspection"
        class="num"
      />
      <VSelect
        v-if="form.kind === 'access-point'"
        label="Client isolation reaches"
        v-model="form.isolation"
        :items="[
          { value: 'access-point', title: 'one access point' },
          { value: 'network', title: 'all of them' },
        ]"
      />
      <VCheckbox v-model="form.stp" label="speaks spanning tree" />
    </div>
    <h2>Ports</h2>
    <VTable class="ruled">
      <thead>
        <tr>
          <th>Names</th>
          <th>Kind</th>
          <th>Speeds, Mb/s</th>
          <th>Role</th>
          <th>Locked</th>
          <th>Power</th>
          <th>W</th>
          <th />
        </tr>
      </thead>
      <tbody>
        <tr v-for="(line, i) in form.lines" :key="i">
          <td><VTextField v-model="line.names" class="mono" aria-label="Names" /></td>
          <td>
            <VSelect
              v-model="line.kind"
              class="kind"
              aria-label="Kind of port"
              :items="['copper', 'sfp', 'radio']"
            />
          </td>
          <td><VTextField v-model="line.speeds" class="mono" aria-label="Speeds" /></td>
          <td>
            <VSelect
              v-model="line.role"
              aria-label="Role"
              :items="['any', 'lan', 'wan', 'network', 'powered']"
            />
          </td>
          <td><VCheckbox v-model="line.locked" aria-label="Shipped off or unlicensed" /></td>
          <td>
            <VSelect v-model="line.power" aria-label="Power" :items="POWER" />
          </td>
          <td><VTextField v-model="line.watts" class="mono" aria-label="Watts" /></td>
          <td>
            <VBtn variant="text" @click="form.lines.splice(i, 1)">
              Remove<span class="sr"> ports {{ line.names }}</span>
            </VBtn>
          </td>
        </tr>
      </tbody>
    </VTable>
    <div class="acts">
      <VBtn @click="form.lines.push(blank())">Add ports</VBtn>
      <VTextField
        v-if="form.lines.some((l) => l.power.includes('passive'))"
        v-model="volts"
        class="volts"
        label="Passive voltage"
      />
    </div>
    <p v-if="wrong" :class="form.name === '' ? 'small soft' : 'wrong-words'" role="alert">{{ wrong }}</p>
    <template #actions>
      <VBtn type="submit" variant="flat" :disabled="wrong !== ''">Save model</VBtn
      ><VBtn @click="open = false">Cancel</VBtn>
    </template></AppDialog
  >
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  gap: 8px 12px;
  align-items: end;
}
.volts {
  flex: 0 0 160px;
}
.kind {
  min-width: 84px;
}
@media (max-width: 899px) {
  .fields {
    grid-template-columns: 1fr 1fr;
  }
}
</style>
