<script setup lang="ts">
import ConflictDialog from '~/shell/ConflictDialog.vue'
import CommandPalette from '~/shell/CommandPalette.vue'
import AppHeader from '~/shell/AppHeader.vue'
import HelpDialog from '~/shell/HelpDialog.vue'
import FindingsPanel from '~/shell/FindingsPanel.vue'
import WorkNotices from '~/shell/WorkNotices.vue'
import StageNav from '~/shell/StageNav.vue'
import ScenarioDialog from '~/shell/ScenarioDialog.vue'
import StatusFlag from '~/ui/StatusFlag.vue'
import { useChosen } from '~/ui/selection'
import { useKeys } from '~/shell/keys'
import { usePointer } from '~/shell/finding-navigation'
import { useStages } from '~/shell/navigation'
import { useAnalysis } from '~/stores/analysis'
import { usePreferences } from '~/stores/preferences'
import { usePlan } from '~/stores/plan'
import { useSite } from '~/stores/site'

/** The frame around every sheet of a site. */
const route = useRoute()
const plan = usePlan()
const site = useSite()
const preferences = usePreferences()
const analysis = useAnalysis()
const { stages } = useStages()
const chosen = useChosen()
useKeys()

const slug = computed(() => String(route.params['site']))
const sheet = computed(() => route.path.split('/')[3] ?? 'addresses')
const current = computed(() => stages.value.find((s) => s.sheets.some((x) => x.key === sheet.value)))
const blockers = computed(
  () => analysis.analysis?.findings.filter((f) => f.severity === 'blocker').length ?? 0,
)

watch(
  slug,
  async (wanted) => {
    chosen.walk = null
    await plan.open(wanted)
    if (plan.loading === 'no') site.watchSite(wanted)
  },
  { immediate: true },
)
// A person at a desk will look at the Loom: its engine is loaded once everything else has come to rest.
const stopWaiting = watch(
  () => analysis.analysis,
  async (there) => {
    if (!there || innerWidth < 900) return
    await new Promise((done) => setTimeout(done, 1500))
    stopWaiting()
    await (await import('~/features/topology/topology-layout')).warmLayout()
  },
)
const warn = (event: BeforeUnloadEvent) => {
  if (plan.state !== 'saved') event.preventDefault()
}
onMounted(() => addEventListener('beforeunload', warn))
onBeforeUnmount(() => {
  removeEventListener('beforeunload', warn)
  site.leave()
  void plan.flush()
})
const main = useTemplateRef<HTMLElement>('main')
const { arrive } = usePointer()
watch(
  () => route.path,
  (path) => {
    preferences.drawer = 'none'
    main.value?.scrollTo(0, 0)
    arrive(path)
  },
  { flush: 'sync' },
)
</script>

<template>
  <div class="frame" :class="{ folded: preferences.folded }">
    <AppHeader class="no-print" />
    <div class="left no-print" :class="{ shown: preferences.drawer === 'stages' }">
      <StageNav :stages="stages" :slug="slug" :sheet="sheet" />
    </div>
    <main ref="main">
      <WorkNotices />
      <p v-if="plan.loading === 'yes'" class="bar soft">Reading the plan</p>
      <NuxtPage v-if="plan.draft" />
    </main>
    <div class="right no-print" :class="{ shown: preferences.drawer === 'lookout' }">
      <button
        type="button"
        class="fold plain"
        :aria-label="preferences.folded ? 'Open the Lookout' : 'Fold the Lookout'"
        :aria-expanded="!preferences.folded"
        @click="preferences.folded = !preferences.folded"
      >
        <span aria-hidden="true">{{ preferences.folded ? '‹' : '›' }}</span>
        <span v-if="preferences.folded" class="upright"
          >Lookout{{ blockers > 0 ? `, ${blockers} blocking` : '' }}</span
        >
      </button>
      <FindingsPanel v-if="!preferences.folded || preferences.drawer === 'lookout'" :sheet="sheet" />
    </div>
    <nav class="bottom no-print" aria-label="Where you are">
      <button
        type="button"
        class="plain where"
        @click="preferences.drawer = preferences.drawer === 'stages' ? 'none' : 'stages'"
      >
        <StatusFlag v-if="current" :state="current.flag" />
        <span
          ><b>{{ current?.name ?? 'Stages' }}</b
          ><br /><span class="small soft">{{ current?.line ?? 'choose a stage' }}</span></span
        >
        <span class="more">{{ preferences.drawer === 'stages' ? 'Close' : 'All stages' }}</span>
      </button>
    </nav>
    <button
      v-if="preferences.drawer !== 'none'"
      type="button"
      class="shade"
      aria-label="Close"
      @click="preferences.drawer = 'none'"
    />
    <ScenarioDialog v-if="preferences.dialog === 'weather'" />
    <CommandPalette v-if="preferences.dialog === 'find'" />
    <HelpDialog v-if="preferences.dialog === 'help'" :sheet="sheet" />
    <ConflictDialog v-if="plan.conflict" />
  </div>
