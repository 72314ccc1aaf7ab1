<script setup lang="ts">
import type { TypedField } from './typed-fields'
import { useSession } from '~/stores/session'
import { reasonOf } from '~/wording/problems'

/** Fields that write into the plan as one types; what is not right stays in the field, with the reason. */
const props = defineProps<{
  fields: readonly TypedField[]
  /** What the fields are of: when that changes, what was typed is forgotten. */
  owner: string
}>()
const session = useSession()
const typed = reactive(new Map<string, string>())
watch(
  () => props.owner,
  () => typed.clear(),
)
const reasonsOf = (field: TypedField): string[] =>
  typed.has(field.key) ? field.check((typed.get(field.key) ?? '').trim()).map(reasonOf) : []
function type(field: TypedField, text: string): void {
  typed.set(field.key, text)
  if (field.check(text.trim()).length === 0) field.write(text.trim())
}
</script>

<template>
  <VTextField
    v-for="field in fields"
    :key="field.key"
    :label="field.name"
    :class="{ mono: field.mono }"
    :model-value="typed.get(field.key) ?? field.read()"
    :readonly="!session.edits"
    spellcheck="false"
    :error-messages="reasonsOf(field)"
    :hint="field.hint"
    persistent-hint
    @input="type(field, ($event.target as HTMLInputElement).value)"
    @blur="typed.delete(field.key)"
  />
</template>
