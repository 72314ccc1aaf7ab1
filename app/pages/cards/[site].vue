<script setup lang="ts">
import type { ShownPassphrase } from '#contracts/api'
import { problem, type Problem } from '#core/util'
import { isOpen, joinText } from '#core/wifi'
import { api } from '~/stores/api'
import { usePlan } from '~/stores/plan'
import { codeOf } from '~/ui/qr-code'
import PaperPage from '~/ui/PaperPage.vue'
import ReadingNotice from '~/ui/ReadingNotice.vue'
import { sentenceOf } from '~/wording/problems'

/** A card for guests: the network's name, its passphrase and a code to scan. */
const route = useRoute()
const plan = usePlan()
const slug = computed(() => String(route.params['site']))
const ssidId = computed(() => String(route.query['ssid'] ?? ''))
const passphrase = ref('')
const code = ref('')
const problems = shallowRef<readonly Problem[]>([])
const ssid = computed(() => plan.saved?.plan.ssids.find(({ id }) => id === ssidId.value) ?? null)

async function prepare(): Promise<void> {
  await plan.open(slug.value)
  if (!ssid.value) {
    problems.value = plan.loading === 'failed' ? plan.problems : [problem('no-such-ssid', '')]
    return
  }
  if (isOpen(ssid.value)) {
    code.value = await codeOf(joinText(ssid.value, '') ?? '')
    return
  }
  const answer = await api<ShownPassphrase>('POST', `sites/${slug.value}/passphrases/show`, {
    ssid: ssidId.value,
  })
  problems.value = answer.ok ? [] : answer.refusal.problems
  if (!answer.ok) return
  passphrase.value = answer.value.passphrase
  code.value = await codeOf(answer.value.joinText)
}
onMounted(prepare)
</script>

<template>
  <PaperPage :back="`/sites/${slug}/wifi`" :ready="code !== ''">
    <p v-for="(one, i) in problems" :key="i" role="alert">{{ sentenceOf(one) }}</p>
    <ReadingNotice v-if="problems.length === 0 && code === ''" words="Reading the passphrase" />
    <article v-if="code && ssid" class="card">
      <!-- eslint-disable-next-line vue/no-v-html -- made here from the text beside it -->
      <div class="code" role="img" aria-label="Code by which a telephone joins" v-html="code" />
      <div>
        <h1>Wi-Fi</h1>
        <dl>
          <dt>Network</dt>
          <dd>{{ ssid.name }}</dd>
          <template v-if="passphrase">
            <dt>Passphrase</dt>
            <dd class="mono">{{ passphrase }}</dd>
          </template>
        </dl>
        <p class="small">
          {{
            passphrase
              ? 'Scan the code, or choose the network and type the passphrase.'
              : 'Scan the code, or choose the network.'
          }}
        </p>
        <p class="small">{{ plan.saved?.plan.site.name }}</p>
      </div>
    </article>
  </PaperPage>
</template>

<style scoped>
.card {
  display: grid;
  grid-template-columns: 210px 1fr;
  gap: 24px;
  align-items: center;
  width: 148mm;
  max-width: 100%;
  min-height: 90mm;
  padding: 10mm;
  border: 1px solid var(--line);
}
.code :deep(svg) {
  display: block;
  width: 100%;
  height: auto;
}
dt {
  margin-top: 10px;
  font-size: 13px;
}
dd {
  margin: 0;
  font-size: 20px;
  font-weight: 700;
  overflow-wrap: anywhere;
}
.card p {
  margin-top: 12px;
}
@media (max-width: 599px) {
  .card {
    grid-template-columns: 1fr;
  }
}
</style>
