<script setup lang="ts">
import { fitProbe } from '#core/failover'
import type { Uplink } from '#core/schema'
import { rateWords } from './words'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import { count } from '~/wording/findings'

/** What the site wishes for, and the settings of a line's probe that keep it. */
const props = defineProps<{ uplink: Uplink; backup: Uplink }>()
const plan = usePlan()
const session = useSession()
const wish = computed(() => ({
  outageS: plan.draft?.site.mostOutageS ?? null,
  alarms: plan.draft?.site.mostFalseAlarms ?? null,
}))
const fit = computed(() => {
  const { uplink, backup } = props
  if (!uplink.probe || (wish.value.outageS === null && wish.value.alarms === null)) return null
  return fitProbe(uplink.probe, backup, uplink.lossPct, {
    outageS: wish.value.outageS ?? 86_400,
    alarms: wish.value.alarms ?? Number.POSITIVE_INFINITY,
  })
})
function setWish(key: 'mostOutageS' | 'mostFalseAlarms', event: Event): void {
  const text = (event.target as HTMLInputElement).value.trim()
  const value = text === '' ? null : Number(text)
  if (value === null || (Number.isFinite(value) && value >= 0 && value <= 86_400))
    plan.edit(
      key === 'mostOutageS' ? 'longest outage wished' : 'false alarms wished',
      `wish ${key}`,
      (draft) => void (draft.site[key] = value),
    )
}
function setTold(event: Event): void {
  const text = (event.target as HTMLInputElement).value.trim().slice(0, 80)
  plan.edit(
    text === '' ? 'nobody told when an uplink fails' : `told when an uplink fails: ${text}`,
    'told',
    (draft) => void (draft.site.toldTo = text),
  )
}
function useFit(): void {
  const fits = fit.value?.fits
  const { id, name } = props.uplink
  if (fits)
    plan.edit(`${name}: probe every ${fits.everyS} s, ${fits.misses} misses`, '', (draft) => {
      const probe = draft.uplinks.find((u) => u.id === id)?.probe
      if (probe) Object.assign(probe, { everyS: fits.everyS, timeoutS: fits.timeoutS, misses: fits.misses })
    })
}
</script>

<template>
  <div class="wish small">
    <VTextField
      class="mono"
      label="Longest outage, s"
      :model-value="wish.outageS ?? ''"
      :readonly="!session.edits"
      inputmode="numeric"
      @change="setWish('mostOutageS', $event)"
    />
    <VTextField
      class="mono"
      label="Most false alarms a year"
      :model-value="wish.alarms ?? ''"
      :readonly="!session.edits"
      inputmode="numeric"
      @change="setWish('mostFalseAlarms', $event)"
    />
    <VTextField
      class="told"
      label="Who is told when an uplink fails"
      :model-value="plan.draft?.site.toldTo"
      :readonly="!session.edits"
      placeholder="nobody"
      @change="setTold"
    />
    <span v-if="fit?.fits"
      >: every {{ fit.fits.everyS }} s, {{ count(fit.fits.misses, 'miss', 'misses') }} keeps both.
      <VBtn v-if="session.edits" @click="useFit">Use it</VBtn></span
    >
    <span v-else-if="fit" class="wrong-words"
      >no usual setting keeps both{{
        fit.best
          ? `; the quietest in time has ${rateWords(fit.best.alarms)}`
          : ': the other uplink itself takes longer'
      }}.</span
    >
  </div>
</template>

<style scoped>
.wish > .v-input {
  flex: 0 1 200px;
}
.row .tools,
.wish {
  display: flex;
  gap: 8px;
  align-items: center;
  flex-wrap: wrap;
}
.wish {
  margin-top: 4px;
}
</style>
