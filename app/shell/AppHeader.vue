<script setup lang="ts">
import { useAnalysis } from '~/stores/analysis'
import { usePreferences } from '~/stores/preferences'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import { conditionWords, namesIn } from '~/wording/reach'
import { count } from '~/wording/findings'

/** The headline: which site and revision, the failure scenario, find, who. */
const plan = usePlan()
const analysis = useAnalysis()
const session = useSession()
const preferences = usePreferences()

const STATE = {
  saved: 'saved',
  unsaved: 'not saved yet',
  saving: 'saving',
  failed: 'not saved yet',
  conflict: 'not saved: two versions',
} as const
const scenarioWords = computed(() => {
  const [first, ...others] = analysis.scenario
  if (!first || !plan.draft) return 'All well'
  return others.length === 0 ? conditionWords(first, namesIn(plan.draft)) : `${others.length + 1} things down`
})
const findings = computed(() => analysis.analysis?.findings.filter((f) => f.severity !== 'note').length ?? 0)

async function leave(): Promise<void> {
  await plan.flush()
  await session.signOut()
  await navigateTo('/sign-in')
}
</script>

<template>
  <header class="head">
    <NuxtLink class="brand" to="/">Able Mast</NuxtLink>
    <span class="site">
      <b>{{ plan.draft?.site.name }}</b>
      <NuxtLink
        v-if="plan.saved"
        class="mono rev"
        :class="plan.state"
        :to="`/sites/${plan.slug}/revisions`"
        aria-live="polite"
        >rev {{ plan.saved.revision }}, {{ STATE[plan.state] }}</NuxtLink
      >
    </span>
    <button
      type="button"
      class="weather"
      :class="{ bad: analysis.scenario.length > 0 }"
      aria-haspopup="dialog"
      @click="preferences.dialog = 'weather'"
    >
      <b>WEATHER</b><span>{{ scenarioWords }}</span>
    </button>
    <button type="button" class="find soft" aria-haspopup="dialog" @click="preferences.dialog = 'find'">
      <span>Find or do</span><span class="mono">Ctrl K</span>
    </button>
    <button type="button" class="press only-narrow" @click="preferences.drawer = 'lookout'">
      Lookout <span v-if="findings > 0">{{ count(findings, 'finding') }}</span>
    </button>
    <VMenu location="bottom end">
      <template #activator="{ props: open }"
        ><button type="button" class="plain who" v-bind="open">{{ session.me?.name }}</button></template
      >
      <VList density="compact">
        <VListItem @click="preferences.night = !preferences.night">{{
          preferences.night ? 'Day' : 'Night watch'
        }}</VListItem>
        <VListItem @click="preferences.dialog = 'help'">Keys and pictures</VListItem>
        <VListItem to="/">Sites</VListItem>
        <VListItem @click="leave">Sign out</VListItem>
      </VList>
    </VMenu>
  </header>
</template>

<style scoped>
.head {
  display: flex;
  align-items: center;
  gap: 14px;
  height: 48px;
  padding: 0 16px;
  border-bottom: 1px solid var(--ink);
}
.brand {
  width: 178px;
  flex: none;
  font-weight: 700;
  font-size: 16px;
  color: var(--ink);
  text-decoration: none;
}
.site {
  margin-right: auto;
  min-width: 0;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.rev {
  margin-left: 8px;
  color: var(--soft);
  text-decoration: none;
}
.rev:hover {
  text-decoration: underline;
}
.rev.failed,
.rev.conflict {
  color: var(--magenta);
  font-weight: 700;
}
.weather {
  display: flex;
  border: 1px solid var(--ink);
  border-radius: 2px;
  background: var(--panel);
  padding: 0;
  cursor: pointer;
  flex: none;
  max-width: 320px;
}
.weather b {
  padding: 4px 10px;
  border-right: 1px solid var(--ink);
  font-size: 13px;
  letter-spacing: 0.4px;
}
.weather span {
  padding: 4px 12px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.weather.bad span {
  background: var(--trouble);
  font-weight: 700;
}
.find {
  display: flex;
  justify-content: space-between;
  width: 200px;
  border: 1px solid var(--line);
  border-radius: 2px;
  background: var(--panel);
  padding: 4px 10px;
  cursor: pointer;
  flex: none;
}
.who {
  flex: none;
  padding: 4px 2px;
  text-decoration: underline dotted;
  text-underline-offset: 3px;
}
.only-narrow {
  display: none;
}
@media (max-width: 1100px) {
  .find {
    width: auto;
  }
  .find .mono {
    display: none;
  }
  .brand {
    width: auto;
  }
}
@media (max-width: 899px) {
  .head {
    height: auto;
    flex-wrap: wrap;
    padding: 8px 12px;
    gap: 8px;
  }
  .brand,
  .find {
    display: none;
  }
  .site {
    flex-basis: 70%;
    flex-grow: 1;
    white-space: normal;
  }
  .rev {
    margin-left: 0;
    display: block;
  }
  .weather {
    order: 3;
    min-height: 44px;
    align-items: center;
    flex: 1;
    max-width: none;
  }
  .only-narrow {
    display: inline-block;
    order: 4;
    flex: none;
    white-space: nowrap;
  }
  .who {
    min-height: 44px;
  }
}
</style>
