<script setup lang="ts">
import AppDialog from '~/ui/AppDialog.vue'
import { isFromOutside, type AcceptanceTest } from '#core/prove'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import { useSite } from '~/stores/site'
import { testWords } from '~/wording/proof'
import { reasonOf } from '~/wording/problems'

/** A result written down by hand: passed or not, from where, what was read, and a note. */
const props = defineProps<{ test: AcceptanceTest | null }>()
const emit = defineEmits<{ close: [] }>()
const plan = usePlan()
const site = useSite()
const session = useSession()
const form = reactive({ passed: '' as '' | 'yes' | 'no', vantage: '', value: '', note: '' })
const words = computed(() => (props.test && plan.draft ? testWords(props.test, plan.draft) : null))
watch(
  () => props.test,
  () => Object.assign(form, { passed: '', value: '', note: '' }),
)

async function keep(): Promise<void> {
  if (!props.test || form.passed === '') return
  const good = await site.record({
    testId: props.test.id,
    passed: form.passed === 'yes',
    vantage: form.vantage,
    value: form.value,
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
    @submit="keep"
    ><template v-if="test && words">
      <p>Must be seen: {{ words.expect }}.</p>
      <p v-if="test.under" class="small caution">
        Taking a line or device down may cut people off: agree on a time with whoever owns the site. Do not
        open mains equipment or look into a fibre's end; leave both to licensed people.
      </p>
      <p v-if="isFromOutside(test)" class="small">
        Tried from outside: not from a network of this site. A telephone’s own connection does.
      </p>
      <VRadioGroup v-model="form.passed" label="What you saw" inline>
        <VRadio value="yes" label="as it must be" />
        <VRadio value="no" label="not as it must be" />
      </VRadioGroup>
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
        label="Value read"
        v-model="form.value"
        maxlength="200"
        placeholder="10.61.2.83, answer in 4 ms"
      />
      <VTextarea label="Note" v-model="form.note" rows="2" maxlength="1000" />
      <p class="small soft">
        Kept as seen by {{ session.me?.name }}, now, on revision {{ plan.saved?.revision }}.
      </p>
      <p v-for="(p, i) in site.problems" :key="i" class="wrong-words" role="alert">
        Not kept: {{ reasonOf(p) }}.
      </p> </template
    ><template #actions>
      <VBtn type="submit" variant="flat" :disabled="form.passed === '' || form.vantage.trim() === ''"
        >Record result</VBtn
      ><VBtn @click="emit('close')">Cancel</VBtn>
    </template></AppDialog
  >
</template>

<style scoped>
fieldset {
  border: 0;
  padding: 0;
  margin: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 20px;
}
.pick {
  display: flex;
  gap: 6px;
  align-items: center;
}
.caution {
  border-left: 3px solid var(--ochre);
  padding-left: 8px;
}
@media (max-width: 899px) {
  .pick {
    min-height: 44px;
  }
}
</style>
