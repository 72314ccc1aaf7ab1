<script setup lang="ts">
const route = useRoute()
await navigateTo(`/sites/${String(route.params['site'])}/addresses`, { replace: true })
</script>

<template><div /></template>
