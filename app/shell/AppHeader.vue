<script setup lang="ts">
import {
  mdiAccountOutline,
  mdiMagnify,
  mdiTelescope,
  mdiWeatherLightningRainy,
  mdiWeatherPartlyCloudy,
} from '@mdi/js'
import { useDisplay } from 'vuetify'
import { useAnalysis } from '~/stores/analysis'
import { useOutbox } from '~/stores/outbox'
import { usePreferences } from '~/stores/preferences'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import { useSite } from '~/stores/site'
import { conditionWords, namesIn } from '~/wording/names'
import { count } from '~/wording/findings'
import { shortWords } from '~/wording/waiting'

/** The headline: which site and revision, the failure scenario, find, who. */
const plan = usePlan()
const analysis = useAnalysis()
const session = useSession()
const site = useSite()
const outbox = useOutbox()
const preferences = usePreferences()
const { mobile, lgAndUp } = useDisplay()

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

/** Fetched when it is first opened. */
const AccountMenu = defineAsyncComponent(() => import('./AccountMenu.vue'))
</script>

<template>
  <VAppBar tag="header" class="head" :height="mobile ? 108 : 48" flat>
    <NuxtLink class="brand" to="/">Able Mast</NuxtLink>
    <span class="site">
      <b>{{ plan.draft?.site.name }}</b>
      <NuxtLink
        v-if="plan.saved"
        class="mono rev"
        :class="plan.state"
        :to="`/sites/${plan.slug}/revisions`"
        aria-live="polite"
        >rev {{ plan.saved.revision }}, {{ STATE[plan.state]
        }}{{ shortWords(site.isSilent, outbox.waiting.length) }}</NuxtLink
      >
    </span>
    <VBtn
      class="weather"
      variant="outlined"
      size="small"
      :class="{ bad: analysis.scenario.length > 0 }"
      :prepend-icon="analysis.scenario.length > 0 ? mdiWeatherLightningRainy : mdiWeatherPartlyCloudy"
      aria-haspopup="dialog"
      @click="preferences.dialog = 'weather'"
    >
      <span>Weather</span><b class="scenario">{{ scenarioWords }}</b>
    </VBtn>
    <VBtn
      class="find"
      variant="outlined"
      size="small"
      :prepend-icon="mdiMagnify"
      aria-haspopup="dialog"
      @click="preferences.dialog = 'find'"
    >
      Find or do <kbd v-if="lgAndUp" class="mono soft">Ctrl K</kbd>
    </VBtn>
    <VBtn
      v-if="mobile"
      class="lookout"
      variant="outlined"
      size="small"
      :prepend-icon="mdiTelescope"
      @click="preferences.drawer = 'lookout'"
    >
      Lookout <span v-if="findings > 0" class="found">{{ count(findings, 'finding') }}</span>
    </VBtn>
    <VMenu location="bottom end">
      <template #activator="{ props: open }"
        ><VBtn class="who" variant="text" size="small" :prepend-icon="mdiAccountOutline" v-bind="open">{{
          session.me?.name
        }}</VBtn></template
      >
      <AccountMenu />
    </VMenu>
  </VAppBar>
</template>

<style scoped>
.head {
  background: var(--paper);
  color: var(--ink);
  border-bottom: 1px solid var(--ink);
}
.head :deep(.v-toolbar__content) {
  gap: 12px;
  padding: 0 12px 0 16px;
}
.brand {
  width: 180px;
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
  flex: none;
  max-width: 320px;
}
.scenario {
  margin-left: 8px;
  overflow: hidden;
  text-overflow: ellipsis;
}
.weather span {
  font-weight: 400;
}
.weather.bad {
  background: var(--trouble);
}
kbd {
  margin-left: 12px;
  font-weight: 400;
}
.found {
  margin-left: 6px;
  font-weight: 400;
}
@media (max-width: 899px) {
  .head :deep(.v-toolbar__content) {
    flex-wrap: wrap;
    align-content: center;
    padding: 0 12px;
    gap: 6px 8px;
  }
  .brand,
  .find {
    display: none;
  }
  .site {
    flex: 1 1 50%;
    white-space: normal;
  }
  .rev {
    margin-left: 0;
    display: block;
  }
  .who {
    order: 1;
  }
  .weather {
    order: 2;
    flex: 1 1 40%;
    min-width: 0;
  }
  .lookout {
    order: 3;
    flex: none;
  }
}
</style>
