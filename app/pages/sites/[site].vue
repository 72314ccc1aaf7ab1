<script setup lang="ts">
import { mdiChevronDown, mdiChevronLeft, mdiChevronRight, mdiChevronUp } from '@mdi/js'
import { until, useEventListener } from '@vueuse/core'
import { useDisplay } from 'vuetify'
import AppHeader from '~/shell/AppHeader.vue'
import WorkNotices from '~/shell/WorkNotices.vue'
import StageNav from '~/shell/StageNav.vue'
import StatusFlag from '~/ui/StatusFlag.vue'
import { useChosen } from '~/ui/selection'
import { useKeys } from '~/shell/keys'
import { useNewestStep } from '~/shell/newest-step'
import { usePointer } from '~/shell/finding-navigation'
import { useStages } from '~/shell/navigation'
import { useAnalysis } from '~/stores/analysis'
import { usePreferences } from '~/stores/preferences'
import { useOpenedSite, WAITED_MS } from '~/stores/opened-site'
import { usePassphraseList } from '~/stores/passphrases'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import ReadingNotice from '~/ui/ReadingNotice.vue'

// What a first page does not show is loaded when it is first asked for.
// On a telephone that is the Lookout too.
const FindingsPanel = defineAsyncComponent(() => import('~/shell/FindingsPanel.vue'))
const ConflictDialog = defineAsyncComponent(() => import('~/shell/ConflictDialog.vue'))
const loadPalette = () => import('~/shell/CommandPalette.vue')
const CommandPalette = defineAsyncComponent(loadPalette)
const HelpDialog = defineAsyncComponent(() => import('~/shell/HelpDialog.vue'))
const StepNotice = defineAsyncComponent(() => import('~/shell/StepNotice.vue'))
const ScenarioDialog = defineAsyncComponent(() => import('~/shell/ScenarioDialog.vue'))

/** The frame around every sheet of a site. */
const route = useRoute()
const plan = usePlan()
const preferences = usePreferences()
const analysis = useAnalysis()
const session = useSession()
const passphrases = usePassphraseList()
const { stages } = useStages()
const chosen = useChosen()
useKeys()
const newestStep = useNewestStep()
const hasStepped = ref(false)
watch(newestStep, (step) => (hasStepped.value ||= step !== null))

const sheet = computed(() => route.path.split('/')[3] ?? 'addresses')
const current = computed(() => stages.value.find((s) => s.sheets.some((x) => x.key === sheet.value)))
const blockers = computed(
  () => analysis.analysis?.findings.filter((f) => f.severity === 'blocker').length ?? 0,
)

const slug = useOpenedSite()
watch(slug, () => (chosen.walk = null), { immediate: true })
// Once everything else has come to rest: controls that most sheets have, and at a desk what somebody will look up.
const stopWaiting = watch(
  () => analysis.analysis,
  async (there) => {
    if (!there) return
    await new Promise((done) => setTimeout(done, 1500))
    stopWaiting()
    void import('~/ui/usual-controls')
    if (session.edits) void passphrases.read()
    if (innerWidth >= 900) void loadPalette()
  },
)
const warn = (event: BeforeUnloadEvent) => {
  if (plan.state !== 'saved') event.preventDefault()
}
useEventListener('beforeunload', warn)
onBeforeUnmount(() => void plan.flush())
const { mobile } = useDisplay()
const isFolded = computed(() => preferences.folded && !mobile.value)
/** On a telephone a drawer is drawn when it is opened for the first time. */
const opened = reactive({ stages: false, lookout: false })
watchEffect(() => {
  for (const drawer of ['stages', 'lookout'] as const)
    opened[drawer] ||= !mobile.value || preferences.drawer === drawer
})
function close(drawer: 'stages' | 'lookout'): void {
  if (mobile.value && preferences.drawer === drawer) preferences.drawer = 'none'
}
const main = useTemplateRef<{ $el: HTMLElement }>('main')
const { arrive } = usePointer()
watch(
  () => route.path,
  (path) => {
    preferences.drawer = 'none'
    main.value?.$el.querySelector('.v-main__scroller')?.scrollTo(0, 0)
    arrive(path)
  },
  { flush: 'sync' },
)
await until(() => plan.loading === 'yes').toBe(false, { timeout: WAITED_MS })
</script>

