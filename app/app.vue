<script setup lang="ts">
import { useTheme } from 'vuetify'
import { usePreferences } from '~/stores/preferences'

const theme = useTheme()
const preferences = usePreferences()
watch(
  () => preferences.night,
  (on) => theme.change(on ? 'night' : 'day'),
  { immediate: true },
)
</script>

<template>
  <VApp><NuxtPage /></VApp>
</template>
