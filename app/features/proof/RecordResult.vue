<script setup lang="ts">
import { isFromOutside, readingKind, readingProblem, type AcceptanceTest } from '#core/prove'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import { useSite } from '~/stores/site'
import AppDialog from '~/ui/AppDialog.vue'
import { reasonOf } from '~/wording/problems'
import { readingWords, testWords } from '~/wording/proof'

/** A result written down by hand: what was measured or seen, from where, and a note. */
const props = defineProps<{ test: AcceptanceTest | null }>()
const emit = defineEmits<{ close: [] }>()
const plan = usePlan()
const site = useSite()
const session = useSession()
const form = reactive({ seen: '' as '' | 'yes' | 'no', vantage: '', reading: '', note: '' })
watch(
  () => props.test,
  () => Object.assign(form, { seen: '', reading: '', note: '' }),
)
const words = computed(() => (props.test && plan.draft ? testWords(props.test, plan.draft) : null))
const kind = computed(() => (props.test ? readingKind(props.test) : null))
const asked = computed(() => kind.value && readingWords(kind.value))

/** What was read, with its unit. */
const value = computed(() =>
  kind.value === 'seconds' && form.reading.trim() !== '' ? `${form.reading.trim()} s` : form.reading.trim(),
)
/** Why what was measured does not pass: judged by the plan that the record is of. */
const against = computed(() => {
  const measured = props.test && plan.saved && kind.value && form.seen === 'yes'
  return measured && plan.saved && props.test
    ? readingProblem(plan.saved.plan, props.test, value.value)
    : null
})
const needsReading = computed(() => against.value?.code === 'no-reading')
const passed = computed(() => form.seen === 'yes' && against.value === null)
const isReady = computed(() => form.seen !== '' && form.vantage.trim() !== '' && !needsReading.value)

async function save(): Promise<void> {
  if (!props.test || !isReady.value) return
  const good = await site.record({
    testId: props.test.id,
    passed: passed.value,
    vantage: form.vantage,
    value: value.value,
    note: form.note,
  })
  if (good) emit('close')
}
</script>

<template>
  <AppDialog
    :model-value="test !== null"
    :width="520"
    @update:model-value="emit('close')"
    :title="words?.title ?? ''"
    label="Record a result"
    @submit="save"
    ><template v-if="test && words">
      <p>Must be seen: {{ words.expect }}.</p>
      <p v-if="test.under" class="small caution">
        Taking an uplink or device down may cut people off: agree on a time with whoever owns the site. Do not
        open mains equipment or look into a fibre's end; leave both to licensed people.
      </p>
      <p v-if="test.kind === 'level'" class="small caution">
        Nobody stands in front of an antenna that sends. Masts, roofs and ladders are for people trained for
        heights, never alone and never in wind or near lightning; local codes decide.
      </p>
      <p v-if="isFromOutside(test)" class="small">
        Tried from outside: not from a network of this site. A telephone’s own connection does.
      </p>
      <VRadioGroup v-model="form.seen" label="What you saw" inline>
        <VRadio value="yes" :label="asked?.came ?? 'as it must be'" />
        <VRadio value="no" :label="asked?.never ?? 'not as it must be'" />
      </VRadioGroup>
      <VTextField
        v-if="asked && form.seen === 'yes'"
        v-model="form.reading"
        class="mono"
        :label="asked.field"
        :inputmode="kind === 'seconds' ? 'decimal' : 'text'"
        :placeholder="asked.example"
        persistent-placeholder
        maxlength="60"
        :error-messages="against && form.reading !== '' ? [reasonOf(against)] : []"
      />
      <p v-if="asked && form.seen === 'yes' && form.reading !== '' && !needsReading" role="status">
        <b :class="{ bad: !passed }">{{ passed ? 'Passed: as promised.' : 'Will be recorded as failed.' }}</b>
      </p>
      <VTextField
        label="Tried from"
        v-model="form.vantage"
        required
        maxlength="120"
        :placeholder="
          isFromOutside(test) ? 'A telephone on its own connection' : 'Laptop on Laboratory switch port 15'
        "
      />
      <VTextField
        v-if="!asked"
        label="Value read"
        v-model="form.reading"
        maxlength="200"
        placeholder="answer in 4 ms"
      />
      <VTextarea label="Note" v-model="form.note" rows="2" maxlength="1000" />
      <p class="small soft">
        Kept as seen by {{ session.me?.name }}, now, on revision {{ plan.saved?.revision }}.
      </p>
      <p v-for="(p, i) in site.problems" :key="i" class="wrong-words" role="alert">
        Not kept: {{ reasonOf(p) }}.
      </p> </template
    ><template #actions>
      <VBtn type="submit" variant="flat" :disabled="!isReady">Record result</VBtn
      ><VBtn @click="emit('close')">Cancel</VBtn>
    </template></AppDialog
  >
</template>

<style scoped>
.bad {
  color: var(--brick);
}
.caution {
  border-left: 3px solid var(--ochre);
  padding-left: 8px;
}
</style>
