<script setup lang="ts">
import { mdiLinkVariant, mdiTableArrowDown } from '@mdi/js'
import { watchDebounced } from '@vueuse/core'
import { ACTION_WORDS, checkWords } from '~/features/audit/words'
import { useAudit } from '~/features/audit/audit'
import HomeFrame from '~/shell/HomeFrame.vue'
import { useSession } from '~/stores/session'
import DataTable from '~/ui/DataTable.vue'
import ReadingNotice from '~/ui/ReadingNotice.vue'
import type { Column } from '~/ui/columns'
import { dateText } from '~/wording/adoption'
import { sentenceOf } from '~/wording/problems'

/** Who did what that matters later. */
definePageMeta({
  middleware: () => {
    if (!useSession().administers) return navigateTo('/')
  },
})
const { lines, isMore, problems, check, wanted, read, readOlder, verify } = useAudit()
onMounted(() => read())
watchDebounced(wanted, () => read(), { debounce: 300, deep: true })

const rows = computed(() => (lines.value ?? []).map((line) => ({ ...line, id: String(line.id) })))
type Row = (typeof rows.value)[number]
const columns: readonly Column<Row>[] = [
  { key: 'at', head: 'When', mono: true, get: ({ at }) => dateText(at) },
  { key: 'who', head: 'Who', strong: true, get: ({ who }) => who },
  { key: 'what', head: 'What', wraps: true, get: ({ what }) => ACTION_WORDS[what] },
  { key: 'subject', head: 'Which', wraps: true, get: ({ subject }) => subject },
  { key: 'site', head: 'Site', wraps: true, get: ({ site }) => site },
  { key: 'address', head: 'From', mono: true, get: ({ address }) => address },
]
const deeds = Object.entries(ACTION_WORDS).map(([value, title]) => ({ value, title }))
</script>

<template>
  <HomeFrame>
    <header>
      <h1>Audit</h1>
      <span class="tools">
        <VBtn :prepend-icon="mdiLinkVariant" @click="verify">Check the chain</VBtn>
        <VBtn :prepend-icon="mdiTableArrowDown" href="/api/audit/export" download>Export CSV</VBtn>
      </span>
      <p>Lines are added and never changed; each is chained to the one before.</p>
    </header>
    <p v-if="check" role="status" :class="{ 'wrong-words': check.brokenAt !== null }">
      {{ checkWords(check) }}
    </p>
    <div class="sieve">
      <VTextField v-model="wanted.who" label="Who" clearable />
      <VSelect v-model="wanted.what" label="What" :items="deeds" clearable />
      <VTextField v-model="wanted.site" label="Site" clearable />
    </div>
    <p v-for="(problem, i) in problems" :key="i" class="wrong-words" role="alert">
      {{ sentenceOf(problem) }}
    </p>
    <ReadingNotice v-if="!lines && problems.length === 0" words="Reading the audit" />
    <DataTable v-if="lines" label="Audit" :columns="columns" :rows="rows" empty="No line matches." ordered />
    <VBtn v-if="isMore" class="older" @click="readOlder">Older lines</VBtn>
  </HomeFrame>
</template>

<style scoped>
.sieve {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  margin: 12px 0;
}
.sieve > * {
  flex: 0 1 230px;
}
.older {
  margin-top: 12px;
}
</style>
