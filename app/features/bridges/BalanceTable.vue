<script setup lang="ts">
import { budgetFrom, type RadioLink } from '#core/radio'
import { dbWords, levelWords, STEP_WORDS } from './words'

/** What a transmitter sends, what is lost and gained on the way, and what arrives, both ways. */
const { path, names } = defineProps<{
  path: NonNullable<RadioLink['path']>
  names: readonly [string, string]
}>()
/** Less than this is not seen in tenths. */
const LEAST_SHOWN_DB = 0.05
const ways = computed(() =>
  ([0, 1] as const).map((from) => ({
    from,
    name: `From ${names[from]} to ${names[from === 0 ? 1 : 0]}`,
    steps: budgetFrom(path, from).steps.filter(
      ({ code, db }) => code === 'power' || Math.abs(db) >= LEAST_SHOWN_DB,
    ),
  })),
)
/** Where a level stands between -110 and +50 dBm, which all of a link's lie between. */
const share = (levelDbm: number) => `${Math.min(100, Math.max(0, ((levelDbm + 110) / 160) * 100))}%`
</script>

<template>
  <div class="ways">
    <VTable v-for="way in ways" :key="way.from" class="ruled">
      <caption>
        {{
          way.name
        }}
      </caption>
      <thead>
        <tr>
          <th>Step</th>
          <th class="num">dB</th>
          <th class="num">Level, dBm</th>
          <th class="bar"><span class="sr">drawn</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="step in way.steps" :key="step.code">
          <td>{{ STEP_WORDS[step.code] }}</td>
          <td class="num mono">{{ dbWords(step.db) }}</td>
          <td class="num mono">{{ levelWords(step.levelDbm) }}</td>
          <td class="bar" aria-hidden="true">
            <span :style="{ width: share(step.levelDbm) }" />
          </td>
        </tr>
      </tbody>
    </VTable>
  </div>
</template>

<style scoped>
.ways {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 16px;
  margin-top: 14px;
}
caption {
  text-align: left;
  font-weight: 700;
  padding: 6px 8px;
}
.bar {
  width: 28%;
}
.bar span {
  display: block;
  height: 8px;
  background: var(--deep);
}
@media (max-width: 899px) {
  .ways {
    grid-template-columns: 1fr;
  }
}
</style>
