<script setup lang="ts">
import { mdiTrashCanOutline } from '@mdi/js'
import type { TemplateSummary } from '#contracts/api'
import type { Problem } from '#core/util'
import { dateText } from '~/wording/adoption'
import { reasonOf } from '~/wording/problems'
import { removeTemplate } from './new-site'

/** Which plan that was kept a new site begins with; one that nobody needs is removed here. */
const chosen = defineModel<number | null>({ required: true })
const { templates } = defineProps<{ templates: readonly TemplateSummary[] }>()
const emit = defineEmits<{ removed: [id: number] }>()
const template = computed(() => templates.find(({ id }) => id === chosen.value) ?? null)
const refused = shallowRef<readonly Problem[]>([])

async function remove(id: number): Promise<void> {
  const answer = await removeTemplate(id)
  refused.value = answer.ok ? [] : answer.refusal.problems
  if (!answer.ok) return
  chosen.value = null
  emit('removed', id)
}
</script>

<template>
  <VAutocomplete
    v-model="chosen"
    label="Template"
    :items="templates"
    item-title="name"
    item-value="id"
    @update:model-value="refused = []"
  />
  <p v-if="template" class="soft">
    Saved {{ dateText(template.keptAt) }} by {{ template.keptBy }}.
    <VBtn variant="text" :prepend-icon="mdiTrashCanOutline" @click="remove(template.id)">
      Remove this template
    </VBtn>
  </p>
  <p v-if="refused.length > 0" class="wrong-words" role="alert">
    Not removed: {{ refused.map(reasonOf).join('; ') }}.
  </p>
</template>
