<script setup lang="ts">
import { useSession } from '~/stores/session'

const route = useRoute()
const session = useSession()
await navigateTo(
  `/sites/${String(route.params['site'])}/${session.landingAt(String(route.params['site']))}`,
  { replace: true },
)
</script>

<template><div /></template>
