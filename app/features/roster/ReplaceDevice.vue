<script setup lang="ts">
import { parseSerial } from '#core/queries'
import type { Problem } from '#core/util'
import type { RosterRow } from '#contracts/api'
import { useSite } from '~/stores/site'
import { reasonOf } from '~/wording/problems'
import AppDialog from '~/ui/AppDialog.vue'

/** A device in service gets another box, or none: who served before is kept in the roster. */
const row = defineModel<RosterRow | null>({ required: true })
const { name } = defineProps<{ name: string }>()
const site = useSite()
const next = ref('')
const busy = ref(false)
/** Why the last try of this dialog was refused. */
const refused = shallowRef<readonly Problem[]>([])
const open = computed({ get: () => row.value !== null, set: (shown) => !shown && close() })
const checked = computed(() => (next.value.trim() === '' ? null : parseSerial(next.value)))
const wrong = computed(() => {
  if (!checked.value) return ''
  if (!checked.value.ok) return checked.value.problems.map(reasonOf).join('; ')
  const { kind } = checked.value.value
  return kind === 'product' ? '' : `this is a ${kind} number; the product serial starts with GH`
})
const canReplace = computed(() => !busy.value && checked.value !== null && wrong.value === '')

function close(): void {
  row.value = null
  next.value = ''
  refused.value = []
}
async function finish(ask: (serial: string) => Promise<boolean>): Promise<void> {
  busy.value = true
  const done = await ask(row.value?.serial ?? '')
  busy.value = false
  refused.value = done ? [] : site.problems
  if (done) close()
}
const replace = () => finish((serial) => site.replace(serial, next.value))
const release = () => finish(site.release)
</script>

<template>
  <AppDialog v-model="open" :title="`Replace or release ${name}`" @submit="canReplace && replace()">
    <p>
      <b class="mono">{{ row?.serial }}</b> serves as {{ name }} now. It keeps its configuration until it is
      reset, but the controller no longer answers it. What it reported stays in the roster.
    </p>
    <VTextField
      v-model="next"
      label="Serial of the new box"
      placeholder="GH-xxxx-xxxx"
      :error-messages="wrong"
      autocapitalize="characters"
      autocomplete="off"
      spellcheck="false"
      class="mono"
    />
    <div v-if="refused.length > 0" role="alert">
      <p v-for="(problem, i) in refused" :key="i" class="wrong-words">
        Nothing was changed: {{ reasonOf(problem) }}.
      </p>
    </div>
    <template #actions>
      <VBtn variant="flat" :disabled="!canReplace" @click="replace">Replace</VBtn>
      <VBtn :disabled="busy" @click="release">Release without a new one</VBtn>
      <VBtn @click="close">Cancel</VBtn>
    </template>
  </AppDialog>
</template>
