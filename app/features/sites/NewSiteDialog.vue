<script setup lang="ts">
import AppDialog from '~/ui/AppDialog.vue'
import { parsePrefix4 } from '#core/address'
import { blankPlan, firstPlan, MOST_ACCESS_POINTS, MOST_DESKS, MOST_ROOMS } from '#core/edit'
import { parseCountry } from '#core/format'
import type { Plan } from '#core/schema'
import { ok, type Problem, type Result } from '#core/util'
import { reasonOf } from '~/wording/problems'
import { planSummary } from '~/wording/sites'
import { name, ruleOf, whole } from '~/ui/columns'
import type { SiteSummary, TemplateSummary } from '#contracts/api'
import type { Beginning } from './new-site'
import TemplateChoice from './TemplateChoice.vue'

/** What somebody can say of a site in a minute, and the plan that is made of it. */
const open = defineModel<boolean>({ required: true })
const props = defineProps<{
  /** Makes a site; why it was refused, where it was. */
  create: (beginning: Beginning) => Promise<readonly Problem[]>
  /** Sites that a new one can be like. */
  sites: readonly SiteSummary[]
  templates: readonly TemplateSummary[]
}>()
const emit = defineEmits<{ removed: [templateId: number] }>()

const MOST_GUESTS = 1000
// At once: a field that takes the focus later takes what is typed into the next one.
const first = useTemplateRef<{ focus: () => void }>('first')
watch(first, (field) => field?.focus())
const form = reactive({
  name: '',
  country: '',
  supernet: '10.0.0.0/16',
  start: 'first' as 'first' | 'empty' | 'template' | 'copy',
  original: null as string | null,
  template: null as number | null,
  desks: '10',
  rooms: '1',
  accessPoints: '2',
  guests: '20',
  uplinks: 1 as 1 | 2,
  behindRouter: false,
})

const RULES = {
  name: ruleOf(name),
  country: ruleOf(parseCountry),
  supernet: ruleOf(parsePrefix4),
  desks: ruleOf(whole(1, MOST_DESKS)),
  rooms: ruleOf(whole(1, MOST_ROOMS)),
  accessPoints: ruleOf(whole(0, MOST_ACCESS_POINTS)),
  guests: ruleOf(whole(0, MOST_GUESTS)),
}
const OF_EMPTY = ['name', 'country', 'supernet'] as const
const OF_FIRST = [...OF_EMPTY, 'desks', 'rooms', 'accessPoints', 'guests'] as const
const fits = computed(() =>
  (form.start === 'empty' ? OF_EMPTY : OF_FIRST).every((field) => RULES[field](form[field]) === true),
)

function made(): Result<Plan> {
  const common = { name: form.name.trim(), supernet: form.supernet.trim() }
  const country = form.country.trim().toUpperCase()
  if (form.start === 'empty') {
    const blank = blankPlan(common.name, common.supernet)
    return ok({ ...blank, site: { ...blank.site, country } })
  }
  return firstPlan({
    ...common,
    country,
    desks: Number(form.desks),
    rooms: Number(form.rooms),
    accessPoints: Number(form.accessPoints),
    guests: Number(form.guests),
    uplinks: form.uplinks,
    behindRouter: form.behindRouter,
  })
}
const isLaidOut = computed(() => form.start === 'first' || form.start === 'empty')
const plan = computed(() => (isLaidOut.value && fits.value ? made() : null))
/** What the site begins with, as soon as enough is said. */
const beginning = computed((): Beginning | null => {
  const named = { name: form.name.trim() }
  if (isLaidOut.value) return plan.value?.ok ? { kind: 'plan', plan: plan.value.value } : null
  if (RULES.name(form.name) !== true) return null
  if (form.start === 'copy')
    return form.original === null ? null : { kind: 'copy', slug: form.original, ...named }
  return form.template === null ? null : { kind: 'template', id: form.template, ...named }
})
const refused = shallowRef<readonly Problem[]>([])
const problems = computed(() => (plan.value && !plan.value.ok ? plan.value.problems : refused.value))
const summary = computed(() =>
  plan.value?.ok && form.start === 'first' ? planSummary(plan.value.value) : '',
)
watch(form, () => (refused.value = []))
watch(
  () => props.templates.length,
  (left) => left === 0 && form.start === 'template' && (form.start = 'first'),
)

