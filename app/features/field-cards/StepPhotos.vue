<script setup lang="ts">
import { mdiCameraOutline } from '@mdi/js'
import { useFileDialog } from '@vueuse/core'
import { MOST_PHOTO_BYTES } from '#contracts/limits'
import { problem } from '#core/util'
import { useSession } from '~/stores/session'
import { useSite } from '~/stores/site'
import { dateText } from '~/wording/adoption'

/** Photographs of a step, as evidence: scaled down here, and kept without what the camera wrote beside them. */
const { activityId, title } = defineProps<{ activityId: string; title: string }>()
const site = useSite()
const session = useSession()
const photos = computed(() => site.photos.filter((photo) => photo.activityId === activityId))
const { open, onChange } = useFileDialog({
  accept: 'image/*',
  capture: 'environment',
  multiple: false,
  reset: true,
})
const isMaking = ref(false)
onChange(async (files) => {
  const [file] = files ?? []
  if (!file) return
  const about = activityId
  isMaking.value = true
  const { scaledJpeg } = await import('~/ui/scaled-jpeg')
  const jpeg = await scaledJpeg(file, MOST_PHOTO_BYTES)
  isMaking.value = false
  if (jpeg === null) site.problems = [problem('no-picture', '')]
  else await site.addPhoto(about, jpeg)
})
const mayDrop = (who: string) => session.edits || who === session.me?.name
</script>

<template>
  <ul v-if="photos.length > 0" class="photos">
    <li v-for="(photo, i) in photos" :key="photo.id">
      <img :src="photo.source" :alt="`${title}, photograph ${i + 1}`" loading="lazy" />
      <span class="small">
        {{ photo.who }}, {{ dateText(photo.at) }}{{ photo.isWaiting ? ', not sent yet' : '' }}
      </span>
      <VBtn
        v-if="!photo.isWaiting && mayDrop(photo.who)"
        variant="text"
        :aria-label="`Remove photograph ${i + 1}`"
        @click="site.dropPhoto(photo.id)"
        >Remove</VBtn
      >
    </li>
  </ul>
  <VBtn
    v-if="session.works"
    class="take"
    size="x-large"
    :prepend-icon="mdiCameraOutline"
    :loading="isMaking"
    @click="open()"
  >
    Photograph
  </VBtn>
</template>

<style scoped>
.photos {
  list-style: none;
  margin: 8px 0;
  padding: 0;
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
}
.take {
  margin-top: 8px;
  width: calc(50% - 4px);
}
.photos li {
  display: grid;
  justify-items: start;
}
img {
  width: 100%;
  aspect-ratio: 4 / 3;
  object-fit: cover;
  border: 1px solid var(--line);
}
</style>
