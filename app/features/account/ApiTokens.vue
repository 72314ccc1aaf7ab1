<script setup lang="ts">
import { mdiRobotOutline } from '@mdi/js'
import type { NewToken, TokenLine } from '#contracts/tokens'
import type { Problem } from '#core/util'
import { api } from '~/stores/api'
import DataTable from '~/ui/DataTable.vue'
import ShownOnce from '~/ui/ShownOnce.vue'
import type { Column } from '~/ui/columns'
import { dateText } from '~/wording/adoption'
import { sentenceOf } from '~/wording/problems'
import PasswordDialog from './PasswordDialog.vue'
import type { PasswordAction } from './password-action'

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

const mayWrite = ref(false)
const days = ref(90)
const DAYS = [7, 30, 90, 365].map((value) => ({ value, title: `${value} days` }))
const made = ref<string | null>(null)

const action = shallowRef<PasswordAction | null>(null)
const make: PasswordAction = {
  title: 'Make an API token',
  words: 'A program that shows it asks as you.',
  verb: 'Make it',
  named: true,
  async go(password, name) {
    const wanted = { name, mayWrite: mayWrite.value, days: days.value, password }
    const answer = await api<NewToken>('POST', 'me/tokens', wanted)
    if (!answer.ok) return { problems: answer.refusal.problems }
    await read()
    return { next: () => (made.value = answer.value.token) }
  },
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
    <VBtn class="make" :prepend-icon="mdiRobotOutline" @click="action = make">Make a token</VBtn>
    <p v-for="(problem, i) in problems" :key="i" class="wrong-words" role="alert">
      {{ sentenceOf(problem) }}
    </p>

    <PasswordDialog v-model="action">
      <VCheckbox v-model="mayWrite" label="May write, as far as you may" hide-details />
      <VSelect v-model="days" label="Holds for" :items="DAYS" hide-details />
    </PasswordDialog>
    <ShownOnce v-model="made" title="The token" label="Token">
      Sent as <span class="mono">Authorization: Bearer</span>. It is not shown again.
    </ShownOnce>
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
