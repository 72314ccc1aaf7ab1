<script setup lang="ts">
import { compareVersions, modelNamed } from '#core/queries'
import type { LabDevice } from '#contracts/api'
import { useSite } from '~/stores/site'
import { signWords } from '~/wording/adoption'

/** The lab's shelf: stand-in devices with a power button, which speak to the controller like real ones. */
const site = useSite()
const emit = defineEmits<{ serial: [serial: string] }>()
const old = (d: LabDevice) => compareVersions(d.firmware, modelNamed(d.model)?.minFirmware ?? '0') < 0
const foreign = (d: LabDevice) => d.power !== 'off' && d.sign === 'foreign'
</script>

<template>
  <section aria-label="Lab shelf">
    <h2>Lab shelf</h2>
    <p class="small soft">
      Simulated devices, plugged in where the plan says. They use the same HTTP interface as real ones, with
      time running faster.
    </p>
    <ul>
      <li v-for="d in site.lab ?? []" :key="d.serial">
        <div class="what">
          <b>{{ d.label }}</b>
          <span class="soft small"
            >{{ d.model }}, firmware {{ d.firmware }}, {{ d.factory ? 'factory state' : 'configured' }}</span
          ><br />
          <span class="small"
            >Labels:
            <VBtn class="mono" variant="text" @click="emit('serial', d.serial)">
              {{ d.serial }}
            </VBtn>
            product,
            <VBtn class="mono" variant="text" @click="emit('serial', d.boardSerial)">
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
    <p v-if="site.lab?.length === 0" class="soft">This site has no shelf in the lab.</p>
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