<template>
  <VLayout class="frame" full-height>
    <a class="skip" href="#sheet" @click.prevent="main?.$el.focus()">Skip to the sheet</a>
    <AppHeader class="no-print" />
    <VNavigationDrawer
      tag="div"
      class="no-print"
      :model-value="!mobile || preferences.drawer === 'stages'"
      :location="mobile ? 'bottom' : 'left'"
      :permanent="!mobile"
      :temporary="mobile"
      :width="mobile ? 540 : 208"
      @update:model-value="(open) => (open ? null : close('stages'))"
    >
      <StageNav v-if="opened.stages" :stages="stages" :slug="slug" :sheet="sheet" />
    </VNavigationDrawer>
    <VNavigationDrawer
      tag="div"
      class="no-print lookout-drawer"
      :model-value="!mobile || preferences.drawer === 'lookout'"
      location="right"
      :permanent="!mobile"
      :temporary="mobile"
      :rail="isFolded"
      rail-width="44"
      width="300"
      @update:model-value="(open) => (open ? null : close('lookout'))"
    >
      <VBtn
        v-if="!mobile"
        class="fold"
        variant="text"
        :icon="isFolded ? mdiChevronLeft : mdiChevronRight"
        :aria-label="isFolded ? 'Open the Lookout' : 'Fold the Lookout'"
        :aria-expanded="!isFolded"
        @click="preferences.folded = !preferences.folded"
      />
      <p v-if="isFolded" class="upright">Lookout{{ blockers > 0 ? `, ${blockers} blocking` : '' }}</p>
      <FindingsPanel v-else-if="opened.lookout" :sheet="sheet" />
    </VNavigationDrawer>
    <VMain id="sheet" ref="main" scrollable tabindex="-1">
      <WorkNotices />
      <ReadingNotice v-if="plan.loading === 'yes'" class="reading" words="Reading the plan" />
      <NuxtPage v-if="plan.draft" />
    </VMain>
    <VBottomNavigation v-if="mobile" class="no-print" tag="nav" aria-label="Where you are" height="60">
      <VBtn
        class="where"
        :aria-expanded="preferences.drawer === 'stages'"
        @click="preferences.drawer = preferences.drawer === 'stages' ? 'none' : 'stages'"
      >
        <StatusFlag v-if="current" :state="current.flag" />
        <span class="stage"
          ><b>{{ current?.name ?? 'Stages' }}</b
          ><br /><span class="small soft">{{ current?.line ?? 'choose a stage' }}</span></span
        >
        <VIcon :icon="preferences.drawer === 'stages' ? mdiChevronDown : mdiChevronUp" />
        {{ preferences.drawer === 'stages' ? 'Close' : 'All stages' }}
      </VBtn>
    </VBottomNavigation>
    <ScenarioDialog v-if="preferences.dialog === 'weather'" />
    <CommandPalette v-if="preferences.dialog === 'find'" />
    <HelpDialog v-if="preferences.dialog === 'help'" :sheet="sheet" />
    <ConflictDialog v-if="plan.conflict" />
    <StepNotice v-if="hasStepped" :step="newestStep" />
  </VLayout>
</template>

<style scoped>
.skip {
  position: absolute;
  z-index: 3000;
  left: 8px;
  top: -60px;
  padding: 6px 12px;
  background: var(--panel);
  border: 2px solid var(--deep);
}
.skip:focus {
  top: 6px;
}
.frame :deep(.v-navigation-drawer--left) {
  border-right: 1px solid var(--ink);
  background: var(--paper);
}
.frame :deep(.v-navigation-drawer--bottom) {
  border-top: 1px solid var(--ink);
  background: var(--paper);
}
.lookout-drawer {
  border-left: 1px solid var(--ink);
  background: var(--panel);
}
.fold {
  position: absolute;
  right: 2px;
  top: 4px;
  z-index: 1;
}
.lookout-drawer :deep(.lookout header) {
  padding-right: 44px;
}
.upright {
  writing-mode: vertical-rl;
  padding: 44px 12px 0 0;
  font-weight: 700;
}
.reading {
  padding: 12px 18px;
}
.where.v-btn {
  max-width: none;
  padding-inline: 14px;
  flex: 1;
}
.where :deep(.v-btn__content) {
  display: flex;
  flex-direction: row;
  width: 100%;
  gap: 10px;
  font-size: 16px;
}
.stage {
  text-align: left;
  line-height: 20px;
  margin-right: auto;
}
@media print {
  .frame {
    display: block;
    height: auto;
  }
}
</style>
