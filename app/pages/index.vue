<script setup lang="ts">
import type { SiteSummary, TemplateSummary } from '#contracts/api'
import { MOST_PLAN_BYTES, parsePlanText } from '#contracts/plan'
import { useFileDialog } from '@vueuse/core'
import { mdiFileImportOutline, mdiPlus } from '@mdi/js'
import type { Problem } from '#core/util'
import NewSiteDialog from '~/features/sites/NewSiteDialog.vue'
import { beginSite, firstSheetOf, readTemplates, type Beginning } from '~/features/sites/new-site'
import { api } from '~/stores/api'
import { readOrRemember } from '~/stores/kept-answers'
import { useSession } from '~/stores/session'
import { sentenceOf } from '~/wording/problems'
import DataTable from '~/ui/DataTable.vue'
import type { Column } from '~/ui/columns'
import ReadingNotice from '~/ui/ReadingNotice.vue'

/** The fleet: every site, and reading one from a file. */
const session = useSession()
const sites = shallowRef<readonly SiteSummary[] | null>(null)
const problems = shallowRef<readonly Problem[]>([])
const fileName = ref('')
const { open, onChange } = useFileDialog({ accept: '.json,application/json', multiple: false, reset: true })
onChange((files) => void read(files?.[0]))

async function load(): Promise<void> {
  const answer = await readOrRemember<readonly SiteSummary[]>(session.me?.name ?? '', 'sites')
  if (answer.ok) sites.value = answer.value
  else problems.value = answer.refusal.problems
}
onMounted(load)
const rows = computed(() => (sites.value ?? []).map((site) => ({ ...site, id: site.slug })))
const columns: readonly Column<SiteSummary>[] = [
  { key: 'name', head: 'Site', get: (site) => site.name },
  { key: 'revision', head: 'Revision', num: true, mono: true, get: (site) => String(site.revision) },
]

async function read(file: File | undefined): Promise<void> {
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
  if (answer.ok) await navigateTo(`/sites/${answer.value.slug}/${session.landing}`)
}
const creating = ref(false)
const templates = shallowRef<readonly TemplateSummary[]>([])
watch(creating, async (isOpen) => {
  if (!isOpen) return
  const answer = await readTemplates()
  if (answer.ok) templates.value = answer.value
})
const forget = (id: number) => (templates.value = templates.value.filter((template) => template.id !== id))

async function create(beginning: Beginning): Promise<readonly Problem[]> {
  fileName.value = ''
  const answer = await beginSite(beginning)
  if (!answer.ok) return answer.refusal.problems
  await navigateTo(`/sites/${answer.value.slug}/${firstSheetOf(beginning)}`)
  return []
}
</script>

<template>
  <main class="sheet sites">
    <header>
      <h1>Sites</h1>
      <span class="tools">
        <template v-if="session.edits">
          <VBtn variant="flat" :prepend-icon="mdiPlus" @click="creating = true">New site</VBtn>
          <VBtn :prepend-icon="mdiFileImportOutline" @click="open()">Import a site file</VBtn>
        </template>
      </span>
      <p>{{ session.me?.name }} <VBtn variant="text" @click="session.signOut">Sign out</VBtn></p>
    </header>
    <ReadingNotice v-if="!sites && problems.length === 0" words="Reading the sites" />
    <DataTable v-if="sites" label="Sites" :columns="columns" :rows="rows" empty="No site yet.">
      <template #name="{ row }"
        ><NuxtLink :to="`/sites/${row.slug}/${session.landing}`">{{ row.name }}</NuxtLink></template
      >
    </DataTable>
    <div v-if="problems.length > 0" role="alert">
      <h2>{{ fileName === '' ? 'Not read' : `${fileName} was not imported; nothing was changed` }}</h2>
      <p v-for="(problem, i) in problems" :key="i" class="wrong-words">{{ sentenceOf(problem) }}</p>
    </div>
    <NewSiteDialog
      v-if="session.edits"
      v-model="creating"
      :sites="sites ?? []"
      :templates="templates"
      :create="create"
      @removed="forget"
    />
  </main>
</template>

<style scoped>
.sites {
  max-width: 720px;
  margin: 0 auto;
  height: 100vh;
  overflow: auto;
}
</style>
