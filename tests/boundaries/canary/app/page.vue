<script setup lang="ts">
import { service } from '#server/services/service'
</script>
<template>
  <p>{{ service }}</p>
</template>