const sending = ref(false)
async function submit(): Promise<void> {
  if (!beginning.value) return
  sending.value = true
  refused.value = await props.create(beginning.value)
  sending.value = false
}
</script>

<template>
  <AppDialog v-model="open" :width="640" title="New site" @submit="submit">
    <VTextField ref="first" v-model="form.name" label="Site name" maxlength="60" :rules="[RULES.name]" />
    <VRadioGroup v-model="form.start" inline label="Start with">
      <VRadio value="first" label="A first plan" />
      <VRadio value="empty" label="An empty plan" />
      <VRadio v-if="templates.length > 0" value="template" label="A template" />
      <VRadio v-if="sites.length > 0" value="copy" label="A copy of another site" />
    </VRadioGroup>
    <TemplateChoice
      v-if="form.start === 'template'"
      v-model="form.template"
      :templates="templates"
      @removed="(id) => emit('removed', id)"
    />
    <template v-else-if="form.start === 'copy'">
      <VAutocomplete
        v-model="form.original"
        label="Site to copy"
        :items="sites"
        item-title="name"
        item-value="slug"
      />
      <p class="soft">
        Networks, devices, rules and all else are copied. Serial numbers, MAC addresses and keys are not; the
        addresses of its internet connections are those of the original until you change them.
      </p>
    </template>
    <div v-else class="pair">
      <VTextField
        v-model="form.supernet"
        label="Address block"
        maxlength="18"
        spellcheck="false"
        :rules="[RULES.supernet]"
      />
      <VTextField
        v-model="form.country"
        label="Country, two letters"
        maxlength="2"
        :rules="[RULES.country]"
      />
    </div>
    <template v-if="form.start === 'first'">
      <div class="four">
        <VTextField
          v-model="form.desks"
          label="Desks with a cable"
          inputmode="numeric"
          :rules="[RULES.desks]"
        />
        <VTextField v-model="form.rooms" label="Rooms" inputmode="numeric" :rules="[RULES.rooms]" />
        <VTextField
          v-model="form.accessPoints"
          label="Access points"
          inputmode="numeric"
          :rules="[RULES.accessPoints]"
        />
        <VTextField
          v-model="form.guests"
          label="Guests on Wi-Fi"
          inputmode="numeric"
          :disabled="form.accessPoints === '0'"
          :rules="[RULES.guests]"
        />
      </div>
      <VRadioGroup v-model="form.uplinks" inline label="Internet connections">
        <VRadio :value="1" label="1" />
        <VRadio :value="2" label="2" />
      </VRadioGroup>
      <VCheckbox v-model="form.behindRouter" label="The first connection comes through another router" />
    </template>
    <p v-if="summary" class="soft" aria-live="polite">{{ summary }} Everything can be changed.</p>
    <p v-if="problems.length > 0" class="wrong-words" role="alert">
      Not created: {{ problems.map(reasonOf).join('; ') }}.
    </p>
    <template #actions>
      <VBtn type="submit" color="primary" variant="flat" :disabled="!beginning" :loading="sending">
        Create site
      </VBtn>
      <VBtn @click="open = false">Cancel</VBtn>
    </template></AppDialog
  >
</template>

<style scoped>
.pair,
.four {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px 12px;
  align-items: start;
}
.four {
  grid-template-columns: repeat(4, 1fr);
}
@media (max-width: 599px) {
  .pair,
  .four {
    grid-template-columns: 1fr;
  }
}
</style>
