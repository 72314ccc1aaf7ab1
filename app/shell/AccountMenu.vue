<script setup lang="ts">
import {
  mdiAccountOutline,
  mdiKeyboardOutline,
  mdiLogout,
  mdiMapMarkerMultipleOutline,
  mdiWeatherNight,
  mdiWhiteBalanceSunny,
} from '@mdi/js'
import { usePlan } from '~/stores/plan'
import { usePreferences } from '~/stores/preferences'
import { useSession } from '~/stores/session'

/** What stands behind a person's name: the light they work by, help, the way home and out. */
const plan = usePlan()
const session = useSession()
const preferences = usePreferences()

async function leave(): Promise<void> {
  await plan.flush()
  await session.signOut()
}
</script>

<template>
  <VList density="compact">
    <VListItem
      :prepend-icon="preferences.night ? mdiWhiteBalanceSunny : mdiWeatherNight"
      @click="preferences.night = !preferences.night"
      >{{ preferences.night ? 'Day' : 'Night watch' }}</VListItem
    >
    <VListItem :prepend-icon="mdiKeyboardOutline" @click="preferences.dialog = 'help'"
      >Keys and pictures</VListItem
    >
    <VListItem :prepend-icon="mdiMapMarkerMultipleOutline" to="/">Sites</VListItem>
    <VListItem :prepend-icon="mdiAccountOutline" to="/account">Your account</VListItem>
    <VListItem :prepend-icon="mdiLogout" @click="leave">Sign out</VListItem>
  </VList>
</template>
