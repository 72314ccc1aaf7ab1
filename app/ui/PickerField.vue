<script setup lang="ts">
import type { Result } from '#core/util'
import { ruleOf } from './columns'

/**
 * A text that is typed, or chosen from what a button opens. What cannot be read stays in the field, with the reason.
 */
const { label, value, icon, parse } = defineProps<{
  label: string
  value: string
  /** Path of the button's icon, and what the button says it does. */
  icon: string
  opens: string
  parse: (text: string) => Result<unknown>
  readonly?: boolean
  clearable?: boolean
}>()
const emit = defineEmits<{ set: [text: string] }>()
const opened = ref(false)
const typed = ref('')
watch(
  () => value,
  (now) => (typed.value = now),
  { immediate: true },
)
const isRight = computed(() => ruleOf(parse))
function take(text: string | null): void {
  typed.value = text ?? ''
  if (isRight.value(typed.value) === true && typed.value.trim() !== value) emit('set', typed.value.trim())
}
function choose(text: string): void {
  opened.value = false
  take(text)
}
</script>

<template>
  <VTextField
    :model-value="typed"
    :label="label"
    class="mono"
    maxlength="10"
    autocomplete="off"
    :readonly="readonly"
    :clearable="clearable && !readonly"
    :rules="[isRight]"
    @update:model-value="take"
  >
    <template v-if="!readonly" #append-inner>
      <VMenu v-model="opened" :close-on-content-click="false">
        <template #activator="{ props: activator }">
          <VBtn
            v-bind="activator"
            variant="text"
            density="compact"
            :icon="icon"
            :aria-label="`${label}: ${opens}`"
          />
        </template>
        <slot v-if="opened" :choose="choose" />
      </VMenu>
    </template>
  </VTextField>
</template>
