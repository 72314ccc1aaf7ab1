<script setup lang="ts">
import type { SiteLine, SiteSummary, TemplateSummary } from '#contracts/api'
import { SITES_PAGE } from '#contracts/limits'
import { MOST_PLAN_BYTES, parsePlanText } from '#contracts/plan'
import { useFileDialog, useTimeoutFn } from '@vueuse/core'
import { mdiFileImportOutline, mdiPlus, mdiSwapHorizontal } from '@mdi/js'
import type { Problem } from '#core/util'
import DeletedSites from '~/features/sites/DeletedSites.vue'
import DeleteSiteDialog from '~/features/sites/DeleteSiteDialog.vue'
import SiteTable from '~/features/sites/SiteTable.vue'
import TakeSiteDialog from '~/features/sites/TakeSiteDialog.vue'
import TransferDialog from '~/features/sites/TransferDialog.vue'
import HomeFrame from '~/shell/HomeFrame.vue'
import NewSiteDialog from '~/features/sites/NewSiteDialog.vue'
import { beginSite, firstSheetOf, readTemplates, type Beginning } from '~/features/sites/new-site'
import { readSites } from '~/stores/all-sites'
import { api } from '~/stores/api'
import { useSession } from '~/stores/session'
import { sentenceOf } from '~/wording/problems'
import ReadingNotice from '~/ui/ReadingNotice.vue'

/** The fleet: every site, and reading one from a file. */
const session = useSession()
const sites = shallowRef<readonly SiteLine[] | null>(null)
const problems = shallowRef<readonly Problem[]>([])
const fileName = ref('')
const { open, onChange } = useFileDialog({ accept: '.json,application/json', multiple: false, reset: true })
onChange((files) => void read(files?.[0]))

/** How sites stand is found out while one looks: it is asked for again, not for ever. */
const LOOK_AGAIN_MS = 1500
const MOST_LOOKS = 40
let looked = 0
const lookMs = () => LOOK_AGAIN_MS * Math.ceil(1 + (sites.value?.length ?? 0) / SITES_PAGE)
const { start: lookAgain } = useTimeoutFn(() => void load(), lookMs, { immediate: false })
async function load(): Promise<void> {
  // The first time each page is shown as it comes; later the list is not to grow again under one's eyes.
  const show = sites.value ? undefined : (read: readonly SiteLine[]) => void (sites.value = read)
  const answer = await readSites(session.me?.name ?? '', show)
  if (!answer.ok) return void (problems.value = answer.refusal.problems)
  sites.value = answer.value
  const isWaiting = answer.value.some(({ standing }) => !standing)
  if (isWaiting && looked++ < MOST_LOOKS) lookAgain()
}
onMounted(load)
const current = computed(() => (sites.value ?? []).filter(({ isArchived }) => !isArchived))
const archived = computed(() => (sites.value ?? []).filter(({ isArchived }) => isArchived))

const deleted = useTemplateRef<{ read: () => void }>('deleted')
const leaving = shallowRef<SiteLine | null>(null)
const moving = shallowRef<SiteLine | null>(null)
const taking = ref(false)
async function archive({ slug, isArchived }: SiteLine): Promise<void> {
  fileName.value = ''
  const answer = await api('POST', `sites/${encodeURIComponent(slug)}/archive`, { isArchived: !isArchived })
  problems.value = answer.ok ? [] : answer.refusal.problems
  await load()
}
async function remove({ slug }: SiteLine, name: string): Promise<readonly Problem[]> {
  const answer = await api('POST', `sites/${encodeURIComponent(slug)}/delete`, { name })
  if (!answer.ok) return answer.refusal.problems
  deleted.value?.read()
  await load()
  return []
}

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
  if (answer.ok) await navigateTo(`/sites/${answer.value.slug}/${session.landingAt(answer.value.slug)}`)
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
  <HomeFrame>
    <header>
      <h1>Sites</h1>
      <span class="tools">
        <template v-if="session.edits">
          <VBtn variant="flat" :prepend-icon="mdiPlus" @click="creating = true">New site</VBtn>
          <VBtn :prepend-icon="mdiFileImportOutline" @click="open()">Import a site file</VBtn>
          <VBtn v-if="session.administers" :prepend-icon="mdiSwapHorizontal" @click="taking = true"
            >Take over a site</VBtn
          >
        </template>
      </span>
    </header>
    <ReadingNotice v-if="!sites && problems.length === 0" words="Reading the sites" />
    <SiteTable
      v-if="sites"
      label="Sites"
      searched
      :sites="current"
      :empty="session.edits ? 'No site yet: begin with New site.' : 'No site yet.'"
      @archive="archive"
      @transfer="moving = $event"
      @remove="leaving = $event"
    />
    <div v-if="problems.length > 0" role="alert">
      <h2>{{ fileName === '' ? 'Not read' : `${fileName} was not imported; nothing was changed` }}</h2>
      <p v-for="(problem, i) in problems" :key="i" class="wrong-words">{{ sentenceOf(problem) }}</p>
    </div>
    <section v-if="archived.length > 0" aria-labelledby="archived">
      <h2 id="archived">Archived</h2>
      <SiteTable
        label="Archived sites"
        :sites="archived"
        empty=""
        @archive="archive"
        @transfer="moving = $event"
        @remove="leaving = $event"
      />
    </section>
    <DeletedSites v-if="session.administers" ref="deleted" @restored="load" />
    <DeleteSiteDialog v-model="leaving" :remove="remove" />
    <TransferDialog v-model="moving" />
    <TakeSiteDialog v-if="session.administers" v-model="taking" @taken="load" />
    <NewSiteDialog
      v-if="session.edits"
      v-model="creating"
      :sites="sites ?? []"
      :templates="templates"
      :create="create"
      @removed="forget"
    />
  </HomeFrame>
</template>

<style scoped>
section {
  margin-top: 24px;
}
</style>
