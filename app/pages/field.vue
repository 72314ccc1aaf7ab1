<script setup lang="ts">
import { lastFieldSite } from '~/stores/field-site'

/** Where the installed application opens: at the cards of the site that was worked on last. */
definePageMeta({
  middleware: () => {
    const slug = lastFieldSite().value
    if (slug) return navigateTo(`/sites/${encodeURIComponent(slug)}/field-cards`, { replace: true })
  },
})
</script>

<template>
  <main class="sheet">
    <h1>Field cards</h1>
    <p>No site’s cards were opened on this device yet: open them once while there is a network.</p>
    <p><NuxtLink to="/">Sites</NuxtLink></p>
  </main>
</template>
