<script setup lang="ts">
import { parsePrefix4 } from '#core/address'
import { blankPlan, firstPlan, MOST_ACCESS_POINTS, MOST_DESKS } from '#core/edit'
import type { Plan } from '#core/schema'
import { ok, type Problem, type Result } from '#core/util'
import { reasonOf } from '~/wording/problems'
import { planSummary } from '~/wording/sites'

/** What somebody can say of a site in a minute, and the plan that is made of it. */
const open = defineModel<boolean>({ required: true })
const props = defineProps<{
  /** Makes a site of a plan; why it was refused, where it was. */
  create: (plan: Plan) => Promise<readonly Problem[]>
}>()

const MOST_GUESTS = 1000
const form = reactive({
  name: '',
  country: '',
  supernet: '10.0.0.0/16',
  start: 'first' as 'first' | 'empty',
  desks: '10',
  accessPoints: '2',
  guests: '20',
  lines: 1 as 1 | 2,
  behindRouter: false,
})

/** A rule of a field: a whole number within bounds. */
const whole = (least: number, most: number) => (text: string) =>
  (/^\d{1,5}$/.test(text) && Number(text) >= least && Number(text) <= most) ||
  `A whole number from ${least} to ${most}`
const named = (text: string) => text.trim() !== '' || 'Every site has a name'
const isCountry = (text: string) => text === '' || /^[A-Za-z]{2}$/.test(text) || 'Two letters, such as NO'
const isBlock = (text: string) => {
  const read = parsePrefix4(text.trim())
  return read.ok || read.problems.map(reasonOf).join('; ')
}
const fits = computed(() =>
  [
    named(form.name),
    isCountry(form.country),
    isBlock(form.supernet),
    ...(form.start === 'empty'
      ? []
      : [
          whole(1, MOST_DESKS)(form.desks),
          whole(0, MOST_ACCESS_POINTS)(form.accessPoints),
          whole(0, MOST_GUESTS)(form.guests),
        ]),
  ].every((judged) => judged === true),
)

function made(): Result<Plan> {
  const common = { name: form.name.trim(), supernet: form.supernet.trim() }
  const country = form.country.toUpperCase()
  if (form.start === 'empty') {
    const blank = blankPlan(common.name, common.supernet)
    return ok({ ...blank, site: { ...blank.site, country } })
  }
  return firstPlan({
    ...common,
    country,
    desks: Number(form.desks),
    accessPoints: Number(form.accessPoints),
    guests: Number(form.guests),
    lines: form.lines,
    behindRouter: form.behindRouter,
  })
}
const plan = computed(() => (fits.value ? made() : null))
const refused = shallowRef<readonly Problem[]>([])
const problems = computed(() => (plan.value && !plan.value.ok ? plan.value.problems : refused.value))
const summary = computed(() =>
  plan.value?.ok && form.start === 'first' ? planSummary(plan.value.value) : '',
)
watch(form, () => (refused.value = []))

const sending = ref(false)
async function submit(): Promise<void> {
  if (!plan.value?.ok) return
  sending.value = true
  refused.value = await props.create(plan.value.value)
  sending.value = false
}
</script>

<template>
  <VDialog v-model="open" aria-label="New site" width="640">
    <VCard>
      <VForm class="box" @submit.prevent="submit">
        <h1>New site</h1>
        <VTextField v-model="form.name" label="Site name" maxlength="80" autofocus :rules="[named]" />
        <div class="pair">
          <VTextField
            v-model="form.supernet"
            label="Address block"
            maxlength="18"
            spellcheck="false"
            :rules="[isBlock]"
          />
          <VTextField
            v-model="form.country"
            label="Country, two letters"
            maxlength="2"
            :rules="[isCountry]"
          />
        </div>
        <VRadioGroup v-model="form.start" inline label="Start with">
          <VRadio value="first" label="A first plan" />
          <VRadio value="empty" label="An empty plan" />
        </VRadioGroup>
        <template v-if="form.start === 'first'">
          <div class="three">
            <VTextField
              v-model="form.desks"
              label="Desks with a cable"
              inputmode="numeric"
              :rules="[whole(1, MOST_DESKS)]"
            />
            <VTextField
              v-model="form.accessPoints"
              label="Access points"
              inputmode="numeric"
              :rules="[whole(0, MOST_ACCESS_POINTS)]"
            />
            <VTextField
              v-model="form.guests"
              label="Guests on Wi-Fi"
              inputmode="numeric"
              :disabled="form.accessPoints === '0'"
              :rules="[whole(0, MOST_GUESTS)]"
            />
          </div>
          <VRadioGroup v-model="form.lines" inline label="Internet connections">
            <VRadio :value="1" label="1" />
            <VRadio :value="2" label="2" />
          </VRadioGroup>
          <VCheckbox v-model="form.behindRouter" label="The first connection comes through another router" />
        </template>
        <p v-if="summary" class="soft" aria-live="polite">{{ summary }} Everything can be changed.</p>
        <p v-if="problems.length > 0" class="wrong-words" role="alert">
          Not created: {{ problems.map(reasonOf).join('; ') }}.
        </p>
        <div class="acts">
          <VBtn type="submit" color="primary" variant="flat" :disabled="!plan?.ok" :loading="sending">
            Create site
          </VBtn>
          <VBtn @click="open = false">Cancel</VBtn>
        </div>
      </VForm>
    </VCard>
  </VDialog>
</template>

<style scoped>
.pair,
.three {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px 12px;
}
.three {
  grid-template-columns: repeat(3, 1fr);
}
@media (max-width: 599px) {
  .pair,
  .three {
    grid-template-columns: 1fr;
  }
}
</style>
