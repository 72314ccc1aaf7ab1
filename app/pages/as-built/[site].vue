<script setup lang="ts">
import { portRows } from '#core/export'
import OpenFindings from '~/features/handover/OpenFindings.vue'
import PaperTable from '~/features/handover/PaperTable.vue'
import { newestRecords } from '~/features/field-cards/steps'
import { asBuiltSections } from '~/features/handover/words'
import StatusFlag from '~/ui/StatusFlag.vue'
import { useProofLines } from '~/features/proof/proof-lines'
import { useOpenedSite } from '~/stores/opened-site'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import { useSite } from '~/stores/site'
import { titleOfId } from '~/wording/activities'
import { dateText } from '~/wording/adoption'
import { resultWords } from '~/wording/proof'
import { sentenceOf } from '~/wording/problems'
import PaperPage from '~/ui/PaperPage.vue'
import ReadingNotice from '~/ui/ReadingNotice.vue'

/** One page to print: what was planned, what was built and what was seen to work. */
const plan = usePlan()
const site = useSite()
const session = useSession()
const printedAt = Date.now()
const { lines, counts } = useProofLines()
const slug = useOpenedSite()

const document = computed(() => plan.saved?.plan ?? null)
const wired = computed(() =>
  document.value
    ? portRows(document.value).filter((r) => r[6] !== '' || (r[3] !== 'off' && r[3] !== 'plain'))
    : [],
)
const timeOf = (at: string | undefined) => (at === undefined ? Infinity : Date.parse(at))
const inOrder = computed(() =>
  lines.value.toSorted((one, other) => timeOf(one.result?.at) - timeOf(other.result?.at)),
)
const sections = computed(() => {
  const shown = document.value
  const steps = [...newestRecords(site.steps).values()]
  return shown ? asBuiltSections(shown, { ports: wired.value, boxes: site.roster?.rows ?? [], steps }) : []
})
const titleOf = (id: string) => (document.value ? titleOfId(document.value, id) : '')
</script>

<template>
  <PaperPage :back="`/sites/${slug}/hand-over`">
    <p v-if="plan.loading === 'failed'" role="alert">{{ plan.problems.map(sentenceOf).join('; ') }}</p>
    <ReadingNotice v-else-if="!document || !site.proof" words="Reading the papers" />
    <template v-else>
      <h1>{{ document.site.name }}: as built</h1>
      <p>
        Revision {{ plan.saved?.revision }}, saved by {{ plan.saved?.author }}
        {{ dateText(plan.saved?.savedAt ?? '') }}. Block {{ document.site.supernet }}. {{ counts.proven }} of
        {{ counts.all }} tests proven, {{ counts.failed }} failed,
        {{ counts.all - counts.proven - counts.failed }} not tried. Printed {{ dateText(printedAt) }} by
        {{ session.me?.name }}.
      </p>
      <PaperTable v-for="section in sections" :key="section.title" v-bind="section" />
      <h2>Run of the tests, in the order in which they were tried</h2>
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
          <tr v-for="l in inOrder" :key="l.test.id">
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
      <OpenFindings paper />
      <template v-if="site.photos.length > 0">
        <h2>Photographs</h2>
        <ul class="photos">
          <li v-for="photo in site.photos" :key="photo.id">
            <img :src="photo.source" :alt="titleOf(photo.activityId)" />
            {{ titleOf(photo.activityId) }}<br /><span class="soft"
              >{{ photo.who }}, {{ dateText(photo.at) }}</span
            >
          </li>
        </ul>
      </template>
    </template>
  </PaperPage>
</template>

<style scoped>
.page :deep(h2) {
  margin: 18px 0 6px;
}
.page :deep(.ruled td) {
  height: auto;
  font-size: 12px;
  line-height: 16px;
  vertical-align: top;
}
ul {
  padding-left: 18px;
  margin: 0;
}
.photos {
  padding: 0;
  list-style: none;
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 10px;
  font-size: 12px;
  line-height: 16px;
}
.photos li {
  break-inside: avoid;
}
.photos img {
  display: block;
  width: 100%;
}
@media print {
  .page :deep(.ruled) {
    break-inside: auto;
  }
  .page :deep(tr) {
    break-inside: avoid;
  }
  .page :deep(h2) {
    break-after: avoid;
  }
}
</style>
