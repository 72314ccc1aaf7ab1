<script setup lang="ts">
import { useIntervalFn, useUserMedia } from '@vueuse/core'
import { BarcodeDetector, prepareZXingModule } from 'barcode-detector/ponyfill'
import wasm from 'zxing-wasm/reader/zxing_reader.wasm?url'
import { problem } from '#core/util'
import AppDialog from './AppDialog.vue'
import { reasonOf } from '~/wording/problems'

/** Reads a bar or matrix code with the camera: the first that is what is wanted, or one that is chosen. */
const { title, judge } = defineProps<{
  title: string
  /** Why a code's text is not what is wanted; empty where it is. */
  judge: (text: string) => string
}>()
const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ read: [text: string] }>()

prepareZXingModule({ overrides: { locateFile: () => wasm } })
/** What is printed on labels of equipment: linear codes and matrix codes of ISO/IEC. */
const FORMATS = ['code_128', 'code_39', 'ean_13', 'qr_code', 'data_matrix'] as const
const detector = new BarcodeDetector({ formats: [...FORMATS] })
/** Pause between two looks at the picture. */
const LOOK_MS = 250
/** Longest text of a code that is taken. */
const MOST_LETTERS = 200

const video = useTemplateRef<HTMLVideoElement>('video')
const constraints = { video: { facingMode: 'environment' }, audio: false } as const
const { stream, start, stop, isSupported } = useUserMedia({ constraints })
/** Why nothing can be scanned; a code of the words. */
const trouble = ref<'no-camera' | 'no-scanner' | null>(null)
/** Codes that were read and are not what is wanted, with the reason. */
const others = ref(new Map<string, string>())

function take(text: string): void {
  open.value = false
  emit('read', text)
}

let isLooking = false
async function look(): Promise<void> {
  const picture = video.value
  if (!picture || picture.readyState < HTMLMediaElement.HAVE_CURRENT_DATA || isLooking) return
  isLooking = true
  const codes = await detector.detect(picture).catch(() => {
    trouble.value = 'no-scanner'
    return []
  })
  isLooking = false
  for (const { rawValue } of codes) {
    const text = rawValue.trim().slice(0, MOST_LETTERS)
    const why = judge(text)
    if (open.value && why === '') return take(text)
    others.value.set(text, why)
  }
}
const looking = useIntervalFn(look, LOOK_MS, { immediate: false })

watch(
  open,
  async (isOpen) => {
    others.value = new Map()
    trouble.value = null
    if (!isOpen) {
      looking.pause()
      stop()
      return
    }
    if (!isSupported.value) {
      trouble.value = 'no-camera'
      return
    }
    await start().catch(() => (trouble.value = 'no-camera'))
    looking.resume()
  },
  { immediate: true },
)
watchEffect(() => {
  if (video.value) video.value.srcObject = stream.value ?? null
})
onBeforeUnmount(stop)
</script>

<template>
  <AppDialog v-model="open" :title="title" :width="480">
    <p v-if="trouble" class="wrong-words" role="alert">{{ reasonOf(problem(trouble, '')) }}.</p>
    <template v-else>
      <video ref="video" autoplay muted playsinline aria-label="What the camera sees" />
      <p class="small soft" role="status">Hold the label so that its code fills half of the picture.</p>
    </template>
    <ul v-if="others.size > 0" class="others">
      <li v-for="[text, why] in others" :key="text">{{ why }}</li>
    </ul>
    <template #actions>
      <VBtn @click="open = false">Cancel</VBtn>
    </template>
  </AppDialog>
</template>

<style scoped>
video {
  width: 100%;
  max-height: 55vh;
  background: var(--ink);
}
.others {
  padding-left: 18px;
  overflow-wrap: anywhere;
}
</style>
