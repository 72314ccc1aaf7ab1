<script setup lang="ts">
import { ADDRESS_COLUMNS, addressRows, PORT_COLUMNS, portRows } from '#core/export'
import { expandPairDefaults } from '#core/queries'
import StatusFlag from '~/ui/StatusFlag.vue'
import { useProofLines } from '~/features/proof/proof-lines'
import { useAnalysis } from '~/stores/analysis'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import { useSite } from '~/stores/site'
import { dateText } from '~/wording/adoption'
import { resultWords } from '~/wording/proof'
import { wordsOf } from '~/wording/findings'
import { namesIn } from '~/wording/reach'
import { sentenceOf } from '~/wording/problems'

/** One page to print: what was planned, what was built and what was seen to work. */
const route = useRoute()
const plan = usePlan()
const site = useSite()
const analysis = useAnalysis()
const session = useSession()
const printedAt = Date.now()
const { lines, counts } = useProofLines()
const slug = computed(() => String(route.params['site']))
watch(
  slug,
  async (wanted) => {
    await plan.open(wanted)
    if (plan.loading === 'no') site.watchSite(wanted)
  },
  { immediate: true },
)
onBeforeUnmount(() => site.leave())

const document = computed(() => plan.saved?.plan ?? null)
const names = computed(() => document.value && namesIn(document.value))
const wired = computed(() =>
  document.value
    ? portRows(document.value).filter((r) => r[6] !== '' || (r[3] !== 'off' && r[3] !== 'plain'))
    : [],
)
const servicesOf = (ids: readonly string[]) =>
  ids.length === 0
    ? 'all'
    : ids.map((id) => document.value?.services.find((s) => s.id === id)?.name ?? id).join(', ')
const rules = computed(() =>
  (document.value?.policies ?? []).flatMap((policy) =>
    expandPairDefaults(policy).rules.map((rule, i) => ({
      n: i + 1,
      rule: rule,
      device: names.value?.device(policy.deviceId) ?? '',
    })),
  ),
)
const serials = computed(() =>
  (site.roster?.rows ?? []).map((r) => ({ ...r, name: names.value?.device(r.deviceId) ?? r.deviceId })),
)
const print = () => globalThis.print()
</script>

<template>
  <main class="page">
    <p class="no-print acts">
      <VBtn :to="`/sites/${slug}/hand-over`">Back</VBtn>
      <VBtn variant="flat" @click="print">Print</VBtn>
    </p>
    <p v-if="plan.loading === 'failed'" role="alert">{{ plan.problems.map(sentenceOf).join('; ') }}</p>
    <p v-else-if="!document || !site.proof" class="soft">Reading</p>
    <template v-else>
      <h1>{{ document.site.name }}: as built</h1>
      <p>
        Revision {{ plan.saved?.revision }}, saved by {{ plan.saved?.author }}
        {{ dateText(plan.saved?.savedAt ?? '') }}. Block {{ document.site.supernet }}. {{ counts.proven }} of
        {{ counts.all }} tests proven, {{ counts.failed }} failed,
        {{ counts.all - counts.proven - counts.failed }} not tried. Printed {{ dateText(printedAt) }} by
        {{ session.me?.name }}.
      </p>
      <h2>Address plan</h2>
      <VTable class="ruled">
        <thead>
          <tr>
            <th v-for="c in ADDRESS_COLUMNS" :key="c">{{ c }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in addressRows(document)" :key="row[0]">
            <td v-for="(cell, i) in row" :key="i">{{ cell }}</td>
          </tr>
        </tbody>
      </VTable>
      <h2>Devices under management</h2>
      <VTable class="ruled">
        <thead>
          <tr>
            <th>Device</th>
            <th>Serial</th>
            <th>Claimed by</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in serials" :key="r.deviceId">
            <td>{{ r.name }}</td>
            <td class="mono">{{ r.serial ?? 'none' }}</td>
            <td>{{ r.claimedBy ?? '' }}</td>
          </tr>
        </tbody>
      </VTable>
      <h2>Port map</h2>
      <VTable class="ruled">
        <thead>
          <tr>
            <th v-for="c in PORT_COLUMNS" :key="c">{{ c }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(row, i) in wired" :key="i">
            <td v-for="(cell, k) in row" :key="k">{{ cell }}</td>
          </tr>
        </tbody>
      </VTable>
      <h2>Rules, in order</h2>
      <VTable class="ruled">
        <thead>
          <tr>
            <th class="num">n</th>
            <th>On</th>
            <th>Chain</th>
            <th>Action</th>
            <th>From</th>
            <th>To</th>
            <th>Services</th>
            <th>Why</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="{ n, rule, device } in rules" :key="rule.id">
            <td class="num">{{ n }}</td>
            <td>{{ device }}</td>
            <td>{{ rule.chain }}</td>
            <td>{{ rule.action }}</td>
            <td>{{ names?.selector(rule.from) }}</td>
            <td>{{ names?.selector(rule.to) }}</td>
            <td>{{ servicesOf(rule.services) }}</td>
            <td>{{ rule.note }}</td>
          </tr>
        </tbody>
      </VTable>
      <h2>Proof</h2>
      <VTable class="ruled">
        <thead>
          <tr>
            <th />
            <th>Test</th>
            <th>Must be seen</th>
            <th>Seen</th>
            <th>By, when, from where</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="l in lines" :key="l.test.id">
            <td><StatusFlag :state="l.flag" :says="l.says" /></td>
            <td>{{ l.words.title }}</td>
            <td>{{ l.words.expect }}</td>
            <td>
              <b v-if="l.result && !l.result.passed">{{ resultWords(l.result) }}</b><template v-else>{{
                l.result ? resultWords(l.result) : 'not tried'
              }}</template>
            </td>
            <td>
              {{
                l.result
                  ? `${l.result.who}, ${dateText(l.result.at)}, ${l.result.vantage}, rev ${l.result.revision}`
                  : ''
              }}
            </td>
          </tr>
        </tbody>
      </VTable>
      <h2>Known findings</h2>
      <ul v-if="(analysis.analysis?.findings.length ?? 0) > 0">
        <li v-for="(f, i) in analysis.analysis?.findings" :key="i">
          <b>{{ f.severity }}</b> {{ f.code }} {{ wordsOf(f).title }}: {{ wordsOf(f).what }}
        </li>
      </ul>
      <p v-else>None.</p>
    </template>
  </main>
</template>

<style scoped>
.page {
  height: 100vh;
  overflow: auto;
  padding: 18px 24px 40px;
  background: var(--panel);
}
.acts {
  display: flex;
  gap: 10px;
  margin-bottom: 12px;
}
h2 {
  margin: 18px 0 6px;
}
.ruled td {
  height: auto;
  font-size: 12px;
  line-height: 16px;
  vertical-align: top;
}
ul {
  padding-left: 18px;
  margin: 0;
}
@media print {
  .page {
    height: auto;
    overflow: visible;
    padding: 0;
    background: none;
  }
  .ruled {
    break-inside: auto;
  }
  tr {
    break-inside: avoid;
  }
  h2 {
    break-after: avoid;
  }
}
</style>
