<script setup lang="ts">
import { specOf } from '#core/queries'
import type { Model } from '#core/schema'
import { isOnMains, ownDrawW, powerOf, runTimeMin, SUPPLY_EFFICIENCY, yearlyKwh } from '#core/power'
import FeedTable from './FeedTable.vue'
import { useRoomForMore } from './room-for-more'
import { powerFields, type PutSite } from './site-fields'
import { runTimeWords, wattsText } from './words'
import TypedFields from '~/ui/TypedFields.vue'
import UndoRedo from '~/ui/UndoRedo.vue'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import { namesIn } from '~/wording/names'

/** Who feeds whom, how much is left, how long the battery lasts and what a year costs. */
const plan = usePlan()
const session = useSession()
const index = computed(() => plan.index)
const power = computed(() => index.value && powerOf(index.value))
const names = computed(() => plan.draft && namesIn(plan.draft))
const site = computed(() => plan.draft?.site)

const titleOf = ({ name, label }: Model) => `${name}, ${label}`
const share = (part: number, whole: number) => `${Math.min(100, (100 * part) / Math.max(whole, 0.001))}%`
const onMains = computed(() =>
  (plan.draft?.devices ?? []).filter(
    (d) => index.value && d.model !== '' && isOnMains(index.value, d) && ownDrawW(index.value, d) > 0,
  ),
)
const { loads, model, roomIn } = useRoomForMore(() => index.value)
const kwh = computed(() => yearlyKwh(power.value?.siteW ?? 0))
const upsMin = computed(() => {
  if (!site.value || !power.value || site.value.upsWh === null) return null
  return runTimeMin(site.value.upsWh, site.value.upsEfficiency, power.value.siteW)
})
const put: PutSite = (words, step, key, value) =>
  plan.edit(words, step, (draft) => void Object.assign(draft.site, { [key]: value }))
const fields = computed(() => (site.value ? powerFields(site.value, put) : []))
const setMains = (id: string, mains: boolean) =>
  plan.edit(`${names.value?.device(id)}: ${mains ? 'own supply' : 'fed over its cable'}`, '', (draft) => {
    const device = draft.devices.find((d) => d.id === id)
    if (device) device.mains = mains
  })
/** What takes power over a cable and could have a supply of its own. */
const takers = computed(() =>
  (plan.draft?.devices ?? []).filter(
    (device) =>
      device.kind !== 'hosts' &&
      device.ports.some(
        (p) => index.value && specOf(index.value, { deviceId: device.id, portId: p.id })?.load,
      ),
  ),
)
</script>

<template>
  <section v-if="plan.draft && power && site" class="sheet">
    <header>
      <h1>Power</h1>
      <span class="tools">
        <VSelect v-model="model" label="Room for" :items="loads" :item-title="titleOf" item-value="name" />
        <UndoRedo />
      </span>
      <p>
        By class: what a source reserves. By draw: what is typically taken, with the loss of the cable.
        {{ site.poeHeadroomPct }} % of each budget is kept free.
      </p>
    </header>

    <div class="budgets">
      <section v-for="s in power.sources" :key="s.deviceId" class="budget">
        <h2>
          {{ names?.device(s.deviceId) }} <span class="soft mono">{{ s.budgetW }} W</span>
        </h2>
        <div
          class="bar"
          role="img"
          :aria-label="`${wattsText(s.drawW)} W drawn and ${wattsText(s.classW)} W reserved of ${s.budgetW} W`"
        >
          <span class="class" :style="{ width: share(s.classW, s.budgetW) }" />
          <span
            class="draw"
            :class="{ over: s.drawW > s.budgetW * (1 - site.poeHeadroomPct / 100) }"
            :style="{ width: share(s.drawW, s.budgetW) }"
          />
          <span
            class="free"
            :style="{ left: share(s.budgetW * (1 - site.poeHeadroomPct / 100), s.budgetW) }"
          />
        </div>
        <p class="small mono">
          class {{ wattsText(s.classW) }} · draw {{ wattsText(s.drawW) }} ·
          {{ Math.round(100 - (100 * s.drawW) / s.budgetW) }} % free
        </p>
        <p class="small">{{ roomIn(s) }}</p>
      </section>
    </div>

    <FeedTable :power="power" @own-supply="(id) => setMains(id, true)" />

    <div class="two">
      <section>
        <h2>The whole site</h2>
        <dl>
          <dt>From the wall</dt>
          <dd class="mono">{{ wattsText(power.siteW) }} W</dd>
          <dt>Battery lasts</dt>
          <dd class="mono">{{ upsMin === null ? 'no battery noted' : runTimeWords(upsMin) }}</dd>
          <dt>A year</dt>
          <dd class="mono">
            {{ Math.round(kwh).toLocaleString('en') }} kWh, {{ (kwh * site.pricePerKwh).toFixed(0) }}
            {{ site.currency }}
          </dd>
        </dl>
        <p class="small soft">
          Devices' own supplies pass on {{ 100 * SUPPLY_EFFICIENCY }} % (common practice).
          {{ onMains.length }} devices of known models are on the mains; hosts of unknown models are not
          counted. Mains work is for licensed people.
        </p>
      </section>
      <section class="fields">
        <TypedFields :fields="fields" :owner="plan.slug" />
        <div v-if="takers.length > 0" class="own">
          <span class="label">Own supply instead of the cable</span
          ><VSwitch
            v-for="d in takers"
            :key="d.id"
            :model-value="d.mains"
            :disabled="!session.edits"
            @update:model-value="setMains(d.id, !d.mains)"
            :label="d.name"
          />
        </div>
      </section>
    </div>
  </section>
</template>

<style scoped>
.own {
  --v-selection-control-size: 24px;
}
.budgets {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(300px, 1fr));
  gap: 10px 24px;
  margin-bottom: 12px;
}
.bar {
  position: relative;
  height: 18px;
  border: 1px solid var(--ink);
  background: var(--panel);
  margin: 3px 0;
}
.bar span {
  position: absolute;
  left: 0;
  top: 0;
  bottom: 0;
}
.bar .class {
  background: repeating-linear-gradient(135deg, var(--line) 0 1px, transparent 1px 5px);
  border-right: 1px solid var(--soft);
}
.bar .draw {
  background: var(--deep);
  top: 5px;
  bottom: 5px;
}
.bar .draw.over {
  background: var(--brick);
}
.bar .free {
  border-left: 2px dashed var(--magenta);
}
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px 28px;
  margin-top: 14px;
}
dl {
  display: grid;
  grid-template-columns: 130px 1fr;
  gap: 3px 8px;
  margin: 4px 0 8px;
}
dd {
  margin: 0;
  font-weight: 700;
}
.fields {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px 14px;
  align-content: start;
}
.own {
  grid-column: 1 / -1;
}
@media (max-width: 899px) {
  .two {
    grid-template-columns: 1fr;
  }
}
</style>
