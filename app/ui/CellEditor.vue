<script setup lang="ts">
import type { Problem } from '#core/util'
import type { VTextField } from 'vuetify/components'
import { offersFor, withToggled } from './offers'
import { reasonOf } from '~/wording/problems'

/**
 * The field of a cell that is edited: a list of choices, or text with what is wrong of it and what it can name.
 * Choices are a native list: a telephone shows it as its own, and keys choose without opening it.
 */
const CellOffers = defineAsyncComponent(() => import('./CellOffers.vue'))
const { offers, single } = defineProps<{
  label: string
  choices: readonly string[] | null
  problems: readonly Problem[]
  /** What a text of names between commas can name; null for any other text. */
  offers: readonly string[] | null
  /** It names one of them alone. */
  single: boolean
}>()
const text = defineModel<string>({ required: true })
const emit = defineEmits<{ typed: []; key: [event: KeyboardEvent]; leave: [] }>()

const id = useId()
const field = useTemplateRef<InstanceType<typeof VTextField>>('field')
const shown = computed(() => (offers ? offersFor(text.value, offers) : []))
/** Place of the offer that arrows have reached; -1 for none. */
const active = ref(-1)
/** Enter takes what was reached once; the next one finishes the cell. */
const isFresh = ref(false)
watch(
  () => shown.value.length,
  () => (active.value = -1),
)
function toggle(name: string): void {
  text.value = single ? name : withToggled(text.value, name, offers ?? [])
  emit('typed')
}
const STEPS: Readonly<Record<string, number>> = { ArrowDown: 1, ArrowUp: -1 }
/** Arrows go through what is offered, and Enter takes it; every other key is the table's. */
function key(event: KeyboardEvent): void {
  const step = STEPS[event.key]
  const reached = shown.value[active.value]
  if (offers && step !== undefined) {
    active.value = Math.max(-1, Math.min(shown.value.length - 1, active.value + step))
    isFresh.value = true
  } else if (event.key === 'Enter' && reached && isFresh.value) {
    isFresh.value = false
    toggle(reached.name)
  } else return emit('key', event)
  event.preventDefault()
  event.stopPropagation()
}
</script>

<template>
  <select
    v-if="choices"
    v-model="text"
    class="editor"
    :aria-label="label"
    @change="emit('typed')"
    @keydown="emit('key', $event)"
    @blur="emit('leave')"
  >
    <option v-for="choice in choices" :key="choice" :value="choice">{{ choice }}</option>
  </select>
  <VTextField
    v-else
    ref="field"
    v-model="text"
    class="editor"
    v-bind="
      offers
        ? {
            role: 'combobox',
            'aria-expanded': true,
            'aria-controls': id,
            'aria-activedescendant': active === -1 ? undefined : `${id}-${active}`,
          }
        : {}
    "
    variant="plain"
    :aria-label="label"
    :aria-invalid="problems.length > 0"
    :class="{ bad: problems.length > 0 }"
    spellcheck="false"
    @update:model-value="emit('typed')"
    @keydown="key"
    @blur="emit('leave')"
  />
  <CellOffers
    v-if="offers && field?.$el"
    :id="id"
    :label="label"
    :offers="shown"
    :active="active"
    :wrong="problems.map(reasonOf).join('; ')"
    :field="field.$el"
    @toggle="toggle"
  />
  <span v-if="problems.length > 0 && !offers" class="why" role="alert">{{
    problems.map(reasonOf).join('; ')
  }}</span>
</template>

<style scoped>
.editor {
  position: absolute;
  inset: 0;
  width: 100%;
  min-width: 60px;
  border: 2px solid var(--deep);
  background: var(--panel);
  border-radius: 0;
  outline: 0;
  text-align: inherit;
  font: inherit;
}
select.editor {
  padding: 3px 7px;
}
.editor :deep(.v-field) {
  background: none;
  font: inherit;
}
.editor :deep(.v-field__input) {
  min-height: 0;
  padding: 0 7px;
  text-align: inherit;
  line-height: inherit;
}
.editor.bad {
  border-color: var(--brick);
}
.why {
  position: absolute;
  z-index: 5;
  left: 0;
  top: 100%;
  background: var(--brick);
  color: var(--panel);
  padding: 2px 8px;
  font: 400 13px/18px var(--v-font-body);
  white-space: nowrap;
}
</style>