</template>

<style scoped>
.frame {
  display: grid;
  height: 100vh;
  height: 100dvh;
  grid-template: 48px minmax(0, 1fr) / 208px minmax(0, 1fr) 300px;
}
.frame.folded {
  grid-template-columns: 208px minmax(0, 1fr) 40px;
}
.frame > :first-child {
  grid-column: 1 / -1;
}
.left {
  border-right: 1px solid var(--ink);
  min-height: 0;
}
main {
  overflow: auto;
  min-width: 0;
}
.right {
  border-left: 1px solid var(--ink);
  background: var(--panel);
  position: relative;
  min-height: 0;
}
.fold {
  position: absolute;
  right: 4px;
  top: 8px;
  width: 20px;
  height: 24px;
  text-align: center;
  z-index: 1;
  font-size: 18px;
  color: var(--soft);
}
.right :deep(.lookout header) {
  padding-right: 28px;
}
.folded .fold {
  right: 0;
  top: 0;
  width: 100%;
  height: 100%;
  display: flex;
  flex-direction: column;
  align-items: center;
  padding-top: 10px;
  gap: 10px;
}
.upright {
  writing-mode: vertical-rl;
  font-size: 14px;
  font-weight: 700;
  color: var(--ink);
}
.bar {
  padding: 8px 18px;
  background: var(--trouble);
  border-bottom: 1px solid var(--line);
}
.bottom,
.shade {
  display: none;
}
@media (max-width: 899px) {
  .frame,
  .frame.folded {
    grid-template: auto minmax(0, 1fr) 60px / minmax(0, 1fr);
  }
  .left,
  .right {
    display: none;
    position: fixed;
    z-index: 20;
    background: var(--paper);
  }
  .left.shown {
    display: block;
    left: 0;
    right: 0;
    bottom: 60px;
    max-height: 75vh;
    overflow: auto;
    border-top: 1px solid var(--ink);
    border-right: 0;
  }
  .right.shown {
    display: block;
    right: 0;
    top: 0;
    bottom: 60px;
    width: min(360px, 92vw);
  }
  .fold {
    display: none;
  }
  .shade {
    display: block;
    position: fixed;
    inset: 0;
    z-index: 10;
    background: rgb(30 42 51 / 0.4);
    border: 0;
  }
  .bottom {
    display: block;
    border-top: 1px solid var(--ink);
    background: var(--panel);
    z-index: 21;
  }
  .where {
    width: 100%;
    height: 60px;
    display: flex;
    gap: 10px;
    align-items: center;
    padding: 0 14px;
    line-height: 20px;
  }
  .more {
    margin-left: auto;
    color: var(--deep);
    font-weight: 700;
  }
}
@media print {
  .frame {
    display: block;
    height: auto;
  }
  main {
    overflow: visible;
  }
}
</style>
