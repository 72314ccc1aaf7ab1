<script setup lang="ts">
import { mdiMagnify } from '@mdi/js'
import { atInstant, conditionText, down, scheduleInstants, upstreamDown, type Condition } from '#core/queries'
import { useAnalysis } from '~/stores/analysis'
import { usePreferences } from '~/stores/preferences'
import { usePlan } from '~/stores/plan'
import { namesIn } from '~/wording/names'
import { useFocusReturn } from '~/ui/focus-return'

/** Choosing the failure scenario: all well, or one thing that fails; several with the box ticked. */
const plan = usePlan()
const analysis = useAnalysis()
const preferences = usePreferences()
useFocusReturn(computed(() => preferences.dialog === 'weather'))
const sought = ref('')
const several = ref(false)

const things = computed(() => {
  const { draft } = plan
  if (!draft) return []
  const names = namesIn(draft)
  const named = (condition: Condition) => ({ condition, name: names.condition(condition) })
  return [
    {
      kind: 'Another time of the week',
      items: scheduleInstants(draft.schedules)
        .slice(1)
        .map((instant) => named(atInstant(instant.minute))),
    },
    { kind: 'Uplinks', items: draft.uplinks.map((u) => named(down(u.id))) },
    {
      kind: 'Beyond the uplinks: cable and modem well, nothing answers',
      items: draft.uplinks.map((u) => named(upstreamDown(u.id))),
    },
    {
      kind: 'Tunnels',
      items: draft.tunnels.flatMap((tunnel) => [
        named(down(tunnel.id)),
        ...tunnel.peers.map((p) => ({ condition: down(p.id), name: `${tunnel.name}, ${p.name}` })),
      ]),
    },
    {
      kind: 'Devices',
      items: draft.devices
        .filter((d) => d.kind !== 'hosts' && d.kind !== 'cloud')
        .map((d) => named(down(d.id))),
    },
    { kind: 'Cables and radio links', items: draft.links.map((l) => named(down(l.id))) },
  ]
    .map((group) => ({
      ...group,
      items: group.items.filter((i) => i.name.toLowerCase().includes(sought.value.trim().toLowerCase())),
    }))
    .filter((g) => g.items.length > 0)
})

const isSame = (one: Condition, other: Condition) => conditionText(one) === conditionText(other)
const isOn = (condition: Condition) => analysis.scenario.some((other) => isSame(other, condition))
function choose(condition: Condition): void {
  const now = analysis.scenario
  if (several.value) {
    // There is one time at a time.
    analysis.scenario = isOn(condition)
      ? now.filter((other) => !isSame(other, condition))
      : [...now.filter((other) => condition.kind !== 'instant' || other.kind !== 'instant'), condition]
    return
  }
  analysis.scenario = [condition]
  preferences.dialog = 'none'
}
function clear(): void {
  analysis.scenario = []
  preferences.dialog = 'none'
}
</script>

<template>
  <VDialog
    aria-label="Weather"
    :model-value="preferences.dialog === 'weather'"
    width="560"
    @update:model-value="preferences.dialog = 'none'"
  >
    <VCard>
      <VCardTitle tag="h1">Weather</VCardTitle>
      <VCardText class="dialog-text scenario">
        <p class="soft">
          What has failed. Grid, threads and walks follow; the Lookout goes on judging the plan as it is meant
          to run.
        </p>
        <div class="row">
          <VTextField
            v-model="sought"
            type="search"
            label="Device, cable or uplink"
            :append-inner-icon="mdiMagnify"
            autofocus
          />
          <VSwitch v-model="several" label="Several at once" />
          <VBtn variant="flat" @click="clear">All well</VBtn>
        </div>
        <div class="list">
          <section v-for="group in things" :key="group.kind">
            <h2>{{ group.kind }}</h2>
            <VBtn
              v-for="item in group.items"
              :key="conditionText(item.condition)"
              class="item"
              variant="text"
              block
              :aria-pressed="isOn(item.condition)"
              @click="choose(item.condition)"
            >
              {{ item.name
              }}<b v-if="isOn(item.condition)"> {{ item.condition.kind === 'instant' ? 'now' : 'down' }}</b>
            </VBtn>
          </section>
          <p v-if="things.length === 0" class="soft">Nothing of that name.</p>
        </div>
      </VCardText>
    </VCard>
  </VDialog>
</template>

<style scoped>
.row {
  display: flex;
  gap: 10px;
  align-items: center;
}
.tick {
  white-space: nowrap;
  display: flex;
  gap: 6px;
  align-items: center;
}
.list {
  overflow: auto;
  border-top: 1px solid var(--line);
  padding-top: 8px;
}
section {
  margin-bottom: 10px;
}
.item {
  justify-content: start;
  text-decoration: none;
  font-weight: 400;
}
.item[aria-pressed='true'] {
  background: var(--shallow);
}
@media (max-width: 899px) {
  .item {
    min-height: 44px;
  }
}
</style>
