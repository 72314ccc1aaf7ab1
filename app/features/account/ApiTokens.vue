<script setup lang="ts">
import { mdiContentCopy, mdiRobotOutline } from '@mdi/js'
import { useClipboard } from '@vueuse/core'
import type { NewToken, TokenLine } from '#contracts/tokens'
import type { Problem } from '#core/util'
import { api } from '~/stores/api'
import AppDialog from '~/ui/AppDialog.vue'
import DataTable from '~/ui/DataTable.vue'
import type { Column } from '~/ui/columns'
import { openAbout } from '~/ui/opened'
import { dateText } from '~/wording/adoption'
import { reasonOf, sentenceOf } from '~/wording/problems'

/** Tokens by which programs ask as oneself. */
const tokens = shallowRef<readonly TokenLine[]>([])
const problems = shallowRef<readonly Problem[]>([])

async function read(): Promise<void> {
  const answer = await api<readonly TokenLine[]>('GET', 'me/tokens')
  if (answer.ok) tokens.value = answer.value
  else problems.value = answer.refusal.problems
}
onMounted(read)
async function end({ id }: TokenLine): Promise<void> {
  const answer = await api('DELETE', `me/tokens/${id}`)
  problems.value = answer.ok ? [] : answer.refusal.problems
  await read()
}

const isMaking = ref(false)
const name = ref('')
const password = ref('')
const mayWrite = ref(false)
const days = ref(90)
const refused = shallowRef<readonly Problem[]>([])
const first = useTemplateRef<{ focus: () => void }>('first')
watch(first, (field) => field?.focus())
watch(isMaking, () => {
  name.value = password.value = ''
  refused.value = []
})
const DAYS = [7, 30, 90, 365].map((value) => ({ value, title: `${value} days` }))
const isReady = computed(() => name.value.trim() !== '' && password.value !== '')

const made = ref<string | null>(null)
const isMade = openAbout(made)
const { copy, copied } = useClipboard({ source: () => made.value ?? '', legacy: true })

async function make(): Promise<void> {
  if (!isReady.value) return
  const answer = await api<NewToken>('POST', 'me/tokens', {
    name: name.value.trim(),
    mayWrite: mayWrite.value,
    days: days.value,
    password: password.value,
  })
  refused.value = answer.ok ? [] : answer.refusal.problems
  if (!answer.ok) return
  isMaking.value = false
  await read()
  made.value = answer.value.token
}

const rows = computed(() => tokens.value.map((token) => ({ ...token, id: String(token.id), token })))
type Row = (typeof rows.value)[number]
const columns: readonly Column<Row>[] = [
  { key: 'name', head: 'Token', strong: true, wraps: true, get: (token) => token.name },
  { key: 'may', head: 'May', get: (token) => (token.mayWrite ? 'read and write' : 'read') },
  { key: 'expiresAt', head: 'Until', mono: true, get: ({ expiresAt }) => dateText(expiresAt) },
  { key: 'usedAt', head: 'Used last', mono: true, get: ({ usedAt }) => (usedAt ? dateText(usedAt) : '—') },
  { key: 'acts', head: '', get: () => '' },
]
</script>

<template>
  <section aria-labelledby="tokens">
    <h2 id="tokens">API tokens</h2>
    <p>
      For programs that ask as you: about sites, never about people or secrets.
      <a href="/api/openapi" target="_blank" rel="noopener">What they may ask (OpenAPI)</a>
    </p>
    <DataTable v-if="rows.length > 0" label="API tokens" :columns="columns" :rows="rows" empty="">
      <template #acts="{ row }">
        <VBtn size="small" :aria-label="`End the token ${row.name}`" @click="end(row.token)">End</VBtn>
      </template>
    </DataTable>
    <VBtn class="make" :prepend-icon="mdiRobotOutline" @click="isMaking = true">Make a token</VBtn>
    <p v-for="(problem, i) in problems" :key="i" class="wrong-words" role="alert">
      {{ sentenceOf(problem) }}
    </p>

    <AppDialog v-model="isMaking" title="Make an API token" :width="460" @submit="make">
      <VTextField
        ref="first"
        v-model="name"
        label="What it is for"
        placeholder="Nightly export"
        maxlength="80"
        autocomplete="off"
        required
      />
      <VCheckbox v-model="mayWrite" label="May write, as far as you may" hide-details />
      <VSelect v-model="days" label="Holds for" :items="DAYS" hide-details />
      <VTextField
        v-model="password"
        label="Your password"
        type="password"
        name="current-password"
        autocomplete="current-password"
        required
      />
      <p v-for="problem in refused" :key="problem.code" class="wrong-words" role="alert">
        Not made: {{ reasonOf(problem) }}.
      </p>
      <template #actions>
        <VBtn @click="isMaking = false">Cancel</VBtn>
        <VBtn type="submit" variant="flat" :disabled="!isReady">Make it</VBtn>
      </template>
    </AppDialog>
    <AppDialog v-model="isMade" title="The token" :width="520" persistent @submit="isMade = false">
      <p>Sent as <span class="mono">Authorization: Bearer</span>. It is not shown again.</p>
      <VTextarea
        :model-value="made ?? ''"
        label="Token"
        class="mono"
        rows="2"
        auto-grow
        readonly
        hide-details
      />
      <template #actions>
        <VBtn :prepend-icon="mdiContentCopy" @click="copy()">{{ copied ? 'Copied' : 'Copy' }}</VBtn>
        <VBtn type="submit" variant="flat">Done</VBtn>
      </template>
    </AppDialog>
  </section>
</template>

<style scoped>
section {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 8px;
}
.make {
  justify-self: start;
}
</style>
