<script setup lang="ts">
import type { SessionLine } from '#contracts/accounts'
import type { Problem } from '#core/util'
import DataTable from '~/ui/DataTable.vue'
import type { Column } from '~/ui/columns'
import { api } from '~/stores/api'
import { dateText } from '~/wording/adoption'
import { sentenceOf } from '~/wording/problems'
import { deviceWords } from './words'

/** Where one is signed in; each can be ended from here. */
const lines = shallowRef<readonly SessionLine[]>([])
const problems = shallowRef<readonly Problem[]>([])

async function read(): Promise<void> {
  const answer = await api<readonly SessionLine[]>('GET', 'me/sessions')
  problems.value = answer.ok ? [] : answer.refusal.problems
  if (answer.ok) lines.value = answer.value
}
async function end(path: string): Promise<void> {
  const answer = await api('DELETE', path)
  problems.value = answer.ok ? [] : answer.refusal.problems
  if (answer.ok) await read()
}
onMounted(read)
defineExpose({ read })

const columns: readonly Column<SessionLine>[] = [
  { key: 'device', head: 'Browser', wraps: true, get: ({ device }) => deviceWords(device) },
  { key: 'address', head: 'From', mono: true, get: ({ address }) => address },
  { key: 'createdAt', head: 'Signed in', mono: true, get: ({ createdAt }) => dateText(createdAt) },
  { key: 'seenAt', head: 'Used last', mono: true, get: ({ seenAt }) => dateText(seenAt) },
  { key: 'end', head: '', get: () => '' },
]
</script>

<template>
  <section aria-labelledby="sessions">
    <header>
      <h2 id="sessions">Signed in</h2>
      <VBtn v-if="lines.length > 1" @click="end('me/sessions')">Sign out everywhere else</VBtn>
    </header>
    <DataTable label="Signed in" :columns="columns" :rows="lines" empty="Being read.">
      <template #end="{ row }">
        <span v-if="row.isThis" class="soft">this one</span>
        <VBtn
          v-else
          size="small"
          :aria-label="`Sign out ${deviceWords(row.device)}, ${row.address}`"
          @click="end(`me/sessions/${row.id}`)"
          >Sign out</VBtn
        >
      </template>
    </DataTable>
    <p v-for="(problem, i) in problems" :key="i" class="wrong-words" role="alert">
      {{ sentenceOf(problem) }}
    </p>
  </section>
</template>

<style scoped>
section {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 8px;
}
header {
  display: flex;
  align-items: center;
  gap: 12px;
  min-height: 36px;
}
</style>
