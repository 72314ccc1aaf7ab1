<script setup lang="ts">
import type { Stranger } from '#contracts/api'
import type { DeviceId } from '#core/schema'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import { useSite } from '~/stores/site'
import StatusFlag from '~/ui/StatusFlag.vue'
import { eventWords, timeText, wordsOfState } from '~/wording/adoption'

/** A device that asked and that nobody has claimed: what it says, and for whom it is claimed. */
const { stranger, likely, isFree } = defineProps<{
  stranger: Stranger
  /** Device that it is most likely meant for; empty for none. */
  likely: DeviceId
  isFree: (deviceId: DeviceId) => boolean
  nowMs: number
}>()
const plan = usePlan()
const site = useSite()
const session = useSession()
const words = wordsOfState('unclaimed')
const chosen = ref<DeviceId>()
const device = computed({
  get: () => (chosen.value !== undefined && isFree(chosen.value) ? chosen.value : likely) || null,
  set: (id) => void (chosen.value = id ?? ''),
})
const free = computed(() => (plan.draft?.devices ?? []).filter(({ id }) => isFree(id)))
const busy = ref(false)
async function claim(): Promise<void> {
  busy.value = true
  await site.claim(stranger.serial, device.value ?? '')
  busy.value = false
}
</script>

<template>
  <div class="stranger" role="listitem" :data-stranger="stranger.serial">
    <span
      ><b class="mono">{{ stranger.serial }}</b>
      <span class="soft small">{{ stranger.model }}</span><br /><span class="small"
        >{{ stranger.events.length > 0 ? eventWords(stranger.events.at(-1)!) : 'nothing heard' }}
        <span class="soft">{{ timeText(stranger.events.at(-1)?.atMs ?? 0, nowMs) }}</span></span
      ></span
    >
    <span
      ><StatusFlag state="half" :says="words.state" /> <b>{{ words.state }}</b><br /><span class="small">{{
        words.next
      }}</span></span
    >
    <form v-if="session.works" class="claim" @submit.prevent="claim">
      <VAutocomplete
        v-model="device"
        :label="`Claim ${stranger.serial} for`"
        :items="free"
        item-value="id"
        item-title="name"
        no-data-text="Every managed device of the plan has a serial."
      />
      <VBtn type="submit" variant="flat" :disabled="busy || !device">
        Claim<span class="sr"> {{ stranger.serial }}</span>
      </VBtn>
    </form>
  </div>
</template>

<style scoped>
.stranger {
  display: grid;
  grid-template-columns: minmax(150px, 1fr) minmax(170px, 1.2fr) minmax(260px, 1.2fr);
  gap: 2px 12px;
  padding: 6px 10px;
  align-items: center;
  background: var(--trouble);
  border-bottom: 1px solid var(--hair);
}
.stranger:last-child {
  border-bottom: 0;
}
.claim {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 8px;
  align-items: center;
}
@media (max-width: 899px) {
  .stranger {
    grid-template-columns: 1fr;
    gap: 8px;
    padding: 10px 12px;
  }
}
</style>
