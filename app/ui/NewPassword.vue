<script setup lang="ts">
import { LEAST_GUESSES, LEAST_PASSWORD, MOST_PASSWORD } from '#contracts/limits'
import { passwordWords } from '~/wording/passwords'

/** A new password, judged while it is typed: what anybody who knows the person would try counts as known. */
const password = defineModel<string>({ required: true })
const good = defineModel<boolean>('good', { required: true })
const {
  whose,
  label = 'Password',
  carriesName = true,
} = defineProps<{
  /** Whose it will be. */
  whose: string
  label?: string
  /** Carries the name in a field that nobody sees: what keeps passwords wants to know whose it is. */
  carriesName?: boolean
}>()
const isShown = ref(false)
const verdict = ref('')

watch([password, () => whose], async () => {
  const typed = password.value
  good.value = false
  if (typed.length < LEAST_PASSWORD) {
    verdict.value = typed === '' ? '' : passwordWords.short(LEAST_PASSWORD - typed.length)
    return
  }
  const { guessesOf } = await import('#contracts/guesses')
  if (typed !== password.value) return
  const isHard = guessesOf(typed, ['Able Mast', whose]) >= LEAST_GUESSES
  good.value = isHard
  verdict.value = isHard ? passwordWords.fine : passwordWords.weak
})
</script>

<template>
  <input
    v-if="carriesName"
    class="sr"
    name="username"
    autocomplete="username"
    aria-label="Name"
    :value="whose"
    readonly
    tabindex="-1"
  />
  <VTextField
    v-model="password"
    :label="label"
    :type="isShown ? 'text' : 'password'"
    name="new-password"
    autocomplete="new-password"
    spellcheck="false"
    :maxlength="MOST_PASSWORD"
    :hint="`At least ${LEAST_PASSWORD} characters; several words that do not belong together are easy to keep in mind.`"
    persistent-hint
    required
  />
  <VCheckbox v-model="isShown" label="Show what is typed" hide-details />
  <p role="status" class="small" :class="{ 'wrong-words': verdict !== '' && !good }">{{ verdict }}</p>
</template>
