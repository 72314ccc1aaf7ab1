<script setup lang="ts">
import { judgePeak, TOLERANCE_DB } from '#core/radio'
import { parseReading } from '#core/wifi'
import { useAimedLink } from './aimed-link'
import KeepAim from './KeepAim.vue'
import LevelBar from './LevelBar.vue'
import SimulatedAntenna from './SimulatedAntenna.vue'
import { useSpokenLevel, type Voice } from './spoken'
import { degrees, verdictWords } from './words'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import { useSite } from '~/stores/site'
import { ruleOf } from '~/ui/columns'
import { sentenceOf } from '~/wording/problems'

/** Turning an antenna until it reads most: made for a telephone in a hand or a pocket. */
const plan = usePlan()
const site = useSite()
const session = useSession()
const { all, chosen, aimed, expected, wanted, level, farLevel, highestDbm, begin, test } = useAimedLink()

const voice = ref<Voice>('silent')
const dBm = computed(() => level.value?.dBm ?? null)
const { hasVoice } = useSpokenLevel(
  () => dBm.value,
  () => voice.value,
)

const typed = ref('')
const isReading = ruleOf(parseReading)
async function report(): Promise<void> {
  if (!aimed.value || isReading(typed.value) !== true) return
  if (await site.reportLevel(aimed.value.link.id, aimed.value.end, typed.value.trim())) typed.value = ''
}

const simulating = ref(false)
const isPeaked = ref(false)
watch(
  () => aimed.value?.value,
  () => (isPeaked.value = simulating.value = false),
)
const verdict = computed(() =>
  dBm.value === null || expected.value === null ? null : judgePeak(dBm.value, expected.value, TOLERANCE_DB),
)
const kept = ref('')
function keepDone(): void {
  kept.value = aimed.value?.title ?? ''
  isPeaked.value = simulating.value = false
  begin()
}
</script>

<template>
  <section v-if="plan.draft" class="sheet aiming">
    <header>
      <h1>Aiming</h1>
    </header>
    <p v-if="!aimed" class="soft">
      No radio link yet: two wireless bridges are joined on
      <NuxtLink :to="`/sites/${plan.slug}/bridges`">Bridges</NuxtLink>.
    </p>
    <template v-else>
      <VSelect
        :model-value="aimed.value"
        label="Antenna"
        :items="all"
        @update:model-value="chosen = $event"
      />
      <dl class="target">
        <div>
          <dt>Compass</dt>
          <dd class="mono">{{ wanted.compassDeg === null ? '—' : degrees(wanted.compassDeg) }}</dd>
        </div>
        <div>
          <dt>True</dt>
          <dd class="mono">{{ wanted.trueDeg === null ? '—' : degrees(wanted.trueDeg) }}</dd>
        </div>
        <div>
          <dt>Tilt</dt>
          <dd class="mono">{{ wanted.tiltDeg === null ? '—' : degrees(wanted.tiltDeg) }}</dd>
        </div>
      </dl>
      <p v-if="wanted.seen" class="small">Seen in that direction: {{ wanted.seen }}.</p>
      <p v-if="expected === null" class="small soft">
        What it is to read is not computed yet:
        <NuxtLink :to="`/sites/${plan.slug}/bridges`">Bridges</NuxtLink> says what is missing.
      </p>
      <p class="caution small">
        <template v-if="wanted.exposureM !== null"
          >Stay out of the beam, at least {{ Math.max(0.1, wanted.exposureM).toFixed(1) }} m in front.
        </template>
        Work at heights is for people trained and secured for it, never alone, not in wind or near lightning.
        Local codes decide.
      </p>

      <LevelBar :d-bm="dBm" :highest-dbm="highestDbm" :expected-dbm="expected" />

      <form v-if="session.works" class="typed" @submit.prevent="report">
        <VTextField
          v-model="typed"
          label="Reading"
          placeholder="-61 dBm, or 78 %"
          persistent-placeholder
          class="mono"
          maxlength="20"
          autocomplete="off"
          :rules="[(text: string) => text === '' || isReading(text)]"
        />
        <VBtn type="submit">Take</VBtn>
      </form>
      <p v-for="(p, i) in isPeaked ? [] : site.problems" :key="i" class="wrong-words" role="alert">
        {{ sentenceOf(p) }}
      </p>
      <VRadioGroup v-model="voice" inline label="Hear it" class="voice">
        <VRadio value="silent" label="Silent" />
        <VRadio value="spoken" label="Spoken" />
        <VRadio value="tone" label="Tone" />
      </VRadioGroup>
      <p v-if="voice === 'spoken' && !hasVoice" class="small soft" role="status">
        This browser has no voice: a tone is heard instead.
      </p>

      <template v-if="session.works">
        <VSwitch v-if="expected !== null" v-model="simulating" label="Use the lab’s simulated radios" />
        <SimulatedAntenna
          v-if="simulating && wanted.tiltDeg !== null"
          :link-id="aimed.link.id"
          :end="aimed.end"
          :wanted="{ azimuthDeg: wanted.labDeg, tiltDeg: wanted.tiltDeg }"
        />
        <VBtn v-if="verdict && !isPeaked" variant="flat" block @click="isPeaked = true">
          It gets no higher
        </VBtn>
        <template v-if="verdict && isPeaked && dBm !== null">
          <p role="status" class="verdict">
            <b :class="verdict.kind === 'as-computed' ? 'fine' : 'wrong-words'">{{
              verdictWords(verdict, wanted.gainDbi)
            }}</b>
          </p>
          <VBtn v-if="verdict.kind !== 'as-computed'" block @click="isPeaked = false">Go on turning</VBtn>
          <KeepAim
            v-if="test"
            :test="test"
            :device-name="aimed.deviceName"
            :d-bm="dBm"
            :passed="verdict.kind === 'as-computed'"
            :far-dbm="farLevel?.dBm ?? null"
            @kept="keepDone"
          />
        </template>
      </template>
      <p v-if="kept" role="status" class="small">
        Kept: {{ kept }}.
        <NuxtLink :to="`/sites/${plan.slug}/prove`">Acceptance tests</NuxtLink>
      </p>
    </template>
  </section>
</template>

<style scoped>
.aiming {
  max-width: 560px;
}
.aiming > * + * {
  margin-top: 10px;
}
.target {
  display: flex;
  justify-content: space-between;
  margin-bottom: 0;
}
.target dd {
  margin: 0;
  font-weight: 700;
  font-size: 18px;
}
.typed {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 8px;
  align-items: start;
}
.caution {
  border-left: 3px solid var(--ochre);
  padding-left: 8px;
}
.voice :deep(.v-label) {
  margin-inline-start: 0;
}
.fine {
  color: var(--kelp);
}
</style>
