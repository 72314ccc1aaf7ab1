<script setup lang="ts">
import QRCode from 'qrcode'
import { cableSchedule, type CableLine } from '#core/cabling'
import { indexPlan } from '#core/queries'
import { usePlan } from '~/stores/plan'
import PaperPage from '~/ui/PaperPage.vue'
import { sentenceOf } from '~/wording/problems'

/** A sheet of labels to print: two for each cable, each with the way to its port's record. */
const route = useRoute()
const plan = usePlan()
const slug = computed(() => String(route.params['site']))
watch(slug, (wanted) => plan.open(wanted), { immediate: true })

interface Label {
  readonly key: string
  readonly line: CableLine
  readonly end: 0 | 1
  readonly qr: string
}
const labels = shallowRef<readonly Label[]>([])
const columns = ref(3)
watch(
  () => plan.saved?.plan,
  async (document) => {
    if (!document) return
    const links = new Map(document.links.map((l) => [l.id, l]))
    const wanted = cableSchedule(indexPlan(document)).flatMap((line) =>
      ([0, 1] as const).map((end) => ({ line, end })),
    )
    labels.value = await Promise.all(
      wanted.map(async ({ line, end }) => {
        const ref = end === 0 ? links.get(line.linkId)?.a : links.get(line.linkId)?.b
        const port = encodeURIComponent(`${ref?.deviceId}/${ref?.portId}`)
        const address = `${location.origin}/sites/${slug.value}/loom?port=${port}`
        const svg = await QRCode.toString(address, { type: 'svg', margin: 0, errorCorrectionLevel: 'M' })
        return {
          key: `${line.linkId} ${end}`,
          line,
          end,
          qr: `data:image/svg+xml;utf8,${encodeURIComponent(svg)}`,
        }
      }),
    )
  },
  { immediate: true },
)
</script>

<template>
  <PaperPage :back="`/sites/${slug}/cables`">
    <template #tools>
      <VSelect label="Columns" v-model="columns" class="narrow" :items="[2, 3, 4]" />
      <span class="soft"
        >{{ labels.length }} labels of revision {{ plan.saved?.revision }}: both ends of each cable. The code
        opens the port's record.</span
      >
    </template>
    <p v-if="plan.loading === 'failed'" role="alert">{{ plan.problems.map(sentenceOf).join('; ') }}</p>
    <div class="labels" :style="{ gridTemplateColumns: `repeat(${columns}, 1fr)` }">
      <article v-for="{ key, line, end, qr } in labels" :key="key">
        <img :src="qr" alt="" width="62" height="62" />
        <div>
          <b class="mono">{{ line.label }}</b><br /><span
            >{{ line.ends[end].device }} <b>{{ line.ends[end].port }}</b></span
          ><br /><span class="small"
            >to {{ line.ends[end === 0 ? 1 : 0].device }} {{ line.ends[end === 0 ? 1 : 0].port }} ·
            {{ line.kind }} {{ line.lengthM }} m</span
          >
        </div>
      </article>
    </div>
  </PaperPage>
</template>

<style scoped>
.narrow {
  width: 64px;
  display: inline-block;
}
.labels {
  display: grid;
  gap: 0;
}
article {
  display: flex;
  gap: 8px;
  align-items: center;
  border: 1px dashed var(--line);
  padding: 6px 8px;
  min-height: 76px;
  break-inside: avoid;
  line-height: 16px;
  font-size: 13px;
  overflow: hidden;
}
.small {
  font-size: 11px;
  line-height: 14px;
}
img {
  flex: none;
  background: #fff;
  padding: 2px;
}
@media print {
  article {
    border-color: #999;
  }
}
</style>
