<script setup lang="ts">
import CopiedValues from './CopiedValues.vue'
import { useKeptPassphrases } from './kept-passphrases'
import { LEAST_PIN, MOST_PIN } from '~/stores/sealed-secrets'
import { dateText } from '~/wording/adoption'
import { reasonOf } from '~/wording/problems'

/** The site's Wi-Fi passphrases for a place without a network, sealed under a PIN, where somebody chooses so. */
const { isPossible, untilMs, secrets, problems, says, isBusy, seal, open, close, drop } = useKeptPassphrases()
const pin = ref('')
const hours = ref(12)
const TIMES = [
  { title: '4 hours', value: 4 },
  { title: '12 hours', value: 12 },
  { title: '3 days', value: 72 },
]
const isLongEnough = computed(() => pin.value.length >= LEAST_PIN)
async function give(): Promise<void> {
  if (!isLongEnough.value || isBusy.value) return
  const isDone = untilMs.value === null ? await seal(pin.value, hours.value) : await open(pin.value)
  if (isDone) pin.value = ''
}
</script>

<template>
  <p v-if="!isPossible" class="small">This browser seals nothing here: it does so over HTTPS alone.</p>
  <template v-else>
    <CopiedValues v-if="secrets" :rows="secrets" />
    <form v-else class="form" @submit.prevent="give">
      <p v-if="untilMs === null" class="small">
        Keep this site’s passphrases on this device, sealed under a PIN, for where there is no network. Asking
        for them is noted. A short PIN keeps out who finds the device, not who copies all that it stores.
      </p>
      <p v-else class="small">Sealed here until {{ dateText(untilMs) }}.</p>
      <VTextField
        v-model="pin"
        type="password"
        label="PIN"
        autocomplete="off"
        :maxlength="MOST_PIN"
        :hint="untilMs === null ? `${LEAST_PIN} characters or more; it is kept nowhere` : ''"
        persistent-hint
      />
      <VSelect v-if="untilMs === null" v-model="hours" label="Dropped after" :items="TIMES" hide-details />
      <VBtn type="submit" size="x-large" :loading="isBusy" :disabled="!isLongEnough">
        {{ untilMs === null ? 'Keep them here' : 'Open' }}
      </VBtn>
    </form>
    <p v-if="problems.length > 0" class="wrong-words small" role="alert">
      {{ problems.map(reasonOf).join('; ') }}
    </p>
    <p class="small" role="status">{{ says }}</p>
    <VBtn v-if="secrets" @click="close">Close</VBtn>
    <VBtn v-if="untilMs !== null" variant="text" @click="drop">Drop them from this device</VBtn>
  </template>
</template>

<style scoped>
.form {
  display: grid;
  gap: 8px;
}
</style>
