<script setup lang="ts">
import { compareVersions, modelNamed } from '#core/queries'
import { isManaged } from '#core/adopt'
import { uplinkPeers } from '#core/simulator'
import type { LabDevice } from '#contracts/api'
import type { DeviceId } from '#core/schema'
import { usePlan } from '~/stores/plan'
import { useSite } from '~/stores/site'
import { count } from '~/wording/findings'
import { signWords } from '~/wording/adoption'

/** The lab's shelf: stand-in devices with a power button, which speak to the controller like real ones. */
const site = useSite()
const plan = usePlan()
const emit = defineEmits<{ serial: [serial: string, deviceId: DeviceId] }>()
const old = (d: LabDevice) => compareVersions(d.firmware, modelNamed(d.model)?.minFirmware ?? '0') < 0
const foreign = (d: LabDevice) => d.power !== 'off' && d.sign === 'foreign'
/** Devices that could be tried here and have neither a serial nor a stand-in. */
const missing = computed(() => {
  const there = [...(site.lab ?? []), ...(site.roster?.rows ?? []).filter((row) => row.serial !== null)]
  const known = new Set(there.map(({ deviceId }) => deviceId))
  const peers = plan.index && uplinkPeers(plan.index)
  return (plan.draft?.devices ?? []).filter(
    (device) => isManaged(device) && !known.has(device.id) && peers?.has(device.id),
  )
})
const sleeping = computed(() => (site.lab ?? []).filter((device) => device.power === 'off'))
async function fill(): Promise<void> {
  await plan.flush()
  await site.fillShelf()
}
async function powerAll(): Promise<void> {
  for (const { serial } of sleeping.value) await site.power(serial, 'power-on')
}
</script>

<template>
  <section aria-label="Lab shelf">
    <h2>Lab shelf</h2>
    <p class="small soft">
      Simulated devices, plugged in where the plan says. They use the same HTTP interface as real ones, with
      time running faster.
    </p>
    <p v-if="missing.length > 0 || sleeping.length > 1" class="choices">
      <VBtn v-if="missing.length > 0" @click="fill">Simulate {{ count(missing.length, 'device') }}</VBtn>
      <VBtn v-if="sleeping.length > 1" @click="powerAll">Power on all {{ sleeping.length }}</VBtn>
    </p>
    <ul v-if="site.lab && site.lab.length > 0">
      <li v-for="d in site.lab ?? []" :key="d.serial">
        <div class="what">
          <b>{{ d.label }}</b>{{ ' '
          }}<span class="soft small"
            >{{ d.model }}, firmware {{ d.firmware }}, {{ d.factory ? 'factory state' : 'configured' }}</span
          ><br />
          <span class="small"
            >Labels:
            <VBtn class="mono" variant="text" @click="emit('serial', d.serial, d.deviceId)">
              {{ d.serial }}
            </VBtn>
            product,
            <VBtn class="mono" variant="text" @click="emit('serial', d.boardSerial, d.deviceId)">
              {{ d.boardSerial }}
            </VBtn>
            board</span
          ><br />
          <span class="small word" aria-live="polite">{{
            d.power === 'off' ? 'off' : signWords(d.sign)
          }}</span>
        </div>
        <div class="acts">
          <VBtn @click="site.power(d.serial, 'power-on')">
            {{ d.power === 'off' ? 'Power on' : 'Power off and on' }}<span class="sr"> {{ d.label }}</span>
          </VBtn>
          <VBtn v-if="foreign(d)" @click="site.power(d.serial, 'reset')"> Reset to factory </VBtn>
          <VBtn v-if="old(d)" @click="site.power(d.serial, 'update')"> Update by hand </VBtn>
        </div>
      </li>
    </ul>
    <p v-else-if="site.lab && missing.length === 0" class="soft">
      Nothing to simulate: no managed device without a serial hangs on the gateway by a cable.
    </p>
  </section>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
  border: 1px solid var(--line);
  background: var(--panel);
}
li {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  padding: 8px 12px;
  border-bottom: 1px solid var(--hair);
  align-items: center;
}
li:last-child {
  border-bottom: 0;
}
.choices {
  display: flex;
  gap: 8px;
  margin-top: 8px;
}
.word {
  font-weight: 700;
}
.acts {
  display: flex;
  flex-direction: column;
  gap: 6px;
  flex: none;
}
@media (max-width: 899px) {
  li {
    flex-direction: column;
    align-items: stretch;
  }
}
</style>
