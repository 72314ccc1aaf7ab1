<script setup lang="ts">
import { kindsWith } from '#core/queries'
import {
  blankForm,
  blankPorts,
  formOf,
  modelFrom,
  POWER_CHOICES,
  putModel,
  SENDERS,
  takenNames,
  wrongIn,
} from './model-form'
import { FACTORY_WORDS } from './words'
import { usePlan } from '~/stores/plan'
import AppDialog from '~/ui/AppDialog.vue'
import { CREDENTIAL_WORDS, kindItems } from '~/wording/kinds'

/**
 * A model of the planner's own: what its ports are, what it gives and takes, how it comes from the factory.
 */
const props = defineProps<{ name: string }>()
const open = defineModel<boolean>({ required: true })
const plan = usePlan()
const listOf = (words: Readonly<Record<string, string>>) =>
  Object.entries(words).map(([value, title]) => ({ value, title }))

const was = computed(() => plan.draft?.models.find(({ name }) => name === props.name))
const form = ref(blankForm())
watch(
  open,
  (isOpen) => {
    if (isOpen) form.value = was.value ? formOf(was.value) : blankForm()
  },
  { immediate: true },
)
const wrong = computed(() => (plan.draft ? wrongIn(form.value, takenNames(plan.draft, props.name)) : ''))
function save(): void {
  const model = modelFrom(form.value, was.value)
  plan.edit(`model ${model.name}`, '', (draft) => putModel(draft, model, props.name))
  open.value = false
}
</script>

<template>
  <AppDialog
    v-model="open"
    :width="920"
    :title="name === '' ? 'A model of your own' : name"
    label="Model of your own"
    @submit="save"
  >
    <div class="fields">
      <VTextField label="Name" v-model="form.name" maxlength="40" class="mono" />
      <VTextField label="What it is" v-model="form.label" maxlength="80" />
      <VSelect label="Kind" v-model="form.kind" :items="kindItems(kindsWith('modelled'))" />
      <VTextField label="Own draw, W" v-model="form.idle" inputmode="decimal" class="num" />
      <VTextField
        label="PoE budget, W"
        v-model="form.budget"
        inputmode="decimal"
        placeholder="gives none"
        class="num"
      />
      <VTextField label="Boot, s" v-model="form.boot" inputmode="numeric" class="num" />
      <VSelect label="From the factory" v-model="form.factory" :items="listOf(FACTORY_WORDS)" />
      <VTextField
        v-if="form.factory !== 'dhcp-client'"
        label="Factory address"
        v-model="form.address"
        placeholder="192.168.1.20/24"
        class="mono"
      />
      <VTextField
        v-if="form.factory === 'channel'"
        label="Address as a station"
        v-model="form.stationAddress"
        placeholder="the same"
        class="mono"
      />
      <VTextField v-if="form.factory === 'channel'" label="Channel knob" v-model="form.channel" class="num" />
      <VTextField
        v-if="SENDERS.has(form.kind)"
        label="Factory SSID"
        v-model="form.factorySsid"
        maxlength="32"
        placeholder="sends none"
        class="mono"
      />
      <VTextField
        v-if="form.kind === 'bridge-radio'"
        label="Sensitivity by MCS, dBm"
        v-model="form.sensitivity"
        maxlength="90"
        placeholder="in 20 MHz: −82 −79 −77 …"
        class="mono"
      />
      <VSelect label="First sign-in" v-model="form.credentials" :items="listOf(CREDENTIAL_WORDS)" />
      <VTextField label="Least firmware" v-model="form.minFirmware" maxlength="30" class="mono" />
      <VTextField label="Planned firmware" v-model="form.plannedFirmware" maxlength="30" class="mono" />
      <VTextField
        v-if="form.kind === 'controller' || form.kind === 'gateway'"
        label="Manages APs"
        v-model="form.accessPoints"
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
          <th>Passive V</th>
          <th />
        </tr>
      </thead>
      <tbody>
        <tr v-for="(line, i) in form.ports" :key="i">
          <td><VTextField v-model="line.names" class="mono" aria-label="Names" /></td>
          <td>
            <VSelect
              v-model="line.kind"
              class="kind"
              aria-label="Kind of port"
              :items="['copper', 'sfp', 'radio']"
            />
          </td>
          <td><VTextField v-model="line.speeds" class="mono speeds" aria-label="Speeds" /></td>
          <td>
            <VSelect
              v-model="line.role"
              aria-label="Role"
              :items="['any', 'lan', 'wan', 'network', 'powered']"
            />
          </td>
          <td><VCheckbox v-model="line.locked" aria-label="Shipped off or unlicensed" /></td>
          <td>
            <VSelect v-model="line.power" aria-label="Power" :items="POWER_CHOICES" />
          </td>
          <td><VTextField v-model="line.watts" class="mono" aria-label="Watts" /></td>
          <td>
            <VTextField
              v-if="line.power.endsWith('passive')"
              v-model="line.volts"
              class="mono"
              aria-label="Passive voltage"
            />
          </td>
          <td>
            <VBtn variant="text" @click="form.ports.splice(i, 1)">
              Remove<span class="sr"> ports {{ line.names }}</span>
            </VBtn>
          </td>
        </tr>
      </tbody>
    </VTable>
    <div class="acts">
      <VBtn @click="form.ports.push(blankPorts())">Add ports</VBtn>
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
.speeds {
  min-width: 150px;
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
