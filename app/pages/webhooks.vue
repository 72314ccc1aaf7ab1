<script setup lang="ts">
import { mdiWebhook } from '@mdi/js'
import type { WebhookLine } from '#contracts/webhooks'
import AddWebhook from '~/features/webhooks/AddWebhook.vue'
import { useWebhooks } from '~/features/webhooks/webhooks'
import { EVENT_WORDS, lastWords, sendingWords } from '~/features/webhooks/words'
import HomeFrame from '~/shell/HomeFrame.vue'
import { useSession } from '~/stores/session'
import DataTable from '~/ui/DataTable.vue'
import ReadingNotice from '~/ui/ReadingNotice.vue'
import ShownOnce from '~/ui/ShownOnce.vue'
import type { Column } from '~/ui/columns'
import { dateText } from '~/wording/adoption'
import { sentenceOf } from '~/wording/problems'

/** Programs that are told when something happens at the organisation's sites. */
definePageMeta({
  middleware: () => {
    if (!useSession().administers) return navigateTo('/')
  },
})
const { webhooks, problems, secret, read, add, pause, tryOut, remove } = useWebhooks()
onMounted(read)
const isAdding = ref(false)

const rows = computed(() =>
  (webhooks.value ?? []).map((webhook) => ({ ...webhook, id: String(webhook.id), webhook })),
)
type Row = (typeof rows.value)[number]
const told = ({ events }: WebhookLine): string => events.map((event) => EVENT_WORDS[event]).join('; ')
const columns: readonly Column<Row>[] = [
  { key: 'url', head: 'URL', strong: true, wraps: true, get: ({ url }) => url },
  { key: 'events', head: 'Told when', wraps: true, get: ({ webhook }) => told(webhook) },
  { key: 'state', head: 'State', wraps: true, get: ({ webhook }) => sendingWords(webhook) },
  { key: 'last', head: 'Newest message', wraps: true, get: ({ webhook }) => lastWords(webhook) },
  { key: 'at', head: 'When', mono: true, get: ({ last }) => (last ? dateText(last.at) : '—') },
  { key: 'acts', head: '', get: () => '' },
]
</script>

<template>
  <HomeFrame>
    <header>
      <h1>Webhooks</h1>
      <span class="tools">
        <VBtn variant="flat" :prepend-icon="mdiWebhook" @click="isAdding = true">Add a webhook</VBtn>
      </span>
      <p>
        Programs of yours that are told when something happens at a site: a ticket system, a chat, a script.
        Each message is signed, and sent again later where it was not taken.
      </p>
    </header>
    <ReadingNotice v-if="!webhooks && problems.length === 0" words="Reading the webhooks" />
    <p v-for="(problem, i) in problems" :key="i" class="wrong-words" role="alert">
      {{ sentenceOf(problem) }}
    </p>
    <DataTable
      v-if="webhooks"
      label="Webhooks"
      :columns="columns"
      :rows="rows"
      empty="None yet: nobody is told anything."
    >
      <template #acts="{ row }">
        <span class="row-acts">
          <VBtn size="small" :aria-label="`Send ${row.url} a trial message`" @click="tryOut(row.webhook)"
            >Try it</VBtn
          >
          <VBtn
            size="small"
            :aria-label="`${row.paused ? 'Resume' : 'Pause'} ${row.url}`"
            @click="pause(row.webhook, !row.paused)"
            >{{ row.paused ? 'Resume' : 'Pause' }}</VBtn
          >
          <VBtn size="small" :aria-label="`Remove ${row.url}`" @click="remove(row.webhook)">Remove</VBtn>
        </span>
      </template>
    </DataTable>
    <AddWebhook v-model="isAdding" :add="add" />
    <ShownOnce v-model="secret" title="The signing secret" label="Secret">
      Messages carry the headers of Standard Webhooks: an HMAC-SHA256 by this secret shows that they come from
      here. It is not shown again.
    </ShownOnce>
  </HomeFrame>
</template>
