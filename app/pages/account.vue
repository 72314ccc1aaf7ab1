<script setup lang="ts">
import HomeFrame from '~/shell/HomeFrame.vue'
import ApiTokens from '~/features/account/ApiTokens.vue'
import ChangePassword from '~/features/account/ChangePassword.vue'
import SecondFactors from '~/features/account/SecondFactors.vue'
import SingleSignOn from '~/features/account/SingleSignOn.vue'
import SessionList from '~/features/account/SessionList.vue'

/** One's own account: the password, and where one is signed in. */
const sessions = useTemplateRef<{ read: () => void }>('sessions')
</script>

<template>
  <HomeFrame>
    <header><h1>Your account</h1></header>
    <div class="parts">
      <ChangePassword @changed="sessions?.read()" />
      <SingleSignOn />
      <SecondFactors />
      <ApiTokens />
      <SessionList ref="sessions" />
    </div>
  </HomeFrame>
</template>

<style scoped>
.parts {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 32px;
}
</style>
