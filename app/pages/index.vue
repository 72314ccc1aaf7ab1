<script setup lang="ts">
import type { SiteSummary } from '#contracts/api'
import { MOST_PLAN_BYTES, parsePlanText, planToText } from '#contracts/plan'
import { parsePrefix4 } from '#core/address'
import type { Problem } from '#core/util'
import { blankPlan } from '#core/edit'
import { api } from '~/stores/api'
import { useSession } from '~/stores/session'
import { sentenceOf } from '~/wording/problems'

/** The fleet: every site, and reading one from a file. */
const session = useSession()
const sites = shallowRef<readonly SiteSummary[] | null>(null)
const problems = shallowRef<readonly Problem[]>([])
const fileName = ref('')

async function load(): Promise<void> {
  const answer = await api<SiteSummary[]>('GET', 'sites')
  if (answer.ok) sites.value = answer.value
  else problems.value = answer.refusal.problems
}
onMounted(load)

async function read(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file) return
  fileName.value = file.name
  // A file that is too large is not even read.
  const text = file.size > MOST_PLAN_BYTES ? ' '.repeat(MOST_PLAN_BYTES + 1) : await file.text()
  const parsed = parsePlanText(text)
  if (!parsed.ok) {
    problems.value = parsed.problems
    return
  }
  const answer = await api<SiteSummary>('POST', 'sites', { text })
  problems.value = answer.ok ? [] : answer.refusal.problems
  if (answer.ok) await navigateTo(`/sites/${answer.value.slug}/addresses`)
}
const name = ref('')
const block = ref('10.0.0.0/16')
const blockProblems = computed(() => {
  const read = parsePrefix4(block.value.trim())
  return read.ok ? [] : read.problems
})
async function begin(): Promise<void> {
  fileName.value = ''
  const text = planToText(blankPlan(name.value.trim(), block.value.trim()))
  const answer = await api<SiteSummary>('POST', 'sites', { text })
  problems.value = answer.ok ? [] : answer.refusal.problems
  if (answer.ok) await navigateTo(`/sites/${answer.value.slug}/brief`)
}
async function leave(): Promise<void> {
  await session.signOut()
  await navigateTo('/sign-in')
}
</script>

<template>
  <main class="sheet sites">
    <header>
      <h1>Sites</h1>
      <span class="tools"
        ><span>{{ session.me?.name }}</span
        ><button type="button" class="press" @click="leave">Sign out</button></span
      >
      <p>Open a site, begin one, or read one from a site file.</p>
    </header>
    <p v-if="!sites && problems.length === 0" class="soft">Reading</p>
    <table v-if="sites" class="ruled">
      <thead>
        <tr>
          <th>Site</th>
          <th class="num">Revision</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="site in sites" :key="site.slug">
          <td>
            <NuxtLink :to="`/sites/${site.slug}/addresses`">{{ site.name }}</NuxtLink>
          </td>
          <td class="num mono">{{ site.revision }}</td>
        </tr>
        <tr v-if="sites.length === 0">
          <td colspan="2" class="soft">No site yet.</td>
        </tr>
      </tbody>
    </table>
    <form v-if="session.edits" class="begin" @submit.prevent="begin">
      <label
        ><span class="label">A new site</span
        ><input v-model="name" class="field" maxlength="80" placeholder="its name"
      /></label>
      <label
        ><span class="label">Its block of addresses</span
        ><input
          v-model="block"
          class="field mono"
          :class="{ wrong: blockProblems.length > 0 }"
          spellcheck="false"
      /></label>
      <button type="submit" class="press main" :disabled="name.trim() === '' || blockProblems.length > 0">
        Begin it
      </button>
      <span v-if="blockProblems.length > 0" class="wrong-words" role="alert">{{
        blockProblems.map(sentenceOf).join('; ')
      }}</span>
    </form>
    <p v-if="session.edits" class="read">
      <label class="press"
        >Read a site file<input class="sr" type="file" accept=".json,application/json" @change="read"
      /></label>
    </p>
    <div v-if="problems.length > 0" role="alert">
      <h2>{{ fileName === '' ? 'Not read' : `${fileName} was not read; nothing was changed` }}</h2>
      <p v-for="(problem, i) in problems" :key="i" class="wrong-words">{{ sentenceOf(problem) }}</p>
    </div>
  </main>
</template>

<style scoped>
.sites {
  max-width: 720px;
  margin: 0 auto;
  height: 100vh;
  overflow: auto;
}
.read {
  margin: 14px 0;
}
.begin {
  display: grid;
  grid-template-columns: 1fr 190px auto;
  gap: 6px 12px;
  align-items: end;
  margin-top: 16px;
}
.begin .wrong-words {
  grid-column: 1 / -1;
}
@media (max-width: 899px) {
  .begin {
    grid-template-columns: 1fr;
  }
}
.read .press:focus-within {
  outline: 2px solid var(--deep);
}
</style>
