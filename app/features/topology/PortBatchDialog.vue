<script setup lang="ts">
import AppDialog from '~/ui/AppDialog.vue'
import type { Problem } from '#core/util'
import { modeText } from '#core/export'
import { freshId, layTemplate, setPorts, spanOf, templateFrom } from '#core/edit'
import { isVlanAware } from '#core/queries'
import type { PortMode } from '#core/schema'
import { typedMode, type TypedMode } from './typed-mode'
import { usePlan, type PlanDraft } from '~/stores/plan'
import { reasonOf } from '~/wording/problems'

/** Many ports in one go: a span and a mode, or a template kept from another device. */
const props = defineProps<{ chosen: string }>()
const open = defineModel<boolean>({ required: true })
const plan = usePlan()

const devices = computed(() => (plan.draft?.devices ?? []).filter(isVlanAware))
const deviceId = ref('')
const span = ref('')
const typed = reactive<TypedMode>({ mode: 'access', vlan: '', tagged: '', address: '', address6: '' })
const problems = shallowRef<readonly Problem[]>([])
const templateName = ref('')
const device = computed(() => devices.value.find((d) => d.id === deviceId.value))
const names = computed(() => spanOf(device.value?.ports.map((p) => p.name) ?? []))
const fitting = computed(() =>
  (plan.draft?.templates ?? []).filter((t) => t.model === '' || t.model === device.value?.model),
)
watch(
  open,
  (now) => {
    if (!now && deviceId.value !== '') return
    problems.value = []
    deviceId.value =
      devices.value.find((d) => d.id === props.chosen)?.id ?? device.value?.id ?? devices.value[0]?.id ?? ''
  },
  { immediate: true },
)

/** The mode that is typed; null while it cannot be one. */
const made = computed(() => typedMode(typed))
function lay(): void {
  if (!plan.draft || !made.value) return
  const result = setPorts(plan.draft, deviceId.value, span.value, { mode: made.value })
  problems.value = result.ok ? [] : result.problems
  if (!result.ok) return
  plan.change(`${device.value?.name} ${span.value}: ${typed.mode}`, '', () => result.value)
  open.value = false
}
function layWhole(id: string): void {
  const template = plan.draft?.templates.find((t) => t.id === id)
  if (!plan.draft || !template) return
  const result = layTemplate(plan.draft, deviceId.value, template)
  problems.value = result.ok ? [] : result.problems
  if (!result.ok) return
  plan.change(`${device.value?.name}: ports as ${template.name}`, '', () => result.value)
  open.value = false
}
function keepTemplate(): void {
  if (!plan.draft) return
  const made = templateFrom(plan.draft, deviceId.value, templateName.value.trim())
  if (made)
    plan.edit(
      `template ${made.name} kept`,
      '',
      (draft) =>
        void draft.templates.push({
          ...made,
          id: freshId(draft.templates, 'template'),
        } as PlanDraft['templates'][number]),
    )
  templateName.value = ''
}
const removeTemplate = (id: string) =>
  plan.edit(
    'template removed',
    '',
    (draft) => void (draft.templates = draft.templates.filter((t) => t.id !== id)),
  )
const lineOf = (names: string, mode: PortMode) =>
  `${names}: ${Object.values(modeText(mode))
    .filter((t) => t !== '')
    .join(' ')}`
</script>

<template>
  <AppDialog v-model="open" :width="760" title="Set ports">
    <div class="row">
      <VSelect
        label="Device"
        v-model="deviceId"
        class="grow"
        :items="devices.map((d) => ({ value: d.id, title: `${d.name}${d.model ? `, ${d.model}` : ''}` }))"
      />
      <VTextField label="Ports" v-model="span" :placeholder="names" spellcheck="false" class="mono" />
      <VSelect label="Mode" v-model="typed.mode" :items="['access', 'trunk', 'routed', 'wan', 'off']" />
      <VTextField
        v-if="typed.mode === 'access' || typed.mode === 'trunk'"
        :label="typed.mode === 'access' ? 'VLAN' : 'Native VLAN'"
        v-model="typed.vlan"
        inputmode="numeric"
        :placeholder="typed.mode === 'trunk' ? 'none' : ''"
        class="mono vid"
      />
      <VTextField
        v-if="typed.mode === 'trunk'"
        label="Tagged"
        v-model="typed.tagged"
        placeholder="10 20 30, or all"
        class="mono"
      />
      <VTextField
        v-if="typed.mode === 'routed'"
        label="Address"
        v-model="typed.address"
        placeholder="10.61.15.1/30"
        class="mono"
      />
      <VTextField
        v-if="typed.mode === 'routed'"
        label="IPv6 address"
        v-model="typed.address6"
        placeholder="none"
        class="mono"
      />
    </div>
    <p v-if="problems.length > 0" class="wrong-words" role="alert">
      Nothing was set: {{ problems.map(reasonOf).join('; ') }}.
    </p>
    <div class="acts">
      <VBtn variant="flat" :disabled="!made || span.trim() === ''" @click="lay">Apply</VBtn>
    </div>
    <h2>Templates</h2>
    <VTable class="ruled">
      <tbody>
        <tr v-for="t in fitting" :key="t.id">
          <td>
            <b>{{ t.name }}</b> <span class="soft">{{ t.model }}</span>
          </td>
          <td class="small">{{ t.ports.map((p) => lineOf(p.names, p.mode)).join('; ') }}</td>
          <td class="num">
            <VBtn @click="layWhole(t.id)">Apply to {{ device?.name }}</VBtn>
            <VBtn variant="text" @click="removeTemplate(t.id)">
              Remove<span class="sr"> {{ t.name }}</span>
            </VBtn>
          </td>
        </tr>
        <tr v-if="fitting.length === 0">
          <td class="soft">No template for this model.</td>
        </tr>
      </tbody>
    </VTable>
    <div class="row">
      <VTextField
        :label="`New template from the ports of ${device?.name}`"
        v-model="templateName"
        maxlength="60"
        placeholder="a name"
        class="grow"
      />
      <VBtn :disabled="templateName.trim() === ''" @click="keepTemplate"> Save template </VBtn>
    </div>
    <template #actions><VBtn @click="open = false">Close</VBtn></template>
  </AppDialog>
</template>

<style scoped>
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: end;
}
.grow {
  flex: 1 1 200px;
}
.vid {
  width: 96px;
}
.ruled td {
  white-space: normal;
}
</style>
