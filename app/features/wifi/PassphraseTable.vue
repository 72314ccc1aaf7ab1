<script setup lang="ts">
import type { Ssid } from '#core/schema'
import { hasPassphrase, isOpen } from '#core/wifi'
import { usePassphrases, usePassphraseVerdict } from './passphrases'
import { keptWords, sameWords, verdictWords } from './words'
import { usePlan } from '~/stores/plan'
import { useSession } from '~/stores/session'
import { sentenceOf } from '~/wording/problems'

/** The passphrase of each SSID that is joined by one: generated or typed, sealed, and shown when somebody asks. */
const plan = usePlan()
const session = useSession()
const ssids = computed(() => (plan.draft?.ssids ?? []).filter((one) => hasPassphrase(one) || isOpen(one)))
const cardOf = (id: string) => `/cards/${plan.slug}?ssid=${encodeURIComponent(id)}`
const { kept, shown, problems, sameAs, set, show } = usePassphrases()
const keptOf = ({ id }: Ssid) => kept.value.find(({ ssidId }) => ssidId === id) ?? null

const typing = ref<string | null>(null)
const text = ref('')
const field = useTemplateRef<{ focus: () => void }[]>('field')
watch(field, (there) => there?.[0]?.focus())
const known = () => [plan.draft?.site.name ?? '', ...ssids.value.map(({ name }) => name)]
const verdict = usePassphraseVerdict(() => text.value, known)
function type({ id }: Ssid): void {
  typing.value = id
  text.value = ''
}
async function keep(): Promise<void> {
  const isKept = typing.value !== null && (await set(typing.value, text.value))
  if (isKept) typing.value = null
}
const shownName = computed(() => ssids.value.find(({ id }) => id === shown.value?.ssidId)?.name ?? '')
</script>

<template>
  <section aria-labelledby="passphrases">
    <h2 id="passphrases">Passphrases</h2>
    <p v-if="ssids.length === 0" class="small soft">
      No SSID is open, or joined by a passphrase, yet: choose WPA2 or WPA3 as its security.
    </p>
    <VTable v-else class="ruled" aria-label="Passphrases">
      <thead>
        <tr>
          <th>SSID</th>
          <th>Passphrase</th>
          <th><span class="sr">What can be done</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="ssid in ssids" :key="ssid.id">
          <td>
            <b>{{ ssid.name }}</b>
          </td>
          <td v-if="isOpen(ssid)">none: anybody joins</td>
          <td v-else>
            <form
              v-if="typing === ssid.id"
              class="typing"
              @submit.prevent="keep"
              @keydown.esc="typing = null"
            >
              <VTextField
                ref="field"
                v-model="text"
                :label="`Passphrase of ${ssid.name}`"
                autocomplete="off"
                spellcheck="false"
                maxlength="63"
              />
              <VBtn type="submit">Keep it</VBtn>
              <VBtn @click="typing = null">Cancel</VBtn>
              <p v-if="verdict" role="status" class="small">
                <b :class="verdict.isFine ? 'fine' : 'wrong-words'">{{ verdict.isFine ? 'Fine' : 'Weak' }}</b>
                {{ verdictWords(verdict) }}
              </p>
            </form>
            <template v-else>{{ keptWords(keptOf(ssid)) }}</template>
          </td>
          <td>
            <span class="tools">
              <VBtn v-if="isOpen(ssid)" :to="cardOf(ssid.id)" :aria-label="`A card of ${ssid.name} to print`">
                A card to print
              </VBtn>
              <template v-else-if="session.edits && typing !== ssid.id">
                <VBtn :aria-label="`Generate a passphrase for ${ssid.name}`" @click="set(ssid.id, null)">
                  {{ keptOf(ssid) ? 'Generate a new one' : 'Generate one' }}
                </VBtn>
                <VBtn :aria-label="`Type the passphrase of ${ssid.name}`" @click="type(ssid)">Type it</VBtn>
              </template>
              <VBtn
                v-if="hasPassphrase(ssid) && keptOf(ssid)"
                :aria-label="`Show the passphrase of ${ssid.name}`"
                @click="show(ssid.id)"
              >
                Show
              </VBtn>
            </span>
          </td>
        </tr>
      </tbody>
    </VTable>
    <p v-for="(one, i) in problems" :key="i" class="wrong-words" role="alert">{{ sentenceOf(one) }}</p>
    <p v-if="sameAs.length > 0" class="wrong-words" role="alert">{{ sameWords(sameAs) }}</p>
    <div v-if="shown" class="shown" role="group" :aria-label="`Passphrase of ${shownName}`">
      <!-- eslint-disable-next-line vue/no-v-html -- made here from the text beside it -->
      <div class="code" role="img" aria-label="Code by which a telephone joins" v-html="shown.code" />
      <div>
        <p>
          <b>{{ shownName }}</b>
        </p>
        <p class="secret mono">{{ shown.passphrase }}</p>
        <p class="small soft">
          Pre-shared key, where a device asks for 64 digits:
          <span class="mono key">{{ shown.preSharedKey }}</span>
        </p>
        <span class="tools">
          <VBtn variant="flat" :to="cardOf(shown.ssidId)"> A card to print </VBtn>
          <VBtn @click="shown = null">Hide it</VBtn>
        </span>
      </div>
    </div>
    <p v-if="ssids.length > 0" class="small soft">
      Kept sealed on this server, in no file of the plan; who set it and who was shown it last is kept with
      it. A new passphrase has to be told to every access point and every station.
    </p>
  </section>
</template>

<style scoped>
h2 {
  margin: 16px 0 6px;
}
.typing {
  display: grid;
  grid-template-columns: minmax(160px, 1fr) auto auto;
  gap: 8px;
  align-items: center;
  padding: 6px 0;
}
.typing p {
  grid-column: 1 / -1;
}
.fine {
  color: var(--kelp);
}
.shown {
  display: grid;
  grid-template-columns: 150px 1fr;
  gap: 16px;
  align-items: center;
  margin: 12px 0;
  padding: 10px;
  border: 1px solid var(--line);
}
.code :deep(svg) {
  display: block;
  width: 150px;
  height: 150px;
}
td .tools,
.shown .tools {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  padding: 4px 0;
}
.secret {
  font-size: 20px;
  overflow-wrap: anywhere;
}
.key {
  overflow-wrap: anywhere;
}
@media (max-width: 599px) {
  .typing,
  .shown {
    grid-template-columns: 1fr;
  }
}
</style>
