<script setup lang="ts">
import type { NewAuthenticator, RecoveryCodes } from '#contracts/factors'
import type { Problem } from '#core/util'
import { api } from '~/stores/api'
import AppDialog from '~/ui/AppDialog.vue'
import { openAbout } from '~/ui/opened'
import { codeOf } from '~/ui/qr-code'
import { reasonOf } from '~/wording/problems'

/** Shows a new authenticator's secret once, and asks for a code of it. */
const begun = defineModel<NewAuthenticator | null>({ required: true })
const emit = defineEmits<{ confirmed: [codes: RecoveryCodes] }>()
const isOpen = openAbout(begun)
const picture = ref('')
const code = ref('')
const problems = shallowRef<readonly Problem[]>([])
const field = useTemplateRef<{ focus: () => void }>('field')
watch(field, (shown) => shown?.focus())
watch(begun, async (now) => {
  code.value = picture.value = ''
  problems.value = []
  if (now) picture.value = `data:image/svg+xml,${encodeURIComponent(await codeOf(now.uri))}`
})
const inFours = computed(() => begun.value?.secret.match(/.{1,4}/g)?.join(' ') ?? '')

async function confirm(): Promise<void> {
  if (code.value.trim() === '') return
  const answer = await api<RecoveryCodes>('POST', 'me/totp/confirm', { code: code.value.trim() })
  problems.value = answer.ok ? [] : answer.refusal.problems
  if (!answer.ok) return
  begun.value = null
  emit('confirmed', answer.value)
}
</script>

<template>
  <AppDialog v-model="isOpen" title="Scan it with the app" :width="520" persistent @submit="confirm">
    <div class="both">
      <img
        v-if="picture"
        :src="picture"
        alt="Code to scan with an authenticator app"
        width="180"
        height="180"
      />
      <div>
        <p>Or type this into it:</p>
        <p class="mono secret">{{ inFours }}</p>
        <p class="soft">Codes of six digits, a new one every 30 s.</p>
      </div>
    </div>
    <VTextField
      ref="field"
      v-model="code"
      label="Code that the app shows"
      class="mono"
      inputmode="numeric"
      autocomplete="one-time-code"
      maxlength="12"
      required
    />
    <p v-for="problem in problems" :key="problem.code" class="wrong-words" role="alert">
      Not set up: {{ reasonOf(problem) }}.
    </p>
    <template #actions>
      <VBtn @click="isOpen = false">Cancel</VBtn>
      <VBtn type="submit" variant="flat" :disabled="code.trim() === ''">Set it up</VBtn>
    </template>
  </AppDialog>
</template>

<style scoped>
.both {
  display: flex;
  flex-wrap: wrap;
  gap: 16px;
  margin-bottom: 12px;
}
.both > div {
  flex: 1 1 200px;
}
.secret {
  font-size: 16px;
  word-break: break-word;
}
img {
  background: #fff;
}
</style>
