<script setup lang="ts">
import type { Dispute } from '#core/schedule'
import type { ShownRecord } from './steps'
import { sayingWords } from './words'
import { useSession } from '~/stores/session'

/** Two people told different things of one step without knowing of each other: which of them holds? */
const { dispute } = defineProps<{ dispute: Dispute<ShownRecord> }>()
const emit = defineEmits<{ holds: [record: ShownRecord] }>()
const both = computed(() => [dispute.earlier, dispute.later])
const session = useSession()
</script>

<template>
  <div role="alert" class="dispute">
    <p>Told by two people who did not know of each other. Both records are kept: which holds?</p>
    <template v-for="record in both" :key="record.id">
      <VBtn v-if="session.works" size="x-large" block @click="emit('holds', record)">
        {{ sayingWords(record) }}
      </VBtn>
      <p v-else>{{ sayingWords(record) }}</p>
    </template>
  </div>
</template>

<style scoped>
.dispute {
  border-left: 3px solid var(--ochre);
  padding-left: 8px;
  display: grid;
  gap: 8px;
  margin-bottom: 10px;
}
.dispute :deep(.v-btn__content) {
  white-space: normal;
}
</style>
