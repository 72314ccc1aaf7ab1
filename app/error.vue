<script setup lang="ts">
import PlainFrame from '~/shell/PlainFrame.vue'

/** What is shown where there is no page, or where one could not be shown. */
const { error } = defineProps<{
  error: { readonly statusCode?: number | undefined; readonly message: string }
}>()
const isMissing = computed(() => error.statusCode === 404)
// What was in memory may be what the page failed at: it begins anew.
const leave = () => navigateTo('/', { external: true })
</script>

<template>
  <VApp>
    <PlainFrame>
      <div class="told" role="alert">
        <h1>{{ isMissing ? 'There is no such page' : 'This page could not be shown' }}</h1>
        <p v-if="isMissing">The address was mistyped, or the page has another one now.</p>
        <p v-else>
          Nothing that was saved is lost. Load it again; if that does not help, tell whoever runs this Able
          Mast:
          <span class="mono">{{ error.message }}</span>
        </p>
        <VBtn variant="flat" @click="leave">To the sites</VBtn>
      </div>
    </PlainFrame>
  </VApp>
</template>

<style scoped>
.told {
  max-width: 480px;
  display: grid;
  gap: 12px;
  justify-items: start;
}
</style>
