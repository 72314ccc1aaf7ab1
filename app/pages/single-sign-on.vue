<script setup lang="ts">
import type { Problem } from '#core/util'
import { PROVIDER_PATHS, purposeOf } from '~/features/account/provider'
import PlainFrame from '~/shell/PlainFrame.vue'
import { api } from '~/stores/api'
import { useSession } from '~/stores/session'
import ReadingNotice from '~/ui/ReadingNotice.vue'
import { sentenceOf } from '~/wording/problems'

/** Where the provider of single sign-on sends people back to. */
const session = useSession()
const problems = shallowRef<readonly Problem[]>([])
const purpose = purposeOf(location.search)
const isFailed = ref(purpose === null)
const HOME = { 'sign-in': '/sign-in', join: '/sign-in', connect: '/account' } as const

onMounted(async () => {
  if (!purpose) return
  const query = location.search.slice(1)
  // It is of no use a second time, and nobody else's business.
  history.replaceState(history.state, '', location.pathname)
  if (purpose === 'connect') {
    const answer = await api('POST', PROVIDER_PATHS.connect.answer, { query })
    problems.value = answer.ok ? [] : answer.refusal.problems
  } else problems.value = await session.enter(PROVIDER_PATHS[purpose].answer, { query })
  isFailed.value = problems.value.length > 0
  if (!isFailed.value) await navigateTo(purpose === 'connect' ? '/account' : '/', { replace: true })
})
</script>

<template>
  <PlainFrame>
    <ReadingNotice v-if="!isFailed" words="Asking who you are" />
    <div v-else class="told" role="alert">
      <h1>{{ purpose === 'connect' ? 'Not connected' : 'Not signed in' }}</h1>
      <p v-for="problem in problems" :key="problem.code">{{ sentenceOf(problem) }}</p>
      <p v-if="!purpose">This page is where single sign-on comes back to; nobody was sent there.</p>
      <p>
        <NuxtLink :to="HOME[purpose ?? 'sign-in']">{{
          purpose === 'connect' ? 'To your account' : 'To the sign-in page'
        }}</NuxtLink>
      </p>
    </div>
  </PlainFrame>
</template>

<style scoped>
.told {
  max-width: 480px;
}
</style>
